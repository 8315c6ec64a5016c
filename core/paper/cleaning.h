// Makes a photographed sheet look like paper under even light, and leaves the inks their colours.
//
// The light on the paper is what remains when dark strokes are closed over in each channel of a small copy (grey-scale
// closing; Serra 1982), smoothed; dividing by it is von Kries's adaptation to the paper's white, everywhere by itself.
// Strokes that a camera blurred into the paper get their ink's colour back (full_ink.h).
#pragma once

#include <opencv2/core.hpp>

#include "document/treatment.h"

namespace fernleaf {

// pixels: a flat sheet, CV_8UC3, BGR; so is what is given back, in every look.
cv::Mat cleaned(const cv::Mat& pixels, Look look);

// A page as it would be under even light: CV_8UC3, as pixels is, kPaperLevel in all channels where it is paper. That
// is less than 255, so that paper that is a little lighter than its surroundings is not cut off.
cv::Mat evenly_lit(const cv::Mat& pixels);
constexpr int kPaperLevel = 232;

// The light on the paper, as bright as the paper there: of the picture's size and type.
cv::Mat paper_light(const cv::Mat& pixels);

}  // namespace fernleaf
