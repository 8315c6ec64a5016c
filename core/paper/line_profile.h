// What stands along a straight line in a picture: whether it can be a side of a sheet there.
#pragma once

#include <vector>

#include "base/geometry.h"
#include "paper/edge_line.h"
#include "paper/sheet_edges.h"

namespace fernleaf {

constexpr double kDiffers = 4;     // colours that differ (CIE76)
constexpr double kUnknown = 0.55;  // what is taken for a share where nothing can be seen

// In sums up to each step, so that any part of it is known at once. picture: with slopes.
class LineProfile {
public:
    LineProfile(const EdgePicture& picture, const EdgeLine& line);

    // px of edge with different colours on both sides, in one stretch: what is not takes from it. A line through a
    // pattern meets many edges, and none for long.
    double strength() const;

    // Likewise of what lies in a box.
    double strength(const Box& box) const;

    struct Part {
        double cover = kUnknown, differ = kUnknown,
               brighter = kUnknown;  // shares; brighter: where the normal points to
        double unseen = 0;           // share that lies outside the picture
        bool soft = false;           // as the edge of a shadow is
    };
    Part between(Point a, Point b) const;

private:
    struct Sum {
        int seen = 0, edge = 0, compared = 0, differ = 0, brighter = 0, clear = 0, told = 0, soft = 0;
    };
    EdgeLine line_;
    double begin_ = 0;
    std::vector<Sum> sums_;
};

}  // namespace fernleaf
