#include "paper/picture_faults.h"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>

#include "paper/test_photo.h"

namespace fernleaf {
namespace {

TEST(PictureFaults, TellsOfBlurGlareAndTooFewPixels) {
    cv::Mat sheet(1400, 1000, CV_8UC3, cv::Scalar(200, 205, 205));
    scrawl(sheet, {{{{0, 0}, {1000, 0}, {1000, 1400}, {0, 1400}}}, {}});
    const Faults fine = faults_of(sheet, 210);
    EXPECT_FALSE(fine.blurred || fine.glare || fine.low_resolution);
    cv::Mat soft;
    cv::GaussianBlur(sheet, soft, {}, 4);
    EXPECT_TRUE(faults_of(soft, 210).blurred);
    EXPECT_TRUE(faults_of(sheet, 420).low_resolution);
    cv::circle(sheet, {500, 700}, 120, {255, 255, 255}, cv::FILLED);
    EXPECT_TRUE(faults_of(sheet, 210).glare);
}

cv::Mat written_sheet() {
    cv::Mat sheet(1400, 1000, CV_8UC3, cv::Scalar(200, 205, 205));
    scrawl(sheet, {{{{0, 0}, {1000, 0}, {1000, 1400}, {0, 1400}}}, {}});
    return sheet;
}

void shine(cv::Mat& sheet, const std::function<double(int, int)>& light) {
    sheet.forEach<cv::Vec3b>([&](cv::Vec3b& at, const int* where) {
        for (int c = 0; c < 3; ++c) at[c] = cv::saturate_cast<uchar>(at[c] * light(where[1], where[0]));
    });
}

TEST(PictureFaults, AFlashThatBurnsTheMiddleOutIsGlare) {
    cv::Mat sheet = written_sheet();
    shine(sheet, [](int x, int y) { return 1.05 + std::exp(-(std::pow(x - 500, 2) + std::pow(y - 700, 2)) / 90000); });
    EXPECT_TRUE(faults_of(sheet, 210).glare);
}

TEST(PictureFaults, AScanOnWhiteIsNotWashedOut) {
    cv::Mat sheet(1400, 1000, CV_8UC3, cv::Scalar::all(255));
    scrawl(sheet, {{{{0, 0}, {1000, 0}, {1000, 1400}, {0, 1400}}}, {}});
    EXPECT_EQ(faults_of(sheet, 210), Faults());
}

TEST(PictureFaults, TheDotsOfAScreenAreToldRulesAndSquaresAreNot) {
    cv::Mat screen = written_sheet();
    shine(screen, [](int x, int) { return x % 3 == 0 ? 0.7 : 1; });
    EXPECT_TRUE(faults_of(screen, 210).screen);
    cv::Mat squares = written_sheet();
    shine(squares, [](int x, int y) { return x % 24 == 0 || y % 24 == 0 ? 0.7 : 1; });
    EXPECT_FALSE(faults_of(squares, 210).screen);
}

TEST(PictureFaults, CreasesAllOverAreToldAShadowsEdgeIsNot) {
    cv::Mat crumpled = written_sheet();
    shine(crumpled, [](int x, int y) {
        return 0.85 + 0.15 * std::sin(x / 22.0 + std::sin(y / 60.0) * 3) * std::sin(y / 26.0 + std::sin(x / 70.0) * 3);
    });
    EXPECT_TRUE(faults_of(crumpled, 210).creased);
    cv::Mat shadow = written_sheet();
    shine(shadow, [](int x, int y) { return x + y / 2 < 800 ? 1 : 0.6; });
    EXPECT_FALSE(faults_of(shadow, 210).creased);
}

TEST(PictureFaults, APhotographOfNoSheetIsNotLikePaper) {
    EXPECT_TRUE(like_paper(written_sheet()));
    cv::Mat dark(900, 1200, CV_8UC3, cv::Scalar(40, 60, 50));
    EXPECT_FALSE(like_paper(dark));
    cv::Mat uneven = written_sheet();
    shine(uneven, [](int x, int y) { return x < 400 && y < 800 ? 0.3 : 1; });
    EXPECT_FALSE(like_paper(uneven));
}

}  // namespace
}  // namespace fernleaf
