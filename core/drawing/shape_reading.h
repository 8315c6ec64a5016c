// Reads what shape some strokes draw, in whatever order, direction and number they were drawn.
//
//   ShapeReading reading = read_shape({&stroke});
//   reading.best().shape.kind == ShapeKind::rectangle
//
// Method: every kind of shape is fitted to the ink and told by how far the ink lies from it, against how freely it can
// be formed, so that a rectangle wins over a quadrilateral that fits a little better; how much either counts for a kind
// is learnt (multinomial logistic regression). Strokes are joined end to end; of ink drawn over twice the contour about
// its middle is taken. Corners come from a bottom-up segmentation (pen_path.h) with lines fitted between them, so that
// cut and rounded corners are where they are meant; ellipses from a direct fit (Fitzgibbon, Pilu & Fisher 1999);
// arrowheads from ink about a path's end that lies on both sides of it and points back. The kinds are near
// PaleoSketch's (Paulson & Hammond 2008), which decides by thresholds in a fixed order. How often it is right:
// docs/drawings.md.
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
