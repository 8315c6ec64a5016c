// Which shape of a reading a person points at.
#pragma once

#include "transcript/reading.h"

namespace fernleaf {

struct ShapePlace {
    int line = -1, shape = -1;  // of the reading, and of that line; -1: none
    bool valid() const { return shape >= 0; }
};

// The one whose outline passes within reach (mm) of a place, the nearest first; else the smallest figure about it.
ShapePlace shape_at(const Reading& reading, Point place, double reach);

}  // namespace fernleaf
