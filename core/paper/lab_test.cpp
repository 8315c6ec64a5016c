#include "paper/lab.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

namespace fernleaf {
namespace {

TEST(Lab, IsWhatOpenCvMakesOfIt) {
    cv::Mat colours(32, 64, CV_8UC3), floats, expected;
    cv::RNG rng(3);
    rng.fill(colours, cv::RNG::UNIFORM, 0, 256);
    colours.convertTo(floats, CV_32F, 1 / 255.0);
    cv::cvtColor(floats, expected, cv::COLOR_BGR2Lab);
    EXPECT_LT(cv::norm(to_lab(colours), expected, cv::NORM_INF), 0.3);  // OpenCV's own tables are coarser
    for (int x = 0; x < colours.cols; ++x) {
        const cv::Vec3d one = lab_of(cv::Vec3d(colours.at<cv::Vec3b>(5, x)));
        EXPECT_LT(cv::norm(one - cv::Vec3d(to_lab(colours).at<cv::Vec3f>(5, x))), 0.02);
    }
}

TEST(Lab, KnowsBlackWhiteAndRed) {
    const auto expect = [](const cv::Vec3d& bgr, const cv::Vec3d& lab) { EXPECT_LT(cv::norm(lab_of(bgr) - lab), 0.1); };
    expect({0, 0, 0}, {0, 0, 0});
    expect({255, 255, 255}, {100, 0, 0});
    expect({0, 0, 255}, {53.24, 80.09, 67.20});
}

}  // namespace
}  // namespace fernleaf
