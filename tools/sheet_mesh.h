// Where a sheet that is bent is seen in a picture: cell by cell of a mesh.
#pragma once

#include <functional>
#include <opencv2/core.hpp>
#include <vector>

#include "base/geometry.h"

namespace fernleaf {

// Where in the picture, px, a place on the sheet is seen; u, v: 0 to 1 across and down it.
using SeenAt = std::function<Point(double u, double v)>;

// For each pixel of the picture the place on the sheet that is seen there, px of the sheet; as it was where none is.
// map_x, map_y: CV_32F, of the picture's size.
void map_sheet(cv::Size sheet, const SeenAt& seen_at, cv::Mat& map_x, cv::Mat& map_y);

// The sheet's sides as they are seen, clockwise from its own top left.
std::vector<Point> outline_seen(const SeenAt& seen_at);

}  // namespace fernleaf
