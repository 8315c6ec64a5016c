// A straight edge seen in a picture.
#pragma once

#include "base/geometry.h"

namespace fernleaf {

// A straight line across the picture: the points p with dot(normal, p) = offset.
struct EdgeLine {
    Point normal;  // of length 1
    double offset = 0;
    double support = 0;  // px of edge along it
    bool frame = false;  // the picture's own border
    Point along() const { return {-normal.y, normal.x}; }
    Point at(double t) const { return normal * offset + along() * t; }
    double t_of(Point p) const { return dot(along(), p); }
};

}  // namespace fernleaf
