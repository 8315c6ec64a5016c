// Patches of one lightness or colour in a photograph: what sheets can be where their borders are short, or lost among
// the lines of the ground.
#pragma once

#include <array>
#include <vector>

#include "base/geometry.h"
#include "paper/quadrilateral.h"
#include "paper/sheet_edges.h"

namespace fernleaf {

constexpr double kLeastSheet = 0.012;  // of the picture's area: what is smaller is no sheet

// Quadrilaterals about patches that are lighter than what surrounds them, or of another colour, or without edges.
// picture: with slopes. px of the edge picture.
std::vector<std::array<Point, 4>> sheet_patches(const EdgePicture& picture);

}  // namespace fernleaf
