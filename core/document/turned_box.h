// What pictures, blocks of type and other elements with a box and an angle have in common.
#pragma once

#include <vector>

#include "base/geometry.h"
#include "ink/selecting.h"

namespace fernleaf {

// Whether a place lies on a box that is turned about its middle, degrees clockwise.
bool lies_on(const Box& box, double angle, Point p);

// Whether a closed line encloses most of it.
bool mostly_inside(const Box& box, double angle, const std::vector<Point>& polygon);

// An angle after a transform, degrees, above -180 to 180.
double turned_by(double angle, const Affine& by);

}  // namespace fernleaf
