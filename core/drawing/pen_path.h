// The way a pen went, in even steps, and its corners.
//
// Corners are found from the path's fit, not from its speed, so that lifted ink has them as well: points are taken out
// one by one, always the one without which the straight pieces between the others fit best (bottom-up segmentation;
// Keogh et al. 2001; in the spirit of "Sort, merge, repeat", Wolin, Eoff & Hammond 2008).
#pragma once

#include <vector>

#include "base/geometry.h"

namespace fernleaf {

using PenPath = std::vector<Point>;

double path_length(const PenPath& path);

// A straight line through points, by total least squares. points: one or more. along: of length 1.
struct FittedLine {
    Point at, along;
};
FittedLine fitted_line(const std::vector<Point>& points);

// Points a step apart, the first and the last kept; at least two. path: not empty. step: above 0.
PenPath resampled(const PenPath& path, double step);

// Without the short tails that a pen draws as it touches and leaves the page. most: length of a tail.
PenPath without_hooks(const PenPath& path, double most);

// Paths joined into one, end to nearest end, turned round where needed; gap: the widest that had to be bridged.
struct Chain {
    PenPath path;
    double gap = 0;
};
Chain chained(std::vector<PenPath> paths);

// Straight pieces, from the fewest corners on: [k] holds the corners of the best approximation by k pieces, from 1 to
// most, and how far the path lies from it (root of the mean square).
struct Pieces {
    std::vector<size_t> corners;  // indices into the path; of an open path with both its ends
    double error = 0;
};
std::vector<Pieces> straight_pieces(const PenPath& path, size_t most, bool closed);

// Lines fitted to a closed path between its corners, crossed: where its corners would be if none were cut or rounded.
PenPath crossed_sides(const PenPath& path, const std::vector<size_t>& corners);

}  // namespace fernleaf
