// Strokes from a short description: for drawings that come with the application.
//
//   auto sun = strokes_by_rule("e 12 12 5 5; l 12 2 12 5; l 12 19 12 22");   // in a square of 24 units
//
// Pieces are parted by semicolons. Each is a letter and numbers parted by blanks:
//   l x y x y …      lines from point to point         c x y x y …   a smooth line through points
//   o x y x y …      a smooth closed line              e x y a b     an ellipse, its middle and half axes
//   a x y r from to  an arc, clockwise, in degrees from the right
// Smooth lines are centripetal Catmull-Rom splines (Barry & Goldman 1988; Yuksel, Schaefer & Keyser 2011).
#pragma once

#include <optional>
#include <string_view>
#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

constexpr double kDrawnUnitMm = 0.5;

// In mm, without ids, as a pen at even speed would have drawn them; nothing where a piece is none of these.
std::optional<std::vector<Stroke>> strokes_by_rule(std::string_view description, const Pen& pen = {});

}  // namespace fernleaf
