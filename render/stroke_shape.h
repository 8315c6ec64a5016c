// A stroke as a filled outline: what the screen, pictures and PDF all draw.
//
// The recorded points are smoothed (ink/stroke.h), the two edges run half the local width to either side, the ends are
// round, and a disc fills the outside of every sharp turn. Edges are all turned the same way round, so that a stroke
// crossing itself stays filled under the winding rule.
#pragma once

#include <QPainterPath>

#include "ink/stroke.h"

namespace fernleaf {

// In mm. A stroke of one point is a dot as wide as the pen. Empty for a stroke without points.
QPainterPath stroke_shape(const Stroke& stroke);

// What the points from first on add to the shape, for ink that is still being written; covers the same area as the
// whole shape does there, up to smoothing.
QPainterPath stroke_tail(const Stroke& stroke, size_t first);

}  // namespace fernleaf
