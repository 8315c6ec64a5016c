// Marks that are printed in the corners of a sheet, so that cameras find them: four of one shape, squares, discs,
// rings, crosses or brackets, that make a quadrilateral.
#pragma once

#include <array>
#include <opencv2/core.hpp>
#include <optional>

#include "base/geometry.h"
#include "document/sheet_outline.h"

namespace fernleaf {

// The middles of the marks, of brackets their outer corners, clockwise from the top left; none unless there are just
// four that are alike. pixels: CV_8UC3, BGR.
std::optional<std::array<Point, 4>> corner_marks(const cv::Mat& pixels);

// The sheet about its marks: as far beyond them as its paper goes on, at most kWidestMargin of the way between marks.
// Its corners may lie outside the picture.
SheetOutline sheet_about(const std::array<Point, 4>& marks, const cv::Mat& pixels);
constexpr double kWidestMargin = 0.15;

}  // namespace fernleaf
