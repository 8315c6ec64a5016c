#include "paper/ink_contrast.h"

#include <gtest/gtest.h>

#include "paper/test_strokes.h"

namespace fernleaf {
namespace {

void expect_near(const cv::Vec3b& colour, const cv::Scalar& other, double within) {
    for (int c = 0; c < 3; ++c) EXPECT_NEAR(colour[c], other[c], within) << "channel " << c;
}

TEST(FullInk, StrokesGetTheirColourBack) {
    const cv::Mat blurred = written(3, 1.5), full = restore_ink_contrast(blurred);
    EXPECT_GT(middle_colour(blurred)[2], 70);
    expect_near(middle_colour(full), kInk, 20);
    EXPECT_EQ(full.at<cv::Vec3b>(5, 5), cv::Vec3b(255, 255, 255));
}

TEST(FullInk, AHueThatIsHeldMoreCoarselyThanLightComesBack) {
    // As JPEG holds it: chroma at half the size, and smoother still.
    cv::Mat parts, blurred = written(3, 1.2);
    cv::cvtColor(blurred, parts, cv::COLOR_BGR2YCrCb);
    std::vector<cv::Mat> channels;
    cv::split(parts, channels);
    for (size_t c = 1; c < 3; ++c) cv::GaussianBlur(channels[c], channels[c], {}, 2);
    cv::merge(channels, parts);
    cv::cvtColor(parts, blurred, cv::COLOR_YCrCb2BGR);
    const auto saturation = [](const cv::Vec3b& c) { return c[0] - c[2]; };
    const double own = kInk[0] - kInk[2];
    EXPECT_LT(saturation(middle_colour(blurred)), 0.5 * own);
    EXPECT_GT(saturation(middle_colour(restore_ink_contrast(blurred))), 0.8 * own);
}

TEST(FullInk, APencilStaysPalerThanAPenOnTheSamePage) {
    const cv::Scalar pencil{120, 120, 125};
    cv::Mat page(600, 1500, CV_8UC3, cv::Scalar::all(255));
    written(3, 1.2).copyTo(page(cv::Rect(0, 0, 600, 600)));
    written(3, 1.2, pencil).copyTo(page(cv::Rect(900, 0, 600, 600)));
    const cv::Mat full = restore_ink_contrast(page);
    expect_near(middle_colour(full(cv::Rect(900, 0, 600, 600))), pencil, 25);
    expect_near(middle_colour(full(cv::Rect(0, 0, 600, 600))), kInk, 25);
}

TEST(FullInk, PaperNeedNotBeAsLightAsCanBe) {
    constexpr int kPaper = 230;
    cv::Mat darker;
    written(3, 1.5).convertTo(darker, CV_8UC3, kPaper / 255.0);
    expect_near(middle_colour(restore_ink_contrast(darker, kPaper)), kInk * kPaper / 255, 20);
}

TEST(FullInk, WhatIsSharpOrBlankStaysAsItIs) {
    const cv::Mat sharp = written(5, 0);
    EXPECT_LT(cv::norm(restore_ink_contrast(sharp), sharp, cv::NORM_INF), 40);
    expect_near(middle_colour(restore_ink_contrast(sharp)), kInk, 2);
    cv::Mat grain(300, 300, CV_8UC3);
    cv::randn(grain, cv::Scalar::all(246), cv::Scalar::all(3));
    EXPECT_EQ(cv::norm(restore_ink_contrast(grain), grain, cv::NORM_INF), 0);
    // Beside writing, too.
    cv::Mat both = written(3, 1.5);
    grain(cv::Rect(0, 0, 300, 30)).copyTo(both(cv::Rect(0, 0, 300, 30)));
    const cv::Mat full = restore_ink_contrast(both);
    EXPECT_LT(cv::norm(full(cv::Rect(0, 0, 300, 20)), both(cv::Rect(0, 0, 300, 20)), cv::NORM_INF), 3);
}

}  // namespace
}  // namespace fernleaf
