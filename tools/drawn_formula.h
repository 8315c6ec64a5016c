// Formulas as people write them: from LaTeX to strokes in a hand, with fractions, powers, indices, roots and bounds.
//
//   auto formula = written_formula("\\frac{x^{2}}{3}+1");
//   DrawnFormula ink = draw_formula(*formula, hand, manner, {20, 40}, random);
#pragma once

#include <optional>
#include <random>
#include <string>
#include <vector>

#include "demo/hand.h"
#include "math/written_math.h"

namespace fernleaf {

// What is written, as it lies on the page, sign by sign.
struct WrittenFormula {
    using Kind = WrittenMath::Kind;  // none is a name; a root has no index
    Kind kind = Kind::row;
    std::string latex = {};
    std::vector<WrittenFormula> parts = {};
    std::vector<size_t> strokes = {};  // of a sign, a fraction's bar or a root, once drawn
};

// Of LaTeX made of those; function names are written letter by letter. None: something in it is not known.
std::optional<WrittenFormula> written_formula(const std::string& latex);

struct FormulaManner {
    double x_height_mm = 2.4;
    double careless = 1;          // 0: like print; 1: as most people do
    bool kept_out_forms = false;  // signs in the forms that are kept out of training, and in no others
    Pen pen = {};
};

// at: the left end of its baseline, mm. Strokes come in the order in which people write them, mostly. The formula gets
// the places of its strokes.
std::vector<Stroke> draw_formula(WrittenFormula& formula, const Hand& hand, const FormulaManner& manner, Point at,
                                 std::mt19937& random);

// A formula by chance, of kinds that are met in school and trades.
std::string some_formula(std::mt19937& random);

}  // namespace fernleaf
