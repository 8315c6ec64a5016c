// A table of lines that no rules part: rows are lines, and columns are where all of them leave a gap.
//
//   std::vector<ReadLine> region = table_by_gaps(lines);   // a grid, and the lines of its cells
#pragma once

#include "transcript/reading.h"

namespace fernleaf {

// The lines must be text, and some must have words. A line is cut where columns begin, and has no signature then: part
// of it must not be taken for all of it by a later reading. The grid comes first.
std::vector<ReadLine> table_by_gaps(const std::vector<ReadLine>& lines);

}  // namespace fernleaf
