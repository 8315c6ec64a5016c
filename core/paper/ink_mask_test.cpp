#include "paper/ink_mask.h"

#include <gtest/gtest.h>

#include <cmath>

#include "paper/test_photo.h"

namespace fernleaf {
namespace {

TEST(InkMask, RulesAndSquaresAreNoInkAndStrokesOnThemStay) {
    cv::Mat sheet(1200, 850, CV_8U, cv::Scalar(240));
    for (int y = 50; y < 1200; y += 40) cv::line(sheet, {0, y}, {850, y + 8}, 190, 2);  // a little aslant
    for (int x = 50; x < 850; x += 40) cv::line(sheet, {x + 12, 0}, {x, 1200}, 190, 2);
    cv::line(sheet, {200, 210}, {230, 270}, 40, 4, cv::LINE_AA);  // crosses a rule
    cv::line(sheet, {400, 453}, {430, 454}, 40, 4, cv::LINE_AA);  // lies on one
    const InkMask ink = ink_mask(sheet);
    ASSERT_EQ(ink.pieces.size(), 2U);
    for (const InkPiece& piece : ink.pieces)
        EXPECT_GE(std::max(piece.box.width, piece.box.height), 28) << "whole: neither cut nor thinned";
    EXPECT_GT(cv::countNonZero(ink.rules), 40000);
}

TEST(InkMask, WhatLooksInFromBesideTheSheetIsNoInk) {
    cv::Mat sheet(1200, 850, CV_8U, cv::Scalar(240));
    scrawl(sheet, {{{{0, 0}, {850, 0}, {850, 1200}, {0, 1200}}}, {}});
    const size_t before = ink_mask(sheet).pieces.size();
    cv::rectangle(sheet, {0, 0}, {850, 2}, 60, cv::FILLED);                                        // a sliver of table
    cv::fillConvexPoly(sheet, std::vector<cv::Point>{{850, 1200}, {850, 1120}, {790, 1200}}, 60);  // a torn corner
    EXPECT_EQ(ink_mask(sheet).pieces.size(), before);
}

// How much of the page is ink.
int inked(const InkMask& ink) {
    int area = 0;
    for (const InkPiece& piece : ink.pieces) area += piece.area;
    return area;
}

TEST(InkMask, AShadowsSoftEdgeIsNoInkAndWritingInItIs) {
    cv::Mat sheet(1200, 850, CV_8U, cv::Scalar(240));
    scrawl(sheet, {{{{0, 0}, {850, 0}, {850, 1200}, {0, 1200}}}, {}});
    const InkMask before = ink_mask(sheet);
    for (int y = 0; y < sheet.rows; ++y)
        for (int x = 0; x < sheet.cols; ++x) {
            const double edge = 1 / (1 + std::exp((y - 500 - 0.3 * x) / 9.0));
            sheet.at<uchar>(y, x) = cv::saturate_cast<uchar>(sheet.at<uchar>(y, x) * (0.42 + 0.58 * edge));
        }
    const InkMask after = ink_mask(sheet);
    EXPECT_EQ(after.pieces.size(), before.pieces.size());
    EXPECT_NEAR(inked(after), inked(before), 0.15 * inked(before));
}

TEST(InkMask, RulesOfAPageThatBendsAreTakenOutEverywhere) {
    cv::Mat sheet(1200, 1000, CV_8U, cv::Scalar(240));
    for (int y = 80; y < 1200; y += 40) {
        std::vector<cv::Point> rule;  // level on the right, and steeper and steeper to the left
        for (int x = 0; x <= 1000; x += 10)
            rule.emplace_back(x, y + static_cast<int>(x < 500 ? 0.00005 * (500 - x) * (500 - x) : 0));
        cv::polylines(sheet, std::vector{rule}, false, 195, 2, cv::LINE_AA);
    }
    const InkMask ink = ink_mask(sheet);
    EXPECT_EQ(ink.pieces.size(), 0U);
    EXPECT_GT(cv::countNonZero(ink.rules), 40000);
    // A word on the steep part keeps its strokes.
    cv::line(sheet, {120, 260}, {140, 300}, 40, 4, cv::LINE_AA);
    cv::line(sheet, {160, 300}, {180, 260}, 40, 4, cv::LINE_AA);
    EXPECT_EQ(ink_mask(sheet).pieces.size(), 2U);
}

TEST(InkMask, DotsAreInkAndCrumbsOfRulesAreNot) {
    cv::Mat sheet(1200, 850, CV_8U, cv::Scalar(240));
    for (int y = 50; y < 1200; y += 40) cv::line(sheet, {0, y}, {850, y}, 190, 2);
    for (int x = 100; x < 700; x += 30) cv::line(sheet, {x, 215}, {x + 6, 242}, 40, 6, cv::LINE_AA);
    const size_t before = ink_mask(sheet).pieces.size();
    cv::circle(sheet, {120, 204}, 1, 60, cv::FILLED, cv::LINE_AA);  // of an i, blurred small
    EXPECT_EQ(ink_mask(sheet).pieces.size(), before + 1);
    cv::circle(sheet, {720, 252}, 1, 180, cv::FILLED, cv::LINE_AA);  // on a rule, and as faint
    EXPECT_EQ(ink_mask(sheet).pieces.size(), before + 1);
    cv::circle(sheet, {720, 244}, 2, 60, cv::FILLED, cv::LINE_AA);  // a dot at the end of a line, just above a rule
    EXPECT_EQ(ink_mask(sheet).pieces.size(), before + 2);
}

TEST(InkMask, DotsThatBlurMadeFainterThanStrokesAreInk) {
    cv::Mat sheet(1200, 850, CV_8U, cv::Scalar(240));
    for (int y = 100; y < 1100; y += 50)
        for (int x = 100; x < 700; x += 30) cv::line(sheet, {x, y}, {x + 4, y + 27}, 40, 3, cv::LINE_AA);
    cv::GaussianBlur(sheet, sheet, {}, 1.6);
    cv::Mat grain(sheet.size(), CV_8U);
    cv::randn(grain, 4, 2);
    sheet -= grain;
    const size_t before = ink_mask(sheet).pieces.size();
    // A blurred dot, beside the end of a stroke; another, far from all writing, is a speck.
    const auto dot = [&](cv::Point at, double dark) {
        for (int y = -5; y <= 5; ++y)
            for (int x = -5; x <= 5; ++x)
                sheet.at<uchar>(at.y + y, at.x + x) -=
                    static_cast<uchar>(dark * std::exp(-(x * x + y * y) / (2 * 1.8 * 1.8)));
    };
    constexpr double kFaint = 48;  // strokes are more than three times as dark
    dot({684, 327}, kFaint);
    EXPECT_EQ(ink_mask(sheet).pieces.size(), before + 1);
    dot({790, 327}, kFaint);
    EXPECT_EQ(ink_mask(sheet).pieces.size(), before + 1);
}

TEST(InkMask, EndsOfRulesThatBendMuchAreNoInkAndLongStrokesBesideThemAre) {
    cv::Mat sheet(1200, 1000, CV_8U, cv::Scalar(240));
    for (int x = 40; x < 1000; x += 40) {  // upright, and at the top bent more than a rule in any part may be
        cv::line(sheet, {x, 120}, {x, 1200}, 190, 2, cv::LINE_AA);
        cv::line(sheet, {x - 34, 0}, {x, 120}, 190, 2, cv::LINE_AA);
    }
    EXPECT_EQ(ink_mask(sheet).pieces.size(), 0U);
    cv::line(sheet, {410, 300}, {424, 380}, 60, 4, cv::LINE_AA);
    EXPECT_EQ(ink_mask(sheet).pieces.size(), 1U) << "darker than rules";
    cv::line(sheet, {470, 20}, {484, 90}, 190, 2, cv::LINE_AA);
    EXPECT_EQ(ink_mask(sheet).pieces.size(), 2U) << "as faint as a rule, but touches none";
}

TEST(InkMask, ABitThinnerThanStrokesAndAsFaintAsRulesIsNoInkAndADashIs) {
    cv::Mat sheet(1200, 850, CV_8U, cv::Scalar(240));
    for (int y = 50; y < 1200; y += 40) cv::line(sheet, {0, y}, {850, y}, 190, 2);
    for (int x = 100; x < 700; x += 30) cv::line(sheet, {x, 215}, {x + 6, 242}, 40, 6, cv::LINE_AA);
    const size_t before = ink_mask(sheet).pieces.size();
    cv::line(sheet, {600, 312}, {640, 312}, 190, 1);  // between two rules, touching neither
    EXPECT_EQ(ink_mask(sheet).pieces.size(), before);
    cv::line(sheet, {600, 392}, {640, 392}, 60, 6);
    EXPECT_EQ(ink_mask(sheet).pieces.size(), before + 1);
}

TEST(InkMask, AStrokeIsNoDarkerWhereItLiesOnARule) {
    cv::Mat rules(1200, 850, CV_8U, cv::Scalar(255)), ink = rules.clone(), sheet;
    for (int y = 50; y < 1200; y += 40) cv::line(rules, {0, y}, {850, y}, 180, 3);
    for (int x = 100; x < 700; x += 30) cv::line(ink, {x, 220}, {x + 6, 280}, 120, 4, cv::LINE_AA);  // crosses 250
    cv::multiply(rules, ink, sheet, 240 / 255.0 / 255.0);  // both take their share of the light
    const InkMask mask = ink_mask(sheet);
    EXPECT_EQ(mask.pieces.size(), 20U);
    const auto darkest = [&](int y) {
        double out = 0;
        cv::minMaxLoc(mask.dark(cv::Rect(100, y, 10, 1)), nullptr, &out);
        return out;
    };
    EXPECT_LT(sheet.at<uchar>(250, 103), sheet.at<uchar>(235, 102) - 20);
    EXPECT_NEAR(darkest(250), darkest(235), 12);
}

TEST(InkMask, BitsOfRulesBesideStrokesAreRules) {
    cv::Mat rules(1200, 850, CV_8U, cv::Scalar(255)), ink = rules.clone(), sheet;
    for (int y = 50; y < 1200; y += 40) cv::line(rules, {0, y}, {850, y}, 150, 3);
    for (int x = 100; x < 700; x += 60) {
        cv::ellipse(ink, {x, 240}, {14, 12}, 0, 0, 360, 60, 4, cv::LINE_AA);
        cv::line(ink, {x + 14, 222}, {x + 34, 252}, 60, 4, cv::LINE_AA);
    }
    for (cv::Mat* layer : {&rules, &ink}) cv::GaussianBlur(*layer, *layer, {}, 1);
    cv::multiply(rules, ink, sheet, 240 / 255.0 / 255.0);
    ink *= 240 / 255.0;
    const auto area = [](const InkMask& mask) {
        double out = 0;
        for (const InkPiece& piece : mask.pieces) out += piece.area;
        return out;
    };
    EXPECT_NEAR(area(ink_mask(sheet)) / area(ink_mask(ink)), 1, 0.012);
}

TEST(InkMask, BlankPaperHasNoInk) {
    EXPECT_TRUE(ink_mask(cv::Mat(400, 300, CV_8U, cv::Scalar(240))).pieces.empty());
    cv::Mat wide(100, 3400, CV_8UC3, cv::Scalar::all(240));
    cv::line(wide, {1000, 40}, {1100, 60}, cv::Scalar::all(30), 8);
    const InkMask ink = ink_of_page(wide);
    EXPECT_EQ(ink.dark.cols, kInkWidthPx);
    EXPECT_EQ(ink.pieces.size(), 1U);
}

TEST(InkMask, WhatLooksInFromBesideTheSheetTellsNoPensWidth) {
    cv::Mat page(700, 900, CV_8U, cv::Scalar(240));
    for (int y = 80; y < 480; y += 50)
        for (int x = 80; x < 700; x += 26) cv::line(page, {x, y}, {x + 8, y + 22}, cv::Scalar(60), 4, cv::LINE_AA);
    const double alone = ink_mask(page).stroke_px;
    // The ground below the sheet: broad and dark, and by its area more than all that is written.
    for (int x = 20; x < 860; x += 60) cv::rectangle(page, cv::Rect(x, 540, 24, 160), cv::Scalar(30), cv::FILLED);
    EXPECT_NEAR(ink_mask(page).stroke_px, alone, 1);
}

}  // namespace
}  // namespace fernleaf
