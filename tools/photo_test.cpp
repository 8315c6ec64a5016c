#include "demo/photo.h"

#include <gtest/gtest.h>

#include <cmath>
#include <opencv2/imgproc.hpp>

#include "demo/sheet_mesh.h"
#include "ink/stroke.h"

namespace fernleaf {
namespace {

// Paper with a different colour in each corner: red, green, blue, yellow, clockwise from the top left.
cv::Mat marked_sheet() {
    cv::Mat sheet(1400, 1000, CV_8UC3, cv::Scalar(240, 240, 240));
    cv::rectangle(sheet, {0, 0, 160, 160}, {0, 0, 220}, cv::FILLED);
    cv::rectangle(sheet, {840, 0, 160, 160}, {0, 200, 0}, cv::FILLED);
    cv::rectangle(sheet, {840, 1240, 160, 160}, {220, 0, 0}, cv::FILLED);
    cv::rectangle(sheet, {0, 1240, 160, 160}, {0, 220, 220}, cv::FILLED);
    return sheet;
}

View plain_view() {
    View view;
    view.noise = 0, view.blur_px = 0, view.jpeg_quality = 95, view.long_side_px = 1200;
    return view;
}

TEST(Photo, TellsWhereEachCornerOfTheSheetIsSeen) {
    std::mt19937 random(3);
    View view = plain_view();
    view.tilt_deg = 30, view.tilt_towards = 0.7, view.roll_deg = 20;
    const Photo photo = take_photo({marked_sheet()}, view, random);
    ASSERT_EQ(photo.sheets.size(), 1U);
    const auto& corners = photo.sheets[0].corners;
    const Point middle = (corners[0] + corners[1] + corners[2] + corners[3]) * 0.25;
    // Which of blue, green, red is strong in each corner.
    const bool strong[4][3] = {{false, false, true}, {false, true, false}, {true, false, false}, {false, true, true}};
    for (size_t i = 0; i < 4; ++i) {
        const Point at = corners[i] + (middle - corners[i]) * 0.08;
        const auto colour = photo.pixels.at<cv::Vec3b>(static_cast<int>(at.y), static_cast<int>(at.x));
        for (int c = 0; c < 3; ++c) EXPECT_EQ(colour[c] > 110, strong[i][c]) << i << ' ' << c;
    }
    EXPECT_EQ(photo.pixels.type(), CV_8UC3);
    EXPECT_EQ(std::max(photo.pixels.cols, photo.pixels.rows), 1200);
}

TEST(Photo, IsTheSameForTheSameChance) {
    std::mt19937 one(8), other(8), third(9);
    const View view = any_view(one);
    static_cast<void>(any_view(other)), static_cast<void>(any_view(third));
    View small = view;
    small.long_side_px = 600;
    const cv::Mat a = take_photo({marked_sheet()}, small, one).pixels,
                  b = take_photo({marked_sheet()}, small, other).pixels;
    ASSERT_EQ(a.size(), b.size());
    EXPECT_EQ(cv::norm(a, b, cv::NORM_INF), 0);
    const cv::Mat c = take_photo({marked_sheet()}, small, third).pixels;
    EXPECT_TRUE(c.size() != a.size() || cv::norm(a, c, cv::NORM_INF) > 0);
}

TEST(Photo, AViewFitsTheSheetInUnlessItIsMeantNotTo) {
    for (unsigned seed = 0; seed < 12; ++seed) {
        std::mt19937 random(seed);
        View view = any_view(random);
        view.long_side_px = 500, view.fill = 0.8, view.off_x = view.off_y = 0, view.curl = 0;
        const Photo photo = take_photo({marked_sheet()}, view, random);
        for (const Point& corner : photo.sheets[0].corners) {
            EXPECT_TRUE(corner.x > 0 && corner.x < photo.pixels.cols) << seed;
            EXPECT_TRUE(corner.y > 0 && corner.y < photo.pixels.rows) << seed;
        }
    }
}

TEST(Photo, ACurledSheetHasACurvedOutlineBetweenItsCorners) {
    std::mt19937 random(3);
    View view = plain_view();
    view.tilt_deg = 40, view.curl = 0.06;
    const PhotographedSheet sheet = take_photo({marked_sheet()}, view, random).sheets[0];
    double most = 0;
    const size_t side = sheet.outline.size() / 4;
    for (size_t s = 0; s < 4; ++s)
        for (size_t i = 0; i < side; ++i)
            most = std::max(
                most, distance_to_segment(sheet.outline[s * side + i], sheet.corners[s], sheet.corners[(s + 1) % 4]));
    EXPECT_GT(most, 6);
}

TEST(Photo, SeveralSheetsLieBesideOneAnother) {
    std::mt19937 random(3);
    const Photo photo = take_photo({marked_sheet(), marked_sheet(), marked_sheet()}, plain_view(), random);
    ASSERT_EQ(photo.sheets.size(), 3U);
    std::vector<cv::Mat> masks;
    for (const PhotographedSheet& sheet : photo.sheets) {
        cv::Mat mask(photo.pixels.size(), CV_8U, cv::Scalar(0));
        std::vector<cv::Point> border;
        for (const Point& p : sheet.outline) border.emplace_back(static_cast<int>(p.x), static_cast<int>(p.y));
        cv::fillPoly(mask, std::vector{border}, cv::Scalar(1));
        for (const cv::Mat& other : masks) EXPECT_EQ(cv::countNonZero(mask & other), 0);
        masks.push_back(mask);
    }
}

TEST(Photo, InkIsDrawnWhereItIsAndAsWideAsItsPen) {
    cv::Mat sheet(200, 400, CV_8UC3, cv::Scalar::all(255));
    Stroke stroke;
    stroke.pen.colour = 0x1E2A44, stroke.pen.width_mm = 1;
    for (int i = 0; i <= 30; ++i) stroke.points.push_back({{5.0 + i, 10.0}});
    draw_ink(sheet, {stroke}, 10);
    const auto middle = sheet.at<cv::Vec3b>(100, 200);
    EXPECT_NEAR(middle[0], 0x44, 2);
    EXPECT_NEAR(middle[2], 0x1E, 2);
    int high = 0;
    for (int y = 0; y < sheet.rows; ++y) high += sheet.at<cv::Vec3b>(y, 200)[1] < 128;
    EXPECT_NEAR(high, 10, 4);
    EXPECT_EQ(sheet.at<cv::Vec3b>(20, 200), cv::Vec3b(255, 255, 255));
}

TEST(SheetMesh, EachPixelShowsItsPlaceOnTheSheet) {
    // A sheet of 200 by 100 px, seen twice as large and moved, with a bulge to the right in its middle.
    const SeenAt seen_at = [](double u, double v) {
        return Point{30 + 400 * u + 20 * std::sin(3.14159 * v), 50 + 200 * v};
    };
    cv::Mat map_x(300, 480, CV_32F, cv::Scalar(-10)), map_y = map_x.clone();
    map_sheet({200, 100}, seen_at, map_x, map_y);
    for (const auto& [u, v] : {std::pair{0.25, 0.5}, {0.8, 0.1}, {0.5, 0.9}}) {
        const Point p = seen_at(u, v);
        EXPECT_NEAR(map_x.at<float>(static_cast<int>(p.y), static_cast<int>(p.x)), 200 * u - 0.5, 1);
        EXPECT_NEAR(map_y.at<float>(static_cast<int>(p.y), static_cast<int>(p.x)), 100 * v - 0.5, 1);
    }
    EXPECT_EQ(map_x.at<float>(5, 5), -10) << "as it was where no sheet is";
    const std::vector<Point> outline = outline_seen(seen_at);
    EXPECT_LT(distance(outline.front(), seen_at(0, 0)), 1e-9);
    EXPECT_TRUE(std::ranges::any_of(outline, [&](Point p) { return distance(p, seen_at(1, 0.5)) < 3; }));
}

}  // namespace
}  // namespace fernleaf
