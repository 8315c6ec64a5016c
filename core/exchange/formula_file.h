// Formulas as a LaTeX document.
//
//   std::string text = formulas_tex(readings);      // compiles with amsmath; empty: there are none
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "transcript/reading.h"

namespace fernleaf {

// A formula as it stands in a document: signs that LaTeX takes for something else are escaped.
std::string document_latex(std::string_view formula);

// All formulas of pages, page by page, each set by itself, with what it comes to beside it or, of a
// sum that was worked out by hand, what is wrong.
std::string formulas_tex(const std::vector<Reading>& pages);

}  // namespace fernleaf
