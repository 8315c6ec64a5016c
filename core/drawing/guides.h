// Guides: where what is being moved is in line with something else, or as far from its neighbours as they are from
// theirs.
//
//   Snap snap = snapped(box, others, 1.5);   // draw snap.lines; move by snap.by as well
#pragma once

#include <utility>
#include <vector>

#include "base/geometry.h"

namespace fernleaf {

struct Snap {
    Point by;                                    // mm, how much farther it goes
    std::vector<std::pair<Point, Point>> lines;  // mm
};

// box: of what is moved, mm. others: boxes of what stands about. grid: the paper's, mm; 0: none. reach: how far it is
// drawn, mm. Each way the nearest of edges, middles and equal gaps is taken, and the grid where there is none.
Snap snapped(const Box& box, const std::vector<Box>& others, double grid, double reach);

}  // namespace fernleaf
