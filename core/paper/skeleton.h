// The middle lines of pieces of ink, as a graph: where strokes end, meet and cross, and the ways between.
//
// Thinning after Guo & Hall, "Parallel thinning with two-subiteration algorithms" (1989); the staircase that it leaves
// on slanting lines is taken away afterwards. Spurs that a stroke's uneven border gives, no longer than the stroke is
// wide, are taken for what they are; crossings, which thinning pulls apart into two forks, are put together again.
#pragma once

#include <opencv2/core.hpp>
#include <vector>

#include "base/geometry.h"

namespace fernleaf {

// mask: CV_8U, ink not zero. The same, one pixel wide.
cv::Mat thinned(const cv::Mat& mask);

struct InkWay {
    std::vector<Point> points;  // px, at least one
    int from = -1, to = -1;     // nodes; both -1: a ring
};

struct InkGraph {
    struct Node {
        Point at;           // px
        double radius = 0;  // of the ink about it
    };
    std::vector<Node> nodes;  // ends, forks and crossings
    std::vector<InkWay> ways;
};

// An end of a way at a node: side 0 where it begins, 1 where it ends.
struct WayEnd {
    size_t way = 0;
    int side = 0;
};

// The direction, of length 1, in which a way leaves its node: beyond the ink of the node itself.
Point leaving(const InkGraph& graph, WayEnd end);

// mask: CV_8U, ink not zero; half_width: CV_32F, how far each pixel is from what is no ink. A speck without a way has
// one way of one point, a ring.
InkGraph ink_graph(const cv::Mat& mask, const cv::Mat& half_width);

}  // namespace fernleaf
