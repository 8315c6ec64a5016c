#include "paper/scan_lines.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

namespace fernleaf {
namespace {

// A sheet with lines of words, unevenly lit, on request with printed rules.
cv::Mat sheet(int lines, bool rules) {
    cv::Mat page(1400, 1000, CV_8UC3, cv::Scalar(235, 245, 250));
    for (int i = 0; i < lines; ++i) {
        const int y = 150 + 80 * i;
        if (rules) cv::line(page, {40, y + 4}, {960, y + 4}, {200, 180, 160}, 2);
        cv::putText(page, "autumn pear harvest", {100, y}, cv::FONT_HERSHEY_SCRIPT_SIMPLEX, 1.6, {90, 50, 30}, 3,
                    cv::LINE_AA);
    }
    for (int y = 0; y < page.rows; ++y)
        for (int x = 0; x < page.cols; ++x) page.at<cv::Vec3b>(y, x) *= 0.6 + 0.4 * x / page.cols;
    return page;
}

TEST(ScanLines, FindsTheLinesOfAnUnevenlyLitSheet) {
    const auto lines = scan_page(sheet(10, false)).lines;
    ASSERT_EQ(lines.size(), 10U);
    for (size_t i = 0; i < 10; ++i) {
        EXPECT_FALSE(lines[i].drawing);
        EXPECT_NEAR(lines[i].box_px.x, 100, 15);
        EXPECT_NEAR(lines[i].box_px.y + lines[i].box_px.height / 2, 140 + 80 * static_cast<int>(i), 16);
        EXPECT_EQ(lines[i].picture.pixels.rows, kLineHeightPx);
    }
}

TEST(ScanLines, LeavesPrintedRulesOut) {
    const auto plain = scan_page(sheet(8, false)).lines;
    const auto ruled = scan_page(sheet(8, true)).lines;
    ASSERT_EQ(ruled.size(), plain.size());
    for (size_t i = 0; i < plain.size(); ++i)
        EXPECT_NEAR(ruled[i].picture.pixels.cols, plain[i].picture.pixels.cols, 0.15 * plain[i].picture.pixels.cols);
}

TEST(ScanLines, AnEmptySheetHasNone) {
    EXPECT_TRUE(scan_page({}).lines.empty());
    EXPECT_TRUE(scan_page(cv::Mat(500, 400, CV_8UC3, cv::Scalar(250, 250, 250))).lines.empty());
}

TEST(ScanLines, PlacesLeadBackToThePicture) {
    const auto lines = scan_page(sheet(3, false)).lines;
    ASSERT_EQ(lines.size(), 3U);
    const LinePicture& p = lines[1].picture;
    EXPECT_NEAR(lines[1].box_px.x + p.source_x(kLineMarginPx), 100, 12);
}

}  // namespace
}  // namespace fernleaf
