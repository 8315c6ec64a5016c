// Pictures made smaller, thin ones too.
#pragma once

#include <algorithm>
#include <cmath>
#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

namespace fernleaf {

// With less than this on a side a picture holds no writing, and nothing is looked for in it.
constexpr int kLeastPicturePx = 16;
constexpr int kLeastHalvedPx = 400;  // what is smaller is made smaller at once

inline bool may_hold_writing(const cv::Mat& pixels) {
    return pixels.cols >= kLeastPicturePx && pixels.rows >= kLeastPicturePx;
}

// Of a picture scaled by a factor: no side becomes less than a pixel.
inline cv::Size shrunk_size(cv::Size size, double by) {
    const auto side = [by](int px) { return std::max(1, static_cast<int>(std::lround(by * px))); };
    return {side(size.width), side(size.height)};
}

// The picture scaled by a factor of 1 or less, averaged. By 1: the picture itself.
inline cv::Mat shrunk(const cv::Mat& pixels, double by) {
    if (by >= 1 || pixels.empty()) return pixels;
    cv::Mat out;
    // Halves are quickly made; from them on it goes by any factor.
    if (by <= 0.5 && pixels.depth() == CV_8U && pixels.cols > kLeastHalvedPx && pixels.rows > kLeastHalvedPx) {
        const cv::Rect even(0, 0, pixels.cols / 2 * 2, pixels.rows / 2 * 2);
        cv::resize(pixels(even), out, even.size() / 2, 0, 0, cv::INTER_AREA);
        cv::resize(out, out, shrunk_size(pixels.size(), by), 0, 0, cv::INTER_AREA);
        return out;
    }
    cv::resize(pixels, out, shrunk_size(pixels.size(), by), 0, 0, cv::INTER_AREA);
    return out;
}

// The same of a picture of colours or greys, CV_8U, in grey. A large one is halved strip by strip on the way: of so
// many pixels there need not be a grey copy.
inline cv::Mat shrunk_grey(const cv::Mat& pixels, double by) {
    const auto grey_of = [](const cv::Mat& part) {
        cv::Mat grey = part;
        if (part.channels() == 3) cv::cvtColor(part, grey, cv::COLOR_BGR2GRAY);
        return grey;
    };
    if (by > 0.5 || pixels.cols < 2 || pixels.rows < 2) return shrunk(grey_of(pixels), by);
    constexpr int kStripRows = 256;
    cv::Mat half(pixels.rows / 2, pixels.cols / 2, CV_8U), out;
    for (int top = 0; top < half.rows; top += kStripRows) {
        cv::Mat strip = half.rowRange(top, std::min(half.rows, top + kStripRows));
        cv::resize(grey_of(pixels(cv::Rect(0, 2 * top, 2 * half.cols, 2 * strip.rows))), strip, strip.size(), 0, 0,
                   cv::INTER_AREA);
    }
    cv::resize(half, out, shrunk_size(pixels.size(), by), 0, 0, cv::INTER_AREA);
    return out;
}

// The factor that brings a picture's longer side down to so many px; 1 for smaller ones.
inline double factor_to(const cv::Mat& pixels, int longest_px) {
    return std::min(1.0, static_cast<double>(longest_px) / std::max({1, pixels.cols, pixels.rows}));
}

}  // namespace fernleaf
