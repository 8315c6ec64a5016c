// Long straight edges in a photograph: what the sides of sheets of paper can be.
#pragma once

#include <opencv2/core.hpp>
#include <vector>

#include "base/geometry.h"
#include "paper/edge_line.h"

namespace fernleaf {

// A small picture in which edges are looked for: CIE L*a*b*, CV_32FC3, L from 0 to 100, without what is thinner than a
// pen's stroke, and the slopes of its channels.
struct EdgePicture {
    cv::Mat lab;
    cv::Mat slope_x, slope_y;  // CV_32FC3, per px; empty unless asked for
    double scale = 1;          // its px in one of the picture it was made of

    cv::Vec3f colour(Point p) const { return lab.at<cv::Vec3f>(static_cast<int>(p.y), static_cast<int>(p.x)); }
};

// pixels: CV_8UC3, BGR.
EdgePicture edge_picture(const cv::Mat& pixels, int long_side_px, bool with_slopes = false);
// The strongest lines, at most `most` of them, and after them the four borders. px of the edge picture.
std::vector<EdgeLine> edge_lines(const EdgePicture& picture, size_t most);

}  // namespace fernleaf
