#include "paper/scan_lines.h"

#include <gtest/gtest.h>

#include <cmath>
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

TEST(ScanLines, WordsThatTieTwoLinesArePartedWhereTheyTouch) {
    // A joined hand: each word is one wave.
    cv::Mat page(700, 1000, CV_8UC3, cv::Scalar(235, 245, 250));
    for (int line = 0; line < 6; ++line)
        for (int word = 0; word < 4; ++word) {
            std::vector<cv::Point> wave;
            for (int x = 0; x <= 150; x += 3)
                wave.emplace_back(100 + 200 * word + x, 130 + 80 * line + static_cast<int>(18 * std::sin(x * 0.2)));
            cv::polylines(page, wave, false, {45, 25, 15}, 3, cv::LINE_AA);
        }
    cv::line(page, {360, 200}, {372, 308}, {45, 25, 15}, 3, cv::LINE_AA);  // a tail that reaches into the line below
    const ScannedPage scan = scan_page(page);
    ASSERT_EQ(scan.lines.size(), 6U);
    for (size_t i = 0; i < 6; ++i) {
        EXPECT_FALSE(scan.lines[i].drawing);
        EXPECT_NEAR(scan.lines[i].box_px.x, 100, 15);
        EXPECT_NEAR(scan.lines[i].box_px.width, 750, 20);
        EXPECT_LT(scan.lines[i].box_px.height, 95);
    }
}

TEST(ScanLines, ABracketBesideSeveralLinesStaysWhole) {
    cv::Mat page = sheet(6, false);
    cv::ellipse(page, {80, 265}, {35, 135}, 0, 100, 260, {45, 25, 15}, 4, cv::LINE_AA);
    const ScannedPage scan = scan_page(page);
    const auto bracket =
        std::ranges::find_if(scan.lines, [](const ScanLine& line) { return line.box_px.height > 250; });
    ASSERT_NE(bracket, scan.lines.end());
    EXPECT_TRUE(bracket->drawing);
    EXPECT_EQ(scan.lines.size(), 7U);
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

TEST(ScanLines, EachWordHasThePiecesAboutItThatStandOnTheBaseline) {
    cv::Mat page(400, 1000, CV_8UC3, cv::Scalar::all(250));
    for (int letter = 0; letter < 20; ++letter)  // five words of four letters
        cv::circle(page, {100 + 36 * letter + 30 * (letter / 4), 200}, 11, cv::Scalar::all(30), 3, cv::LINE_AA);
    const ScannedPage scan = scan_page(page);
    ASSERT_EQ(scan.lines.size(), 1U);
    const ScanLine& line = scan.lines[0];
    std::vector<WordReading> words(5);
    for (size_t i = 0; i < 5; ++i) {
        const double left = 82 + 174.0 * static_cast<double>(i) - line.box_px.x;
        words[i].begin = (left - line.picture.left) * line.picture.scale;
        words[i].end = (left + 140 - line.picture.left) * line.picture.scale;
    }
    ASSERT_NEAR(span_of(line, words[1]).begin, 82 + 174, 1) << "the words lie where the letters do";
    const auto offsets = offsets_about_words(scan, line, words);
    ASSERT_EQ(offsets.size(), 5U);
    // Its own four and four of each word beside it.
    for (size_t i = 0; i < 5; ++i) EXPECT_EQ(offsets[i].size(), i == 0 || i == 4 ? 8U : 12U) << i;
    for (const BaselineOffset& offset : offsets[2]) EXPECT_LT(std::abs(offset.offset), 0.02);
    EXPECT_TRUE(offsets_about_words(scan, line, {}).empty());
}

}  // namespace
}  // namespace fernleaf
