// All shapes that some strokes may be, fitted to their ink.
#pragma once

#include <vector>

#include "drawing/closed_fit.h"
#include "ink/stroke.h"

namespace fernleaf {

struct ShapeFits {
    std::vector<Fit> fits;  // several of a kind are possible, such as polylines of more and fewer corners
    // What distances are told by, mm: all ink's diagonal; of what encloses something less, if it is flat, for its short
    // sides say what it is.
    double scale = 0;
};

// strokes: valid. Nothing for a dot, and for ink without any extent.
ShapeFits shape_fits(const std::vector<const Stroke*>& strokes);

}  // namespace fernleaf
