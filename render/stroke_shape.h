// A stroke as a filled outline: what the screen, pictures and PDF all draw.
//
// The recorded points are smoothed (ink/stroke.h), the two edges run half the local width to either side, the ends are
// round, and a disc fills the outside of every sharp turn. Edges are all turned the same way round, so that a stroke
// crossing itself stays filled under the winding rule.
#pragma once

#include <QPainterPath>
#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

// In mm. A stroke of one point is a dot as wide as the pen. Empty for a stroke without points.
QPainterPath stroke_shape(const Stroke& stroke);

// The same, cut where the stroke's darkness changes (ink/nib.h); one part for pens of one darkness.
struct ShapePart {
    QPainterPath shape;
    double darkness = 1;  // 0 to 1
};
std::vector<ShapePart> shape_parts(const Stroke& stroke);

// What the points from first on add to the shape, for ink that is still being written; covers the same area as the
// whole shape does there, up to smoothing.
QPainterPath stroke_tail(const Stroke& stroke, size_t first);

// Where the points from first on change the look of a stroke that is still being written, mm.
Box tail_box(const Stroke& stroke, size_t first);

}  // namespace fernleaf
