#include "paper/rule_finding.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

namespace fernleaf {
namespace {

constexpr int kWidth = 1200, kHeight = 900, kRuleDark = 60, kInkDark = 200;

// A page's darkness, and what was drawn on it.
struct Drawn {
    cv::Mat dark{kHeight, kWidth, CV_8U, cv::Scalar(0)};
    PrintedRules rules() const { return rules_across(dark > kFaintestRule, dark > 2 * kFaintestRule, dark); }
};

// Level on the right, bent more and more towards the left edge, as a page that curls away.
int bent(int y, int x) {
    const double left = std::max(0.0, 1 - x / 600.0);
    return y + static_cast<int>(std::lround(-70 * left * left));
}

void rule(Drawn& page, int y) {
    for (int x = 0; x < kWidth; ++x) cv::rectangle(page.dark, cv::Rect(x, bent(y, x), 1, 3), kRuleDark, cv::FILLED);
}

// The share of a rule's length that a mask holds.
double share_of(const cv::Mat& mask, int y) {
    int held = 0;
    for (int x = 0; x < kWidth; ++x) held += mask.at<uchar>(bent(y, x) + 1, x) != 0;
    return static_cast<double>(held) / kWidth;
}

TEST(RuleFinding, RulesThatBendAreFollowedToTheEdge) {
    Drawn page;
    for (int y = 150; y < kHeight; y += 60) rule(page, y);
    const PrintedRules rules = page.rules();
    for (int y = 150; y < kHeight; y += 60) EXPECT_GT(share_of(rules.free, y), 0.99) << y;
    EXPECT_EQ(cv::countNonZero(rules.under), 0);
}

TEST(RuleFinding, AlsoUnderLettersThatStandOnThemAndAcrossUprightRules) {
    Drawn page;
    for (int x = 20; x < kWidth; x += 35) page.dark.colRange(x, x + 3) = kRuleDark;
    for (int y = 150; y < kHeight; y += 60) rule(page, y);
    for (int x = 80; x < 500; x += 24)
        cv::rectangle(page.dark, cv::Rect(x, bent(450, x) - 20, 14, 20), kInkDark, cv::FILLED);
    const PrintedRules rules = page.rules();
    const cv::Mat known = rules.all | rules.under;
    for (int y = 150; y < kHeight; y += 60) EXPECT_GT(share_of(known, y), 0.98) << y;
    for (int x = 80; x < 500; x += 24)
        EXPECT_EQ(known.at<uchar>(bent(450, x) - 10, x + 7), 0) << "a letter is no rule, at " << x;
}

TEST(RuleFinding, WhatIsDarkerThanARuleLiesOnIt) {
    Drawn page;
    page.dark.rowRange(400, 403) = kRuleDark;
    for (int x = 200; x < 1000; x += 100) cv::rectangle(page.dark, cv::Rect(x, 370, 5, 70), kInkDark, cv::FILLED);
    const PrintedRules rules = page.rules();
    for (int x = 200; x < 1000; x += 100) {
        EXPECT_NE(rules.under.at<uchar>(401, x + 2), 0) << x;
        EXPECT_EQ(rules.free.at<uchar>(401, x + 2), 0) << x;
        EXPECT_NE(rules.free.at<uchar>(401, x + 50), 0) << x;
    }
}

TEST(RuleFinding, ThoseDownAPageAreThoseAcrossItTurned) {
    Drawn page;
    for (int y = 150; y < kHeight; y += 60) rule(page, y);
    const PrintedRules across = page.rules();
    const cv::Mat turned = page.dark.t();
    const PrintedRules down = rules_down(turned > kFaintestRule, turned > 2 * kFaintestRule, turned);
    ASSERT_GT(cv::countNonZero(across.free), 0);
    EXPECT_EQ(cv::countNonZero(down.free != across.free.t()), 0);
    EXPECT_EQ(cv::countNonZero(down.all != across.all.t()), 0);
    EXPECT_EQ(cv::countNonZero(rules_down(page.dark > kFaintestRule, page.dark > 100, page.dark).all), 0);
}

TEST(RuleFinding, WhereARuleEndsNothingIsFollowed) {
    Drawn page;
    page.dark(cv::Rect(300, 400, 600, 3)) = kRuleDark;
    for (int x = 920; x < 1150; x += 30) cv::line(page.dark, {x, 380}, {x + 12, 420}, kInkDark, 4);
    const PrintedRules rules = page.rules();
    const cv::Mat known = rules.all | rules.under;
    EXPECT_GT(cv::countNonZero(known.row(401)), 590);
    EXPECT_EQ(cv::countNonZero(known.colRange(912, kWidth)), 0);
    EXPECT_EQ(cv::countNonZero(known.colRange(0, 290)), 0);
}

TEST(RuleFinding, WritingAndBlankPaperHaveNone) {
    Drawn page;
    EXPECT_EQ(cv::countNonZero(page.rules().all), 0);
    for (int y = 100; y < 800; y += 60)
        for (int x = 60; x < 1100; x += 25) cv::line(page.dark, {x, y}, {x + 9, y + 30}, kInkDark, 4);
    EXPECT_EQ(cv::countNonZero(page.rules().all), 0);
}

}  // namespace
}  // namespace fernleaf
