// Shapes that drawings are made of: what a drawn figure is taken for, and how it looks when it is drawn fair.
//
//   Shape box{ShapeKind::rectangle, {{10, 10}, {40, 10}, {40, 30}, {10, 30}}};
//   for (const std::vector<Point>& line : outline_of(box)) draw(line);
#pragma once

#include <optional>
#include <string_view>
#include <vector>

#include "base/geometry.h"
#include "ink/selecting.h"

namespace fernleaf {

enum class ShapeKind {
    line,
    polyline,
    arrow,
    double_arrow,
    arc,
    curve,
    circle,
    ellipse,
    square,
    rectangle,
    rounded_rectangle,
    triangle,
    diamond,
    parallelogram,
    trapezoid,
    pentagon,
    hexagon,
    star,
    polygon,
    brace
};
constexpr int kShapeKinds = 20;

// As files and the command line name it, such as "rounded_rectangle".
std::string_view name_of(ShapeKind kind);

// The kind of that name.
std::optional<ShapeKind> shape_kind(std::string_view name);

// What encloses something.
bool is_closed(ShapeKind kind);

// What can lead from one figure to another.
bool is_line(ShapeKind kind);

struct Shape {
    ShapeKind kind = ShapeKind::line;
    // mm. Of what has corners, those, clockwise; a rounded rectangle's as if it were not rounded. Of circles and
    // ellipses the ends of the axes, clockwise. Of lines, polylines and arrows the corners from the beginning to the
    // (first) head. Of arcs the beginning, the middle and the end; of curves points it goes through; of braces the ends
    // with the tip between.
    std::vector<Point> points;
    double radius = 0;  // mm, of a rounded rectangle's corners
    friend bool operator==(const Shape&, const Shape&) = default;
};

// Whether it has the points that its kind needs, all of them finite and within reach of a page.
bool is_valid(const Shape& shape);

// How far the figure is turned, degrees clockwise from level, -90 to 90; 0 for what has no direction.
double angle_of(const Shape& shape);

// The same elsewhere. What is stretched or skewed becomes what it looks like: a circle an ellipse, a square a
// rectangle, a rectangle a parallelogram.
Shape transformed(Shape shape, const Affine& by);

// A figure of another kind in the place of one that encloses something: about the same box, turned as it is. What is as
// wide as high by its kind becomes so about the same middle. Both kinds must be closed, and neither a polygon wanted.
Shape as_kind(const Shape& figure, ShapeKind kind);

// The lines to be drawn, each through points about a millimetre apart where it bends; arrowheads are lines of their
// own.
std::vector<std::vector<Point>> outline_of(const Shape& shape);

// About the outline.
Box box_of(const Shape& shape);

// How far the outline lies from a point, mm.
double distance_to(const std::vector<std::vector<Point>>& outline, Point p);

}  // namespace fernleaf
