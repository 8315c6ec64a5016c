// Fits lines, arcs, curves, braces and arrows to paths with two ends.
#pragma once

#include <optional>

#include "drawing/closed_fit.h"

namespace fernleaf {

// All kinds that can be but arrows, unordered. path: evenly spaced, of two points or more.
std::vector<Fit> open_fits(const PenPath& path);

// An arrow, if there is a head at one end of a path, or at both. paths: a stroke each, all with points as far apart.
// The error is of all ink, heads as they were drawn.
std::optional<Fit> arrow_fit(const std::vector<PenPath>& paths);

}  // namespace fernleaf
