// The border of a sheet of paper in a photograph of it.
#pragma once

#include <array>
#include <vector>

#include "base/geometry.h"

namespace fernleaf {

// How a side leaves the straight way between its corners, as paper does that is not flat: at the part t of the way (0
// to 1) by t (1 - t) (even + odd (2 t - 1)) lengths of the way, away from the sheet.
struct Bow {
    double even = 0, odd = 0;
    double at(double t) const { return t * (1 - t) * (even + odd * (2 * t - 1)); }
    friend bool operator==(const Bow&, const Bow&) = default;
};

struct SheetOutline {
    std::array<Point, 4> corners{};  // px of the photograph, clockwise from the top left; may lie outside it
    std::array<Bow, 4> bows{};       // of the sides, clockwise from the top

    // A place on a side, from its first corner (t = 0), clockwise, to the next (1).
    Point on_side(size_t side, double t) const;
    bool straight() const { return bows == std::array<Bow, 4>{}; }
    friend bool operator==(const SheetOutline&, const SheetOutline&) = default;
};

// The border as a polygon, clockwise, `steps` points a side.
std::vector<Point> polygon(const SheetOutline& outline, int steps);

// Clockwise and convex, with an area.
bool is_valid(const SheetOutline& outline);

// The same sheet in a picture so many times as large.
SheetOutline scaled(SheetOutline outline, double by);

}  // namespace fernleaf
