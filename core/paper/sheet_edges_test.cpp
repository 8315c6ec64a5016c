#include "paper/sheet_edges.h"

#include <gtest/gtest.h>

#include "paper/sheet_patches.h"
#include "paper/sheet_tracing.h"
#include "paper/test_photo.h"

namespace fernleaf {
namespace {

const SheetOutline kAslant{{{{180, 120}, {770, 190}, {820, 1010}, {90, 930}}}, {}};

cv::Mat photo(const SheetOutline& outline = kAslant) {
    cv::Mat out = table({900, 1200}, {70, 90, 110});
    lay_sheet(out, outline);
    scrawl(out, outline);
    return out;
}

// How far a line passes from both ends of a side.
double off(const EdgeLine& line, Point a, Point b) {
    return std::max(std::abs(dot(line.normal, a) - line.offset), std::abs(dot(line.normal, b) - line.offset));
}

TEST(SheetEdges, ThePictureIsMadeSmallerAndWritingIsTakenOut) {
    const EdgePicture picture = edge_picture(photo(), 600);
    EXPECT_EQ(picture.lab.size(), cv::Size(450, 600));
    EXPECT_DOUBLE_EQ(picture.scale, 0.5);
    cv::Mat light;
    cv::extractChannel(picture.lab, light, 0);
    double darkest = 0;
    cv::minMaxLoc(light(cv::Rect(110, 120, 250, 330)), &darkest);
    EXPECT_GT(darkest, 85) << "paper all over";
    EXPECT_EQ(edge_picture(photo(), 5000).scale, 1) << "never larger";
    EXPECT_TRUE(picture.slope_x.empty() && picture.slope_y.empty()) << "nobody asked for them";
    const EdgePicture sloped = edge_picture(photo(), 600, true);
    EXPECT_EQ(cv::norm(sloped.lab, picture.lab, cv::NORM_INF), 0);
    // At the left side the paper is to the right of the table: it grows lighter that way.
    const Point border = (kAslant.corners[0] + kAslant.corners[3]) * (0.5 * sloped.scale);
    const auto slope = sloped.slope_x.at<cv::Vec3f>(static_cast<int>(border.y), static_cast<int>(border.x));
    EXPECT_GT(slope[0], 5);
}

TEST(SheetEdges, TheSidesOfASheetAreAmongTheStrongestLinesAndTheBordersComeLast) {
    const std::vector<EdgeLine> lines = edge_lines(edge_picture(photo(), 1200), 8);
    ASSERT_GE(lines.size(), 8U);
    ASSERT_LE(lines.size(), 12U);
    for (size_t side = 0; side < 4; ++side) {
        const Point a = kAslant.corners[side], b = kAslant.corners[(side + 1) % 4];
        EXPECT_TRUE(std::ranges::any_of(lines, [&](const EdgeLine& l) { return !l.frame && off(l, a, b) < 4; }))
            << side;
    }
    for (size_t i = 0; i < lines.size(); ++i) {
        EXPECT_EQ(lines[i].frame, i >= lines.size() - 4);
        EXPECT_NEAR(length(lines[i].normal), 1, 1e-9);
    }
}

TEST(SheetEdges, AnEvenPictureHasOnlyItsBorders) {
    EXPECT_EQ(edge_lines(edge_picture(cv::Mat(300, 300, CV_8UC3, cv::Scalar::all(128)), 300), 20).size(), 4U);
}

TEST(SheetPatches, AQuadrilateralIsLaidAboutALightPatch) {
    const auto patches = sheet_patches(edge_picture(photo(), 1200, true));
    const auto near = [](const std::array<Point, 4>& patch) {
        return std::ranges::all_of(kAslant.corners, [&](Point corner) {
            return std::ranges::any_of(patch, [&](Point p) { return distance(p, corner) < 12; });
        });
    };
    EXPECT_TRUE(std::ranges::any_of(patches, near));
    EXPECT_GT(area(kAslant.corners), 0);
}

TEST(SheetPatches, WhatIsNoQuadrilateralIsLeftOut) {
    cv::Mat disc = table({900, 900}, {70, 90, 110});
    cv::circle(disc, {450, 450}, 300, {240, 240, 240}, cv::FILLED);
    for (const auto& patch : sheet_patches(edge_picture(disc, 900, true))) {
        const Point middle = (patch[0] + patch[1] + patch[2] + patch[3]) * 0.25;
        EXPECT_FALSE(distance(middle, {450, 450}) < 100 && area(patch) > 0.5 * 3.14 * 300 * 300 &&
                     area(patch) < 0.9 * 900 * 900)
            << "a quadrilateral about the disc";
    }
}

TEST(SheetTracing, ARoughOutlineIsDrawnToTheBorder) {
    SheetOutline rough = kAslant;
    for (Point& corner : rough.corners) corner = corner + Point{7, -6};
    const SheetOutline found = traced(edge_picture(photo(), 1200), rough);
    for (size_t i = 0; i < 4; ++i) EXPECT_LT(distance(found.corners[i], kAslant.corners[i]), 2) << i;
}

TEST(SheetTracing, WhereThereIsNoBorderTheOutlineStays) {
    const EdgePicture even = edge_picture(cv::Mat(1200, 900, CV_8UC3, cv::Scalar::all(200)), 1200);
    EXPECT_EQ(traced(even, kAslant), kAslant);
}

TEST(SheetTracing, ASideThatIsStraightAndCurlsAtOneEndIsFollowedThere) {
    SheetOutline curled = kAslant, rough = kAslant;
    curled.bows[1] = {0.07, -0.07};  // at the upper end
    // The line along its straight part passes beside the upper corner.
    rough.corners[1] = rough.corners[1] + Point{34, 4};
    const SheetOutline found = traced(edge_picture(photo(curled), 1200), rough);
    for (size_t i = 0; i < 4; ++i) EXPECT_LT(distance(found.corners[i], curled.corners[i]), 6) << i;
    for (const double t : {0.1, 0.3, 0.6}) EXPECT_LT(distance(found.on_side(1, t), curled.on_side(1, t)), 5) << t;
}

TEST(SheetTracing, ATornCornerIsWhereTheSidesWouldMeet) {
    cv::Mat torn = photo();
    cv::fillConvexPoly(torn, std::vector<cv::Point>{{825, 1015}, {740, 1015}, {825, 930}}, cv::Scalar(70, 90, 110));
    const SheetOutline found = traced(edge_picture(torn, 1200), kAslant);
    EXPECT_LT(distance(found.corners[2], kAslant.corners[2]), 4);
}

}  // namespace
}  // namespace fernleaf
