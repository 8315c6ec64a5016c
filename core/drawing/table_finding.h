// Finds tables among a page's strokes: grids of rules, with or without a frame, and what is written in their cells.
//
//   for (const FoundTable& found : tables_in(strokes))
//       for (size_t cell = 0; cell < found.table.cells.size(); ++cell) read(found.ink[cell]);
//
// Method: level and upright runs of strokes are rules. Rules that touch are one grid; rules at one height (or one
// distance from the left) are one line of it, also where they are drawn in pieces or as a frame in one stroke. Cells
// between which no rule was drawn are merged. It is a table only if each of its four sides is either drawn all along or
// not at all: figures of a diagram that stand beside one another and are linked are rules that touch, too. What has
// rules one way only is told by ruled_rows.h. The steps are those known from scanned forms and tables (Watanabe, Luo &
// Sugie 1995, "Layout recognition of multi-kinds of table- form documents"), over the pen's way in place of pixels.
#pragma once

#include "drawing/found_table.h"
#include "ink/stroke.h"

namespace fernleaf {

// The tables of a page; no stroke is in two. typed: boxes of words that are not ink, mm; they fill cells as well. said:
// a person said that these strokes are a table, so that also two cells are one.
std::vector<FoundTable> tables_in(const std::vector<Stroke>& strokes, const std::vector<Box>& typed = {},
                                  bool said = false);

}  // namespace fernleaf
