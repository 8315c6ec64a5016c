// Digital ink: what a pen wrote between touching and leaving the page.
//
//   Stroke stroke;
//   stroke.points = {{{20, 30}, 0.5, 0, 0, 0}, {{21, 30.5}, 0.6, 0, 0, 8}};
//   double way = path_length(stroke);   // mm
#pragma once

#include <cstdint>
#include <utility>
#include <vector>

#include "base/geometry.h"
#include "ink/pen.h"

namespace fernleaf {

using StrokeId = int64_t;

struct InkPoint {
    Point at;               // mm
    float pressure = 0.5F;  // 0 to 1; 0.5 where the device has none
    float tilt_x = 0;       // degrees from upright, -90 to 90
    float tilt_y = 0;
    uint32_t time_ms = 0;  // since the stroke's start
    friend bool operator==(const InkPoint&, const InkPoint&) = default;
};

struct Stroke {
    StrokeId id = 0;  // 0: not yet in a library
    Pen pen;
    int64_t start_ms = 0;  // since 1970, UTC; 0 where unknown
    int64_t order = 0;     // strokes with higher numbers lie above others; 0: its id is the number
    std::vector<InkPoint> points;

    Box box() const;  // of the points, without the pen's width
    friend bool operator==(const Stroke&, const Stroke&) = default;
};

// The order in which strokes lie upon one another.
inline bool lies_below(const Stroke& a, const Stroke& b) {
    const auto place = [](const Stroke& s) { return std::pair(s.order != 0 ? s.order : s.id, s.id); };
    return place(a) < place(b);
}

// The point a part (0 to 1) of the way from a to b.
InkPoint between(const InkPoint& a, const InkPoint& b, double part);

// Length of the pen's path in mm.
double path_length(const Stroke& stroke);

// Whether a disc touches the stroke (its drawn width counted). Centre and radius in mm.
bool touches(const Stroke& stroke, Point centre, double radius);

// The path with points no farther apart than step (mm), along a centripetal Catmull-Rom spline through the
// recorded points (Catmull & Rom 1974; Yuksel et al. 2011 for the centripetal form, which makes no loops).
std::vector<InkPoint> smoothed(const std::vector<InkPoint>& points, double step);

// Whether every number is finite and within reach of a page (coordinates within 100 m).
bool sound(const Stroke& stroke);

}  // namespace fernleaf
