// Shapes as people draw them: with a hand that shakes, corners that are cut, ends that don't meet or overshoot, in one
// stroke or several, in any order and direction, sometimes gone over twice.
#pragma once

#include <random>

#include "document/shape/shape.h"
#include "ink/stroke.h"

namespace fernleaf {

// How carelessly something is drawn: 1 as most people do.
struct DrawingManner {
    double careless = 1;
    Pen pen = {};
};

// A shape of a kind, of any proportions and slant, about a point. size_mm: across the longer side.
Shape any_shape(ShapeKind kind, Point about, double size_mm, std::mt19937& random);

// The strokes it is drawn with.
std::vector<Stroke> drawn_by_hand(const Shape& shape, const DrawingManner& manner, std::mt19937& random);

}  // namespace fernleaf
