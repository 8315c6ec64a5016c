#include "paper/pen_blur.h"

#include <gtest/gtest.h>

#include "paper/test_strokes.h"

namespace fernleaf {
namespace {

cv::Mat darkness(const cv::Mat& page) {
    std::vector<cv::Mat> channels;
    cv::split(page, channels);
    return 255 - channels[2];  // the least of this ink's
}

TEST(PenBlur, ABarIsFainterAndSofterTheMoreItIsBlurred) {
    EXPECT_NEAR(seen_bar(20, 1).peak, 1, 1e-6);
    EXPECT_GT(seen_bar(3, 0.5).peak, seen_bar(3, 1).peak);
    EXPECT_GT(seen_bar(3, 0.5).edge, seen_bar(3, 1).edge);
    const SeenBar seen = seen_bar(3, 1.5);
    EXPECT_NEAR(width_behind(3 / seen.peak, 1.5), 3, 0.01);
    EXPECT_NEAR(blur_of(3 / seen.peak, seen.edge / seen.peak), 1.5, 0.05);
}

TEST(PenBlur, ThePensWidthAndTheBlurAreFoundBehindOneAnother) {
    for (const double width : {2.5, 4.0})
        for (const double blur : {0.3, 0.5}) {  // in widths: more, and nothing tells one from the other
            const double px = blur * width;
            const PenBlur found = pen_blur(darkness(written(width, px)));
            EXPECT_NEAR(found.width_px, width, 0.25 * width) << width << " blurred by " << px;
            EXPECT_NEAR(found.blur_px, px, 0.3) << width << " blurred by " << px;
        }
}

TEST(PenBlur, BlankPaperTellsNothing) { EXPECT_EQ(pen_blur(cv::Mat(300, 300, CV_8U, cv::Scalar(0))).width_px, 0); }

}  // namespace
}  // namespace fernleaf
