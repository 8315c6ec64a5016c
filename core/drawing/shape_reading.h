// Reads what shape some strokes draw, in whatever order, direction and number they were drawn.
//
//   ShapeReading reading = read_shape({&stroke});
//   reading.best().shape.kind == ShapeKind::rectangle
//
// Method: every kind of shape is fitted to the ink; how far the ink lies from each, and how freely each can be formed,
// goes into a small network that has learnt which kind is meant (two hidden layers of 32, on drawings of
// tools/drawn_shape.h): 98.9 % of careless drawings kept out, where multinomial logistic regression had 96.8. Strokes
// are joined end to end; of ink drawn over twice the contour about its middle is taken. Corners come from a bottom-up
// segmentation (pen_path.h) with lines fitted between them, so that cut and rounded corners are where they are meant;
// ellipses from a direct fit (Fitzgibbon, Pilu & Fisher 1999); arrowheads from ink about a path's end that lies on both
// sides of it and points back. The kinds are near PaleoSketch's (Paulson & Hammond 2008), which decides by thresholds
// in a fixed order. How often it is right: docs/drawings.md.
#pragma once

#include <vector>

#include "transcript/read_shape.h"

namespace fernleaf {

struct ShapeReading {
    std::vector<ShapeCandidate> candidates;  // best first, one a kind; empty for a dot and for ink without any extent
    const ShapeCandidate& best() const { return candidates.front(); }
};

// strokes: valid, at least one. A thousand points or a hundred thousand take the same time: paths are resampled.
ShapeReading read_shape(const std::vector<const Stroke*>& strokes);

}  // namespace fernleaf
