// Signs of formulas that hands lack, drawn by rule in the forms that people give them: α, √, Σ, ∫ …
//
//   std::vector<std::vector<Point>> paths = sign_paths("\\alpha", 0, random);
#pragma once

#include <random>
#include <string>
#include <vector>

#include "base/geometry.h"

namespace fernleaf {

// How many forms of it there are; none: it is written by hands.
size_t sign_forms(const std::string& latex);

// Pen paths in x-heights, the baseline at 0, y downwards, left end at 0; leaning, stretched and shaken by chance, in
// any sense and order now and then. form: less than sign_forms().
std::vector<std::vector<Point>> sign_paths(const std::string& latex, size_t form, std::mt19937& random);

}  // namespace fernleaf
