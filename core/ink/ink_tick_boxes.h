// Boxes to tick among ink: small squares that stand before a line of writing.
//
// Method: up to four strokes one after the other whose ink runs along all four sides of a square and into its corners,
// which no round letter does (an O leaves a fifth of its side free there). Something is written to its right at its
// height, and nothing close to its left. It is ticked where other ink lies in it. How often letters are taken for one,
// and how many careless ones are found: docs/keeping.md.
#pragma once

#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

struct InkTickBox {
    Box box;                      // mm
    std::vector<size_t> strokes;  // of the square
    std::vector<size_t> ticks;    // in it; none: it is open
};

// Strokes in the order they were written.
std::vector<InkTickBox> ink_tick_boxes(const std::vector<Stroke>& strokes);

}  // namespace fernleaf
