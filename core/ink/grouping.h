// Groups the strokes of a page into written lines, and sets drawings aside.
//
//   for (const InkLine& line : group_lines(strokes)) read(line);
//
// Method: strokes that touch are taken together, as a scan shows them. Text runs in lines whose distance is steady, so
// pieces are taken from left to right and each joins the line whose course (a straight line fitted to the centres of
// its last pieces) passes through it; marks written later (dots, crosses, accents) join the line they lie upon. Lines
// are then merged when they run on in one another across a gap that is no column gap, and ordered column by column. The
// ideas are those of Liwicki, Indermühle & Bunke (2007), "On-line handwritten text line detection using dynamic
// programming", with a greedy search.
#pragma once

#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

// What grouping needs to know of a stroke, or of a connected piece of ink in a scan.
struct InkComponent {
    Box box;
    double mean_y = 0;  // of the ink, weighted by length
    double ink = 0;     // length of ink, same unit as the box
};

struct InkLine {
    std::vector<size_t> members;  // indices into the strokes or shapes given, from left to right
    bool drawing = false;         // large or tangled: not text
    double slope = 0;             // of the baseline: dy / dx
    double size = 0;              // usual height of its strokes
    int region = 0;               // lines of one block or column share it; counted from 0 in reading order
    Box box;
};

// A highlighter's strokes say nothing by themselves and are left out.
std::vector<InkLine> group_lines(const std::vector<Stroke>& strokes);

// Strokes that are known to be one line, whatever it looks like; there must be some.
InkLine one_line(const std::vector<Stroke>& strokes);

// Strokes that are known to be formulas: one where they stand together, whatever their heights, from the top, those
// beside one another from the left.
std::vector<InkLine> group_formulas(const std::vector<Stroke>& strokes);

// A word's strokes in two, parted where the gap between what is left and what is right of it is widest (or its overlap
// least). Both sides are empty when there are fewer than two strokes.
std::pair<std::vector<Stroke>, std::vector<Stroke>> split_at_widest_gap(std::vector<Stroke> word);

// The same for ink of any origin; every shape must have a box that is not empty. smallest: what is lower is no letter,
// and says nothing of how high letters are.
std::vector<InkLine> group_shapes(const std::vector<InkComponent>& shapes, double smallest);

}  // namespace fernleaf
