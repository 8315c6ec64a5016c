// A stroke as a filled outline: what the screen, pictures and PDF all draw.
//
// The recorded points are smoothed (ink/stroke.h), the two edges run half the local width to either side, the ends are
// round, and a disc fills the outside of every sharp turn. Edges are all turned the same way round, so that a stroke
// crossing itself stays filled under the winding rule. Points closer together than the finest screen shows are left
// out of what is drawn.
#pragma once

#include <QPainterPath>
#include <functional>

#include "ink/stroke.h"

namespace fernleaf {

// In mm. A stroke of one point is a dot as wide as the pen. Empty for a stroke without points.
QPainterPath stroke_shape(const Stroke& stroke);

// The same, one piece after another along the path: cut where the stroke's darkness (ink/nib.h; 0 to 1) changes, and
// no longer than some hundred points. Pieces of one darkness, filled as one path, look as the whole does.
void shape_pieces(const Stroke& stroke, const std::function<void(const QPainterPath& piece, double darkness)>& take);

// What the points from first on add to the shape, for ink that is still being written; covers the same area as the
// whole shape does there, up to smoothing.
QPainterPath stroke_tail(const Stroke& stroke, size_t first);

// Where the points from first on change the look of a stroke that is still being written, mm.
Box tail_box(const Stroke& stroke, size_t first);

}  // namespace fernleaf
