#include "paper/mean_about.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

TEST(MeanAbout, WhatIsKnownIsSpreadByItsWeightAndNothingElse) {
    cv::Mat values(40, 60, CV_32F, cv::Scalar(-1000)), weights(40, 60, CV_32F, cv::Scalar(0));
    values.at<float>(20, 20) = 10, weights.at<float>(20, 20) = 1;
    values.at<float>(20, 40) = 30, weights.at<float>(20, 40) = 3;
    const cv::Mat out = mean_about(values, weights, values.size(), 5);
    EXPECT_NEAR(out.at<float>(20, 20), 10, 0.1);
    EXPECT_NEAR(out.at<float>(20, 40), 30, 0.1);
    EXPECT_NEAR(out.at<float>(5, 30), 25, 0.1) << "as far from both";
}

TEST(MeanAbout, FarFromAllThatIsKnownItIsAsUsual) {
    cv::Mat values(50, 400, CV_32FC3, cv::Scalar(7, 8, 9)), weights(50, 400, CV_32F, cv::Scalar(0));
    weights.colRange(0, 20) = 1;
    const cv::Mat out = mean_about(values, weights, {200, 25}, 4, {1, 2, 3}, 1e-3);
    ASSERT_EQ(out.size(), cv::Size(200, 25));
    EXPECT_NEAR(out.at<cv::Vec3f>(12, 2)[1], 8, 0.05);
    EXPECT_NEAR(out.at<cv::Vec3f>(12, 190)[0], 1, 1e-3);
    EXPECT_NEAR(out.at<cv::Vec3f>(12, 190)[2], 3, 1e-3);
}

}  // namespace
}  // namespace fernleaf
