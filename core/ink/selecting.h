// Choosing ink with a lasso, and moving, turning and scaling what was chosen.
//
//   std::vector<StrokeId> chosen = strokes_within(strokes, lasso);
//   Stroke moved = transformed(stroke, Affine::shift({5, 0}));
#pragma once

#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

// Whether a point lies inside a closed line, by the even-odd rule; fewer than three corners have no inside.
bool inside(const std::vector<Point>& polygon, Point p);

// Strokes of which at least a share of the path lies inside a closed line. By default three fifths: a lasso drawn in
// haste cuts tails off, and takes tips of its neighbours in.
constexpr double kLassoShare = 0.6;
std::vector<StrokeId> strokes_within(const std::vector<Stroke>& strokes, const std::vector<Point>& polygon,
                                     double share = kLassoShare);

// x' = xx * x + xy * y + dx, y' = yx * x + yy * y + dy; lengths in mm.
struct Affine {
    double xx = 1, xy = 0, dx = 0;
    double yx = 0, yy = 1, dy = 0;

    static Affine shift(Point by);
    static Affine scale(double x, double y, Point about);
    static Affine turn(double radians, Point about);  // clockwise on a page, whose y runs down

    Point operator()(Point p) const { return {xx * p.x + xy * p.y + dx, yx * p.x + yy * p.y + dy}; }
    // First this one, then the other.
    Affine then(const Affine& other) const;
    // How much lengths grow on average: the square root of what areas grow by.
    double growth() const;
    friend bool operator==(const Affine&, const Affine&) = default;
};

// The stroke elsewhere: its points moved, its pen's width grown along; everything else stays, its id too.
Stroke transformed(Stroke stroke, const Affine& by);

}  // namespace fernleaf
