#include "reading/raster.h"

#include <gtest/gtest.h>

#include <cmath>
#include <opencv2/imgproc.hpp>

namespace fernleaf {
namespace {

Stroke zigzag(double left, double baseline, double height, int teeth, double slope = 0, double step = 1) {
    Stroke s;
    for (int i = 0; i <= 2 * teeth; ++i)
        s.points.push_back({{left + i * step, baseline - (i % 2 == 0 ? 0 : height) + slope * i * step}});
    return s;
}

double ink_centre(const cv::Mat& m) {
    double sum = 0, weighted = 0;
    for (int y = 0; y < m.rows; ++y)
        for (int x = 0; x < m.cols; ++x) sum += m.at<uchar>(y, x), weighted += m.at<uchar>(y, x) * (y + 0.5);
    return weighted / sum;
}

TEST(Raster, IsTheSameForSmallAndLargeWriting) {
    const Stroke small = zigzag(10, 50, 2, 8, 0, 0.5);
    const Stroke large = zigzag(100, 80, 20, 8, 0, 5);
    const LinePicture a = draw_line({&small}, 0);
    const LinePicture b = draw_line({&large}, 0);
    ASSERT_EQ(a.pixels.size(), b.pixels.size());
    EXPECT_LT(cv::norm(a.pixels, b.pixels, cv::NORM_L1) / static_cast<double>(a.pixels.total()), 2);
    EXPECT_NEAR(ink_centre(a.pixels), kLineHeightPx / 2.0, 0.7);
}

TEST(Raster, LevelsASlopingLine) {
    const Stroke flat = zigzag(10, 50, 3, 30);
    const Stroke sloping = zigzag(10, 50, 3, 30, 0.2);
    const LinePicture a = draw_line({&flat}, 0);
    const LinePicture b = draw_line({&sloping}, 0.2);
    ASSERT_EQ(a.pixels.size(), b.pixels.size());
    EXPECT_LT(cv::norm(a.pixels, b.pixels, cv::NORM_L1) / static_cast<double>(a.pixels.total()), 2);
}

TEST(Raster, ColumnsLeadBackToTheSource) {
    const Stroke s = zigzag(30, 50, 3, 10);
    const LinePicture line = draw_line({&s}, 0);
    EXPECT_NEAR(line.source_x(kLineMarginPx), 30, 0.01);
    EXPECT_NEAR(line.source_x(line.pixels.cols - kLineMarginPx), 50, 1 / line.scale);
}

TEST(Raster, TakesDotsDashesAndEndlessLines) {
    Stroke dot, dash, endless;
    dot.points = {{{5, 5}}};
    dash.points = {{{0, 0}}, {{10, 0}}};
    for (int i = 0; i < 100'000; ++i) endless.points.push_back({{i * 1.0, i % 2 == 0 ? 0.0 : 1.0}});
    EXPECT_GT(cv::countNonZero(draw_line({&dot}, 0).pixels), 0);
    EXPECT_LT(draw_line({&dash}, 0).pixels.cols, 60);
    EXPECT_LE(draw_line({&endless}, 0).pixels.cols, kLongestLinePx + 1);
    EXPECT_TRUE(draw_line({}, 0).pixels.empty());
    EXPECT_TRUE(fit_line(cv::Mat::zeros(50, 50, CV_8U), 0).pixels.empty());
}

TEST(Raster, InkAndItsScanGiveLikePictures) {
    const Stroke s = zigzag(10, 50, 3, 12);
    const LinePicture ink = draw_line({&s}, 0);
    cv::Mat large;
    cv::resize(ink.pixels, large, {}, 2, 2, cv::INTER_LINEAR);
    cv::Mat page = cv::Mat::zeros(200, large.cols + 100, CV_8U);
    large.copyTo(page(cv::Rect(40, 60, large.cols, large.rows)));
    const LinePicture scan = fit_line(page, 0);
    EXPECT_NEAR(scan.pixels.cols, ink.pixels.cols, 6);
    EXPECT_NEAR(ink_centre(scan.pixels), kLineHeightPx / 2.0, 1.0);
}

}  // namespace
}  // namespace fernleaf
