// Gives strokes that a camera blurred into the paper the colour of their ink.
//
// Blur takes darkness from the middle of a stroke, and pictures hold their hues more coarsely than their light (JPEG),
// so that thin strokes are pale. But blur neither adds ink nor takes any away: what lies about a stroke in sum is of
// the ink's hue, however it is spread; and how dark the middles of strokes are, of what they would be, is known from
// how wide and how blurred they are (pen_blur.h).
#pragma once

#include <opencv2/core.hpp>

namespace fernleaf {

// lit: a page under even light, CV_8UC3 (BGR), whose paper is of this level in all channels (1 to 255); so is what is
// given back. Where no strokes are found, or none that are blurred, it stays as it is.
cv::Mat restore_ink_contrast(const cv::Mat& lit, int paper = 255);

// The least of each pixel's channels. bgr: CV_8UC3.
cv::Mat least_channel(const cv::Mat& bgr);

}  // namespace fernleaf
