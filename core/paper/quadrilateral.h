// Outlines of four corners in a picture, convex, clockwise (y points down).
#pragma once

#include <array>

#include "base/geometry.h"

namespace fernleaf {

// Signed: positive where the corners run clockwise.
double area(const std::array<Point, 4>& corners);
// A place in it: u from left to right, v from top to bottom, 0 to 1.
Point place_in(const std::array<Point, 4>& corners, double u, double v);
// Whether it lies in a convex outline, whose corners go clockwise.
bool lies_in(const std::array<Point, 4>& corners, Point p);
// Clockwise, from the corner nearest the picture's top left.
void set_clockwise(std::array<Point, 4>& corners);
// Of two convex outlines, both clockwise.
double shared_area(const std::array<Point, 4>& a, const std::array<Point, 4>& b);

}  // namespace fernleaf
