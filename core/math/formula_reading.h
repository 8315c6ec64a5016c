// Reads a formula from its strokes, which may have come in any order: which strokes make a sign, which sign it is, and
// how signs stand to one another, all at once.
//
//   auto weights = load_formula_weights("models");
//   FormulaReading reading = read_formula(strokes, **weights, {});
//   reading.latex;      // "\\frac{x^{2}}{3}+1"
//
// Groups of strokes near one another are hypotheses of signs, told by a small network over their forms (sign_form.h),
// which knows groups that are none, too. Parts are then put together, the smaller first, to ever larger ones, as a
// chart parser does over sets of strokes in the plane (Álvaro, Sánchez & Benedí, "Recognition of on-line handwritten
// mathematical expressions using 2D stochastic context-free grammars and hidden Markov models", Pattern Recognition
// Letters 2014): rows, powers and indices, fractions, roots, bounds. How likely two stand so, another network tells
// from their places and sizes, and what follows what a table. Several readings of the same strokes are kept on the way,
// so that a letter is told by its neighbours' size and a stroke by the sign it completes. Figures: docs/math.md.
#pragma once

#include <string>
#include <vector>

#include "base/cancel.h"
#include "ink/stroke.h"
#include "math/formula_weights.h"
#include "math/sign_memory.h"

namespace fernleaf {

struct SignAlternative {
    std::string latex;
    double certainty = 0;
};

struct ReadSign {
    std::string latex;
    double certainty = 0;  // 0 to 1
    Box box;
    std::vector<size_t> strokes;  // of those given
    std::vector<SignAlternative> alternatives;
    bool said = false;  // by a person
};

struct FormulaReading {
    std::string latex;            // empty: nothing was read
    std::string pattern;          // the same with \x01, its number in signs and \x02 in each sign's place
    double certainty = 0;         // 0 to 1: the geometric mean over its signs, less where not all hangs together
    std::vector<ReadSign> signs;  // in the order in which they stand in the LaTeX
};

// The geometric mean of the signs' certainties; 0 without signs.
double certainty_of(const std::vector<ReadSign>& signs);
// Sets a reading's LaTeX from its pattern and signs.
void spell(FormulaReading& reading);
// What stands for a sign in a pattern, by its number.
std::string sign_place(size_t sign);
// The LaTeX with one of its signs, or more, otherwise; one each of reading.signs.
std::string latex_with(const std::string& pattern, const std::vector<std::string>& signs);

// What a person said some strokes are: one sign, whatever their form.
struct SaidSign {
    std::vector<size_t> strokes;  // of those given, rising
    size_t sign = 0;              // of math_signs()
};

// strokes: of one formula, at most kMostFormulaStrokes; more are not read, nor are strokes without points. taught: by
// corrections of other formulas; strokes have ids where it is given. On cancel nothing is read. Safe to call from
// several threads.
FormulaReading read_formula(const std::vector<Stroke>& strokes, const FormulaWeights& weights,
                            const CancelToken& cancel = {}, const std::vector<SaidSign>& said = {},
                            const SignMemory* taught = nullptr);

}  // namespace fernleaf
