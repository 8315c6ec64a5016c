// How a camera blurs the strokes of a pen, and what they were before.
//
// A stroke is taken for a bar of ink that a Gaussian blurs: its middle is fainter than the ink, its border less steep.
// Together with how wide it seems these tell its width and the blur.
#pragma once

#include <opencv2/core.hpp>

namespace fernleaf {

// Of a bar in a blurred picture: how dark its middle is, in parts of the ink's darkness, and how steep its border, a
// px.
struct SeenBar {
    double peak = 0, edge = 0;
};
SeenBar seen_bar(double width_px, double blur_px);

// The width of a bar that seems so wide, as much ink at the darkness of its middle; at least kThinnestPx.
double width_behind(double seen_px, double blur_px);
constexpr double kThinnestPx = 0.6;

// The blur (deviation, px) in which bars that seem so wide have so steep a border, in parts of their middle's darkness.
double blur_of(double seen_px, double edge);

// What most strokes in a picture look like.
struct PenBlur {
    double width_px = 0;  // of strokes, behind the blur
    double blur_px = 0;
};

// dark: CV_8U, how much darker than the paper about it each pixel is. All 0 where there are no strokes to tell it from.
PenBlur pen_blur(const cv::Mat& dark);

}  // namespace fernleaf
