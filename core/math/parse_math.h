// Formulas from text: LaTeX as it is written by hand and by programs, and plain forms such as x^2-16=0.
//
//   auto tree = parse_math(R"(\frac{3}{4} + 2x = 5)");
//
// Letters that stand together are multiplied, unless they spell a function (sin, ln, sqrt); \text and \operatorname
// make one name. A comma between digits is a decimal sign where decimal_comma says so. Rows of cases, and relations
// parted by \\, ; or "and", hold together. A sign of equality with nothing behind it asks for the result.
#pragma once

#include <string_view>

#include "base/result.h"
#include "math/math_tree.h"

namespace fernleaf {

// Fails with one sentence that says what is wrong, and where a command is not known its name.
Result<MathTree> parse_math(std::string_view text, bool decimal_comma = false);
constexpr size_t kLongestMath = 20'000;  // bytes

}  // namespace fernleaf
