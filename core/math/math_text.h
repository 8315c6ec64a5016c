// Formulas as text: the plain form that results are told in, and LaTeX.
//
//   math_text(*parse_math("\\frac{x^2}{2}"))   // "x^2/2"
#pragma once

#include <string>

#include "math/math_tree.h"

namespace fernleaf {

// parse_math() reads what either gives back as the same tree, but for brackets that change nothing.
std::string math_text(const MathTree& tree);
std::string math_latex(const MathTree& tree);

}  // namespace fernleaf
