#include "paper/sheet_writing.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

#include "paper/quadrilateral.h"
#include "paper/sheet_finding.h"
#include "paper/test_photo.h"

namespace fernleaf {
namespace {

const SheetOutline kSheet{{{{60, 40}, {560, 50}, {550, 760}, {70, 750}}}, {}};

cv::Mat blank_photo() {
    cv::Mat out(800, 1200, CV_8UC3, cv::Scalar(40, 60, 80));
    const std::vector<cv::Point> corners{{60, 40}, {560, 50}, {550, 760}, {70, 750}};
    cv::fillConvexPoly(out, corners, cv::Scalar(235, 238, 240), cv::LINE_AA);
    return out;
}

TEST(SheetWriting, LinesOfWordsAreMuchABlankSheetWithASeamIsNone) {
    cv::Mat photo = blank_photo();
    cv::line(photo, {300, 40}, {305, 756}, cv::Scalar(120, 120, 120), 3);
    EXPECT_EQ(writing_on(photo, kSheet), Writing::none);
    scrawl(photo, kSheet);
    EXPECT_EQ(writing_on(photo, kSheet), Writing::much);
}

TEST(SheetWriting, WhatIsTooSmallIsNotJudged) {
    cv::Mat photo = blank_photo();
    const SheetOutline small{{{{100, 100}, {160, 100}, {160, 180}, {100, 180}}}, {}};
    EXPECT_EQ(writing_on(photo, small), Writing::little);
}

TEST(SheetWriting, ABlankPanelBesideAWrittenPageIsNoSheet) {
    cv::Mat photo = blank_photo();
    scrawl(photo, kSheet);
    const std::vector<cv::Point> panel{{720, 120}, {1120, 120}, {1120, 620}, {720, 620}};
    cv::fillConvexPoly(photo, panel, cv::Scalar(228, 232, 236), cv::LINE_AA);
    const std::vector<FoundSheet> found = find_sheets(photo, 4);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_NEAR(found[0].outline.corners[0].x, 60, 6);
    // By itself it may be what someone wants to keep.
    cv::Mat alone(800, 1200, CV_8UC3, cv::Scalar(40, 60, 80));
    cv::fillConvexPoly(alone, panel, cv::Scalar(228, 232, 236), cv::LINE_AA);
    EXPECT_EQ(find_sheets(alone, 4).size(), 1U);
}

TEST(SheetWriting, SquaresThatJoinAllThatIsWrittenAreNotBlank) {
    cv::Mat photo = blank_photo();
    for (int at = 20; at < 700; at += 20) {
        cv::line(photo, {60, 40 + at}, {556, 40 + at}, cv::Scalar(150, 140, 140), 2);
        if (at < 480) cv::line(photo, {66 + at, 44}, {66 + at, 750}, cv::Scalar(150, 140, 140), 2);
    }
    EXPECT_NE(writing_on(photo, kSheet), Writing::none);
}

TEST(SheetWriting, TheMapTellsWhereWritingStands) {
    cv::Mat photo = blank_photo();
    const std::array<Point, 4> sheet{{{30, 20}, {280, 25}, {275, 380}, {35, 375}}};  // in halves, as the map is asked
    const std::array<Point, 4> beside{{{320, 20}, {580, 20}, {580, 380}, {320, 380}}};
    EXPECT_EQ(WritingMap(photo, 0.5).spots(sheet), 0);
    EXPECT_TRUE(WritingMap(photo, 0.5).blocks().empty());
    scrawl(photo, kSheet);
    const WritingMap map(photo, 0.5);
    EXPECT_GT(map.spots(sheet), 100);
    EXPECT_GT(map.dark(sheet), 0.01);
    EXPECT_EQ(map.spots(beside), 0);
    EXPECT_LT(map.dark(beside), 0.001);
    const std::vector<Box> blocks = map.blocks();
    ASSERT_FALSE(blocks.empty());
    for (const Box& block : blocks) {
        EXPECT_GT(block.left, 30);
        EXPECT_LT(block.right, 280);
    }
}

TEST(SheetWriting, ARectangleLiesCloselyAboutWhatIsWritten) {
    cv::Mat photo = blank_photo();
    EXPECT_FALSE(WritingMap(photo, 0.5).rectangle_about({0, 0, 600, 400})) << "nothing is written";
    scrawl(photo, kSheet);
    const WritingMap map(photo, 0.5);
    const auto about = map.rectangle_about({0, 0, 600, 400});
    ASSERT_TRUE(about);
    // What is written covers three quarters of the sheet and more, and no more than that.
    const std::array<Point, 4> sheet{{{30, 20}, {280, 25}, {275, 380}, {35, 375}}};
    EXPECT_GT(area(*about), 0.4 * area(sheet));
    EXPECT_LT(area(*about), 0.9 * area(sheet));
    EXPECT_GT(shared_area(*about, sheet), 0.98 * area(*about));
    EXPECT_FALSE(map.rectangle_about({320, 20, 580, 380})) << "beside it";
}

}  // namespace
}  // namespace fernleaf
