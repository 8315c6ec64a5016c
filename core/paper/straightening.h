// Lays a sheet that was photographed aslant, or that curls, flat.
//
//   cv::Mat flat = straightened(pixels, outline, flat_size(outline, pixels.size()));
//
// The proportions of the sheet follow from its four corners when the camera's axis goes through the picture's middle
// (Zhang & He, "Whiteboard scanning and image enhancement", 2007). Curved sides are taken out by a Coons patch over the
// perspective that the corners give (Coons 1967).
#pragma once

#include <opencv2/core.hpp>

#include "document/sheet_outline.h"

namespace fernleaf {

// Width over height of the sheet; near those of usual papers it is theirs.
double aspect_of(const SheetOutline& outline, cv::Size picture);

// px: about the resolution that the photograph has, at most kLargestFlatMegapixels. aspect 0: as measured.
cv::Size flat_size(const SheetOutline& outline, cv::Size picture, double aspect = 0);

constexpr double kLargestFlatMegapixels = 16;

// CV_8UC3; what lies outside the picture is as the nearest paper in it. outline: px of pixels, sound.
cv::Mat straightened(const cv::Mat& pixels, const SheetOutline& outline, cv::Size size);

// A sheet's size on a page, mm: of A4, Letter or a small note where the proportions are theirs, else as wide as A4.
struct SheetMm {
    double width = 0, height = 0;
};
SheetMm sheet_mm(double aspect);

}  // namespace fernleaf
