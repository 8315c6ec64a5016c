// Taking ink away where an eraser passed.
//
//   std::vector<Stroke> rest = erased_along(stroke, from, to, radius);   // the pieces that stay
#pragma once

#include <optional>
#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

// A stretch of a path, as fractions of the way from its first point (0) to its last (count of points - 1).
struct Stretch {
    double begin = 0;
    double end = 0;
};

// Where a segment lies within the radius of another one; none when it stays outside. Fractions of a to b.
std::optional<Stretch> within(Point a, Point b, Point from, Point to, double radius);

// The pieces of a stroke left by a round eraser moved from one point to another: the pen's path is cut exactly where it
// enters and leaves the eraser. A stroke not touched comes back alone and unchanged; one erased whole gives none.
// Pieces keep the pen, the order and the times; their id is 0. Lengths in mm; radius above 0.
std::vector<Stroke> erased_along(const Stroke& stroke, Point from, Point to, double radius);

}  // namespace fernleaf
