// Formulas as text: the plain form that results are told in, and LaTeX.
//
//   math_text(*parse_math("\\frac{x^2}{2}"))   // "x^2/2"
#pragma once

#include <string>
#include <string_view>

#include "math/math_tree.h"

namespace fernleaf {

// parse_math() reads what either gives back as the same tree, but for brackets that change nothing.
std::string math_text(const MathTree& tree);
std::string math_latex(const MathTree& tree);

// What a person typed as LaTeX that can be set: LaTeX stays as it is, plain forms with functions by name, fractions or
// powers in brackets are turned into it ("sqrt(2)/3"). Empty: it can't be set.
std::string latex_of_typed(std::string_view typed, bool decimal_comma);

}  // namespace fernleaf
