// Strokes from a piece of written ink in a picture: which ways of its middle lines a pen ran on along, and from where
// to where.
//
// At forks and crossings ways go on where they are smoothest (good continuation: Doermann & Rosenfeld, "Recovery of
// temporal information from static images of handwriting", 1995; Kato & Yasuda, "Recovery of drawing order from
// single-stroke handwriting images", 2000). What no picture tells is taken as people mostly write: from the left, and
// uprights from above.
#pragma once

#include <vector>

#include "paper/skeleton.h"

namespace fernleaf {

struct TracedStroke {
    std::vector<Point> points;   // px, in the order the pen most likely took; at least one
    std::vector<double> widths;  // px, of the ink there
};

// The strokes of a piece, from the left. mask: CV_8U, ink not zero.
std::vector<TracedStroke> traced_strokes(const cv::Mat& mask);

}  // namespace fernleaf
