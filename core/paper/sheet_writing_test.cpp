#include "paper/sheet_writing.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

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

}  // namespace
}  // namespace fernleaf
