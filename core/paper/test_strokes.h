// Blurred strokes of a pen, for tests.
#pragma once

#include <cmath>
#include <opencv2/imgproc.hpp>

namespace fernleaf {

const cv::Scalar kInk{150, 60, 30};

// Across, down and aslant, on white paper, drawn finely and made smaller, then blurred.
inline cv::Mat written(double width_px, double blur_px, const cv::Scalar& ink = kInk) {
    constexpr int kFiner = 6;
    cv::Mat fine(600 * kFiner, 600 * kFiner, CV_8UC3, cv::Scalar::all(255)), out;
    const int thick = static_cast<int>(std::lround(width_px * kFiner));
    for (int k = 0; k < 9; ++k) {
        const int at = (60 + 55 * k) * kFiner;
        cv::line(fine, {at, 40 * kFiner}, {at + 20 * kFiner, 260 * kFiner}, ink, thick, cv::LINE_AA);
        cv::line(fine, {40 * kFiner, at / 2 + 300 * kFiner}, {560 * kFiner, at / 2 + 290 * kFiner}, ink, thick,
                 cv::LINE_AA);
    }
    cv::resize(fine, out, {}, 1.0 / kFiner, 1.0 / kFiner, cv::INTER_AREA);
    if (blur_px > 0) cv::GaussianBlur(out, out, {}, blur_px);
    return out;
}

// The colour in the middle of one of the strokes that run across.
inline cv::Vec3b middle_colour(const cv::Mat& page) {
    cv::Vec3b darkest(255, 255, 255);
    for (int y = 380; y < 400; ++y)
        if (const auto c = page.at<cv::Vec3b>(y, 300); c[2] < darkest[2]) darkest = c;
    return darkest;
}

}  // namespace fernleaf
