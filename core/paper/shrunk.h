// Pictures made smaller, thin ones too.
#pragma once

#include <algorithm>
#include <cmath>
#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

namespace fernleaf {

// With less than this on a side a picture holds no writing, and nothing is looked for in it.
constexpr int kLeastPicturePx = 16;

inline bool may_hold_writing(const cv::Mat& pixels) {
    return pixels.cols >= kLeastPicturePx && pixels.rows >= kLeastPicturePx;
}

// The picture scaled by a factor of 1 or less, averaged; no side becomes less than a pixel. By 1: the picture itself.
inline cv::Mat shrunk(const cv::Mat& pixels, double by) {
    if (by >= 1 || pixels.empty()) return pixels;
    const auto side = [by](int px) { return std::max(1, static_cast<int>(std::lround(by * px))); };
    cv::Mat out;
    cv::resize(pixels, out, {side(pixels.cols), side(pixels.rows)}, 0, 0, cv::INTER_AREA);
    return out;
}

// The factor that brings a picture's longer side down to so many px; 1 for smaller ones.
inline double factor_to(const cv::Mat& pixels, int longest_px) {
    return std::min(1.0, static_cast<double>(longest_px) / std::max({1, pixels.cols, pixels.rows}));
}

}  // namespace fernleaf
