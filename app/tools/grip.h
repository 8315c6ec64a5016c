// Where frames are taken hold of. Corners scale evenly, sides stretch, the stem above turns; the points of a figure are
// moved one by one, and so are the rules of a table. UI thread only.
#pragma once

#include <QPointF>
#include <QRectF>
#include <Qt>

namespace fernleaf {

enum class Grip {
    none,
    inside,
    top_left,
    top_right,
    bottom_left,
    bottom_right,
    left,
    right,
    top,
    bottom,
    turn,
    point,
    column,  // the rule at a column's right,
    row      // and below a row
};

constexpr double kGripPx = 9;  // radius; grips are for pens and fingers, too

inline bool on_left(Grip g) { return g == Grip::left || g == Grip::top_left || g == Grip::bottom_left; }
inline bool on_right(Grip g) { return g == Grip::right || g == Grip::top_right || g == Grip::bottom_right; }
inline bool on_top(Grip g) { return g == Grip::top || g == Grip::top_left || g == Grip::top_right; }
inline bool on_bottom(Grip g) { return g == Grip::bottom || g == Grip::bottom_left || g == Grip::bottom_right; }
inline bool is_corner(Grip g) { return (on_left(g) || on_right(g)) && (on_top(g) || on_bottom(g)); }

// The corner or the middle of the side that a grip sits on; for others the frame's middle.
inline QPointF place_on(Grip g, const QRectF& frame) {
    return {on_left(g)    ? frame.left()
            : on_right(g) ? frame.right()
                          : frame.center().x(),
            on_top(g)      ? frame.top()
            : on_bottom(g) ? frame.bottom()
                           : frame.center().y()};
}

Qt::CursorShape cursor_of(Grip grip);

}  // namespace fernleaf
