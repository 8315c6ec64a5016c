#include "paper/cleaning.h"

#include <gtest/gtest.h>

#include "paper/test_photo.h"

namespace fernleaf {
namespace {

const cv::Scalar kBlue{148, 63, 28};

// Yellowish paper that darkens to the right, with a shadow's edge on it, and blue strokes everywhere.
cv::Mat shaded_sheet() {
    cv::Mat sheet(1000, 700, CV_8UC3, cv::Scalar(205, 232, 244));
    for (int y = 40; y < 980; y += 40)
        for (int x = 40; x < 660; x += 30) cv::line(sheet, {x, y}, {x + 14, y + 12}, kBlue, 3, cv::LINE_AA);
    for (int y = 0; y < sheet.rows; ++y)
        for (int x = 0; x < sheet.cols; ++x) {
            const double edge = 1 / (1 + std::exp((x - 400) / 12.0));
            const double light = (1 - 0.2 * x / sheet.cols) * (0.62 + 0.38 * edge);
            for (int c = 0; c < 3; ++c)
                sheet.at<cv::Vec3b>(y, x)[c] = cv::saturate_cast<uchar>(sheet.at<cv::Vec3b>(y, x)[c] * light);
        }
    return sheet;
}

TEST(Cleaning, MakesPaperWhiteAndKeepsTheInksColour) {
    const cv::Mat clean = cleaned(shaded_sheet(), Look::clean);
    for (const int x : {24, 300, 395, 500, 680}) {
        const cv::Scalar paper = cv::mean(clean(cv::Rect(x - 3, 66, 6, 6)));
        for (int c = 0; c < 3; ++c) EXPECT_GT(paper[c], 235) << x;
        EXPECT_LT(std::abs(paper[0] - paper[2]), 8) << "no tint";
    }
    for (const int x : {40, 310, 640}) {  // light, at the shadow's edge, in the shadow
        const auto ink = clean.at<cv::Vec3b>(46, x + 7);
        // The ink as it would be on white paper.
        EXPECT_NEAR(ink[0], 148 * 255 / 205, 22) << x;
        EXPECT_NEAR(ink[1], 63 * 255 / 232, 22) << x;
        EXPECT_NEAR(ink[2], 28 * 255 / 244, 22) << x;
    }
}

TEST(Cleaning, GivesGreyAndBlackAndWhite) {
    const cv::Mat grey = cleaned(shaded_sheet(), Look::grey);
    const auto ink = grey.at<cv::Vec3b>(46, 47);
    EXPECT_EQ(ink[0], ink[2]);
    const cv::Mat two = cleaned(shaded_sheet(), Look::black_white);
    EXPECT_EQ(two.at<cv::Vec3b>(46, 47), cv::Vec3b(0, 0, 0));
    EXPECT_EQ(two.at<cv::Vec3b>(46, 647), cv::Vec3b(0, 0, 0)) << "in the shadow, too";
    EXPECT_EQ(two.at<cv::Vec3b>(70, 680), cv::Vec3b(255, 255, 255));
    const cv::Mat same = shaded_sheet();
    EXPECT_EQ(cv::norm(cleaned(same, Look::original), same, cv::NORM_INF), 0);
}

}  // namespace
}  // namespace fernleaf
