// Finds what is drawn on a picture of a page, among what is written: boxes, arrows, the rules of tables.
//
//   const DrawnOnPage drawn = drawn_on_page(ink);
//
// Ink and rules as dark as ink (those printed to write on are paler) are taken together again; what is as large as a
// figure is traced as a pen goes (stroke_tracing.h), a way that comes back to itself and goes on being two; all else
// counts as a letter. Then it is told as on a page of strokes (drawing/drawn_ink.h, drawing/table_finding.h), lengths
// being measured in letters, for nothing tells how large the page is.
#pragma once

#include "drawing/table_finding.h"
#include "paper/ink_mask.h"
#include "transcript/read_shape.h"

namespace fernleaf {

struct DrawnOnPage {
    std::vector<bool> drawn;         // for each piece of the ink
    std::vector<ReadShape> shapes;   // px of the mask; without strokes
    std::vector<FoundTable> tables;  // px of the mask; without rules and ink
    bool empty() const { return shapes.empty() && tables.empty(); }
};

DrawnOnPage drawn_on_page(const InkMask& ink);

}  // namespace fernleaf
