#include "paper/straightening.h"

#include <gtest/gtest.h>

#include <array>

#include "paper/test_photo.h"

namespace fernleaf {
namespace {

// An A4 sheet through a pinhole camera, tilted and turned.
SheetOutline seen(double tilt, double turn, double aspect, cv::Size picture) {
    SheetOutline out;
    const double signs[4][2] = {{-1, -1}, {1, -1}, {1, 1}, {-1, 1}};
    for (size_t i = 0; i < 4; ++i) {
        const double x = signs[i][0] * aspect / 2, y = signs[i][1] / 2;
        const double u = x * std::cos(turn) - y * std::sin(turn), v = x * std::sin(turn) + y * std::cos(turn);
        const double depth = 2 + v * std::sin(tilt);
        const double focal = 1.05 * picture.height;
        out.corners[i] = {picture.width / 2.0 + focal * u / depth,
                          picture.height / 2.0 + focal * v * std::cos(tilt) / depth};
    }
    return out;
}

TEST(Straightening, TellsTheSheetsProportionsFromItsCorners) {
    const cv::Size picture(1500, 2000);
    for (const double tilt : {0.0, 0.3, 0.7})
        for (const double turn : {0.0, 0.2, 0.4})
            for (const double aspect : {0.7071, 1.0, 1.9})
                EXPECT_NEAR(aspect_of(seen(tilt, turn, aspect, picture), picture) / aspect, 1, 0.02)
                    << tilt << ' ' << turn;
}

TEST(Straightening, LaysASheetFlat) {
    const SheetOutline outline = seen(0.6, 0.3, 0.7071, {900, 1200});
    cv::Mat photo = table({900, 1200}, {40, 60, 80});
    lay_sheet(photo, outline);
    // A dot in its middle and one near its lower right corner.
    const cv::Size size = flat_size(outline, photo.size());
    EXPECT_NEAR(static_cast<double>(size.width) / size.height, 0.7071, 0.01);
    const std::array<cv::Point2f, 4> unit{{{0, 0}, {1, 0}, {1, 1}, {0, 1}}};
    std::array<cv::Point2f, 4> to;
    for (size_t i = 0; i < 4; ++i)
        to[i] = {static_cast<float>(outline.corners[i].x), static_cast<float>(outline.corners[i].y)};
    const std::vector<cv::Point2f> places{{0.5F, 0.5F}, {0.9F, 0.9F}};
    std::vector<cv::Point2f> dots;
    cv::perspectiveTransform(places, dots, cv::getPerspectiveTransform(unit.data(), to.data()));
    for (const cv::Point2f& dot : dots) cv::circle(photo, dot, 5, {0, 0, 200}, cv::FILLED);
    const cv::Mat flat = straightened(photo, outline, size);
    ASSERT_EQ(flat.size(), size);
    for (const cv::Point2f& place : places) {
        const auto at = flat.at<cv::Vec3b>(static_cast<int>(place.y * static_cast<float>(size.height)),
                                           static_cast<int>(place.x * static_cast<float>(size.width)));
        EXPECT_LT(at[0], 80);
        EXPECT_GT(at[2], 150);
    }
    EXPECT_GT(flat.at<cv::Vec3b>(6, 6)[0], 200) << "no table at the corners";
    EXPECT_GT(flat.at<cv::Vec3b>(size.height - 6, size.width - 6)[0], 200);
}

TEST(Straightening, TakesACurlOut) {
    SheetOutline outline{{{{100, 200}, {800, 200}, {800, 1100}, {100, 1100}}}, {}};
    outline.bows[0] = {0.3, 0};
    outline.bows[2] = {-0.3, 0};
    cv::Mat photo = table({900, 1200}, {40, 60, 80});
    lay_sheet(photo, outline);
    // A rule half way down is bent as the sides are.
    for (int x = 100; x < 800; ++x) {
        const double t = (x - 100) / 700.0;
        cv::circle(photo, {x, static_cast<int>(650 - 700 * outline.bows[0].at(t))}, 2, {0, 0, 0}, cv::FILLED);
    }
    const cv::Mat flat = straightened(photo, outline, {700, 900});
    for (const int x : {60, 350, 640}) {
        cv::Mat grey;
        cv::cvtColor(flat.col(x), grey, cv::COLOR_BGR2GRAY);
        cv::Point darkest;
        cv::minMaxLoc(grey, nullptr, nullptr, &darkest);
        EXPECT_NEAR(darkest.y, 450, 4) << x;
    }
}

TEST(Straightening, LimitsWhatItMakes) {
    const SheetOutline huge{{{{0, 0}, {30000, 0}, {30000, 30000}, {0, 30000}}}, {}};
    EXPECT_LE(1e-6 * flat_size(huge, {30000, 30000}).area(), kLargestFlatMegapixels * 1.01);
    const SheetOutline twisted{{{{0, 0}, {10, 10}, {10, 0}, {0, 10}}}, {}};
    EXPECT_FALSE(is_valid(twisted));
    EXPECT_FALSE(is_valid(SheetOutline{}));
}

TEST(Straightening, KnowsUsualPapers) {
    EXPECT_DOUBLE_EQ(sheet_mm(0.7071).width, 210);
    EXPECT_DOUBLE_EQ(sheet_mm(1.4142).height, 210);
    EXPECT_NEAR(sheet_mm(1.0).width, 76, 0.1);
    EXPECT_NEAR(sheet_mm(0.5).height, 420, 0.1);
}

}  // namespace
}  // namespace fernleaf
