#include "paper/board_frame.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

namespace fernleaf {
namespace {

// A board with writing on it, light from one side.
cv::Mat board() {
    cv::Mat out(800, 1200, CV_8U, cv::Scalar(225));
    for (int line = 0; line < 6; ++line)
        cv::putText(out, "cover the lower row", {120, 140 + 100 * line}, cv::FONT_HERSHEY_SCRIPT_SIMPLEX, 2,
                    cv::Scalar(60), 5);
    for (int x = 0; x < out.cols; ++x) out.col(x) *= 0.75 + 0.25 * x / out.cols;
    return out;
}

void add_bar(cv::Mat& picture, const cv::Rect& bar) {
    picture(bar) *= 0.7;
    cv::rectangle(picture, bar, cv::Scalar(50), 2);
}

cv::Mat framed() {
    cv::Mat out = board();
    for (const cv::Rect& bar :
         {cv::Rect(0, 0, 1200, 24), cv::Rect(0, 770, 1200, 30), cv::Rect(0, 0, 20, 800), cv::Rect(1176, 0, 24, 800)})
        add_bar(out, bar);
    return out;
}

void expect_near(const cv::Rect& is, const cv::Rect& meant, int by) {
    EXPECT_NEAR(is.x, meant.x, by);
    EXPECT_NEAR(is.y, meant.y, by);
    EXPECT_NEAR(is.br().x, meant.br().x, by);
    EXPECT_NEAR(is.br().y, meant.br().y, by);
}

TEST(BoardFrame, IsFoundAndWhatIsWithinKept) {
    const cv::Rect within = within_frame(framed());
    expect_near(within, {20, 24, 1156, 746}, 12);
    EXPECT_GE(within.y, 24);
    EXPECT_LE(within.br().y, 770);
}

TEST(BoardFrame, TheTrayBelowGoesWithIt) {
    cv::Mat picture = framed();
    add_bar(picture, {200, 735, 800, 35});
    expect_near(within_frame(picture), {20, 24, 1156, 711}, 12);
}

TEST(BoardFrame, ASheetWithRulesAndABorderIsKeptWhole) {
    cv::Mat sheet = board();
    const cv::Rect whole({}, sheet.size());
    EXPECT_EQ(within_frame(sheet), whole);
    cv::rectangle(sheet, {40, 30, 1120, 740}, cv::Scalar(80), 3);  // printed, with paper on both sides
    for (int y = 60; y < 760; y += 50) cv::line(sheet, {0, y}, {1199, y}, cv::Scalar(150), 2);
    EXPECT_EQ(within_frame(sheet), whole);
    add_bar(sheet, {0, 0, 1200, 60});  // a dark heading
    EXPECT_EQ(within_frame(sheet), whole);
    EXPECT_EQ(within_frame(cv::Mat(30, 40, CV_8U, cv::Scalar(200))), cv::Rect(0, 0, 40, 30));
}

}  // namespace
}  // namespace fernleaf
