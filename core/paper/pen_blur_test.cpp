#include "paper/pen_blur.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

namespace fernleaf {
namespace {

const cv::Scalar kInk{150, 60, 30};

// Strokes of a pen across, down and aslant, on white paper, drawn finely and made smaller, then blurred.
cv::Mat written(double width_px, double blur_px) {
    constexpr int kFiner = 6;
    cv::Mat fine(600 * kFiner, 600 * kFiner, CV_8UC3, cv::Scalar::all(255)), out;
    const int thick = static_cast<int>(std::lround(width_px * kFiner));
    for (int k = 0; k < 9; ++k) {
        const int at = (60 + 55 * k) * kFiner;
        cv::line(fine, {at, 40 * kFiner}, {at + 20 * kFiner, 260 * kFiner}, kInk, thick, cv::LINE_AA);
        cv::line(fine, {40 * kFiner, at / 2 + 300 * kFiner}, {560 * kFiner, at / 2 + 290 * kFiner}, kInk, thick,
                 cv::LINE_AA);
    }
    cv::resize(fine, out, {}, 1.0 / kFiner, 1.0 / kFiner, cv::INTER_AREA);
    if (blur_px > 0) cv::GaussianBlur(out, out, {}, blur_px);
    return out;
}

cv::Mat darkness(const cv::Mat& page) {
    std::vector<cv::Mat> channels;
    cv::split(page, channels);
    return 255 - channels[2];  // the least of this ink's
}

// The colour in the middle of one of the strokes that run across.
cv::Vec3b middle(const cv::Mat& page) {
    cv::Vec3b darkest(255, 255, 255);
    for (int y = 380; y < 400; ++y)
        if (const auto c = page.at<cv::Vec3b>(y, 300); c[2] < darkest[2]) darkest = c;
    return darkest;
}

TEST(PenBlur, ABarIsFainterAndSofterTheMoreItIsBlurred) {
    EXPECT_NEAR(seen_bar(20, 1).peak, 1, 1e-6);
    EXPECT_GT(seen_bar(3, 0.5).peak, seen_bar(3, 1).peak);
    EXPECT_GT(seen_bar(3, 0.5).edge, seen_bar(3, 1).edge);
    const SeenBar seen = seen_bar(3, 1.5);
    EXPECT_NEAR(width_behind(3 / seen.peak, 1.5), 3, 0.01);
    EXPECT_NEAR(blur_of(3 / seen.peak, seen.edge / seen.peak), 1.5, 0.05);
}

TEST(PenBlur, ThePensWidthAndTheBlurAreFoundBehindOneAnother) {
    for (const double width : {2.5, 4.0})
        for (const double blur : {0.3, 0.5}) {  // in widths: more, and nothing tells one from the other
            const double px = blur * width;
            const PenBlur found = pen_blur(darkness(written(width, px)));
            EXPECT_NEAR(found.width_px, width, 0.25 * width) << width << " blurred by " << px;
            EXPECT_NEAR(found.blur_px, px, 0.3) << width << " blurred by " << px;
        }
}

TEST(PenBlur, StrokesGetTheirColourBack) {
    const cv::Mat blurred = written(3, 1.5), full = with_full_ink(blurred);
    EXPECT_GT(middle(blurred)[2], 70);
    for (int c = 0; c < 3; ++c) EXPECT_NEAR(middle(full)[c], kInk[c], 25) << c;
    EXPECT_EQ(full.at<cv::Vec3b>(5, 5), cv::Vec3b(255, 255, 255));
}

TEST(PenBlur, WhatIsSharpOrBlankStaysAsItIs) {
    const cv::Mat sharp = written(5, 0);
    EXPECT_LT(cv::norm(with_full_ink(sharp), sharp, cv::NORM_INF), 40);
    EXPECT_NEAR(middle(with_full_ink(sharp))[2], kInk[2], 2);
    cv::Mat grain(300, 300, CV_8UC3);
    cv::randn(grain, cv::Scalar::all(246), cv::Scalar::all(3));
    EXPECT_EQ(cv::norm(with_full_ink(grain), grain, cv::NORM_INF), 0);
    EXPECT_EQ(pen_blur(cv::Mat(300, 300, CV_8U, cv::Scalar(0))).width_px, 0);
    // Beside writing, too.
    cv::Mat both = written(3, 1.5);
    grain(cv::Rect(0, 0, 300, 30)).copyTo(both(cv::Rect(0, 0, 300, 30)));
    const cv::Mat full = with_full_ink(both);
    EXPECT_LT(cv::norm(full(cv::Rect(0, 0, 300, 20)), both(cv::Rect(0, 0, 300, 20)), cv::NORM_INF), 3);
}

}  // namespace
}  // namespace fernleaf
