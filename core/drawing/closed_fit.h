// Fits figures that enclose something to a contour.
#pragma once

#include <vector>

#include "document/shape/shape.h"
#include "drawing/pen_path.h"

namespace fernleaf {

// A shape fitted to ink; freedom: how many numbers form it.
struct Fit {
    Shape shape;
    double error = 0;  // same unit as the ink: root of the mean square distance
    double freedom = 0;
};

// How far ink lies from an outline: root of the mean square. ink: not empty.
double distance_off(const PenPath& ink, const std::vector<PenPath>& outline);

// Evenly spaced points around a figure; the last is next to the first.
struct Contour {
    PenPath middle;  // about the ink's middle
    PenPath outer;   // and about its outside, for figures drawn with lines that cross, as a star of one stroke
};

// All kinds that can be, unordered. contour.middle: of ten points or more.
std::vector<Fit> closed_fits(const Contour& contour);

}  // namespace fernleaf
