// Parts what ties lines of writing together in a scan: where a tail reaches into a tall letter of the line below, two
// words of two lines are one piece of connected ink.
//
// Method: pieces of usual height are grouped into lines; of a piece that is higher and that two or more of these lines
// run through, the ink at each line's height belongs to that line, and every other pixel to the line it is nearest to
// along the ink, so that the cut falls where tail and letter touch. (Louloudis, Gatos, Pratikakis & Halatsis 2009,
// "Text line and word segmentation of handwritten documents", part such components at the junctions of their skeleton
// between two lines; distance along the ink finds these places without a skeleton.) A piece is left whole where it has
// no width of writing at the lines' heights: a box, a bracket or an arrow beside them.
#pragma once

#include "paper/ink_mask.h"

namespace fernleaf {

// Pieces that tie lines are replaced by their parts, each with a label of its own; nothing else changes. How many were.
int part_tied_lines(InkMask& ink);

}  // namespace fernleaf
