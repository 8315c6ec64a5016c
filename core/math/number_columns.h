// Numbers that stand below one another over a line, as sums are written by hand: with what they come to below the line,
// or without.
//
//   for (const NumberColumn& column : number_columns(reading, loose))
//       column.latex;   // "\\begin{array}{r} 12 \\\\ 30 \\\\ \\hline 42 \\end{array}"
#pragma once

#include <string>
#include <utility>
#include <vector>

#include "transcript/reading.h"

namespace fernleaf {

struct NumberColumn {
    std::vector<size_t> lines;  // of the reading, from the top
    StrokeId line = 0;          // below the numbers
    std::string latex;
    double certainty = 0;  // of the least certain number
};

// loose: strokes in no line of words, with their boxes. No line is in two columns. Lines of typed words, and those
// in a table, are in none.
std::vector<NumberColumn> number_columns(const Reading& reading, const std::vector<std::pair<StrokeId, Box>>& loose);

}  // namespace fernleaf
