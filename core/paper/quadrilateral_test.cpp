#include "paper/quadrilateral.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

constexpr std::array<Point, 4> kSquare{{{0, 0}, {10, 0}, {10, 10}, {0, 10}}};

std::array<Point, 4> moved(std::array<Point, 4> corners, Point by) {
    for (Point& p : corners) p = p + by;
    return corners;
}

TEST(Quadrilateral, SharedAreaIsThatOfTheCommonPart) {
    EXPECT_DOUBLE_EQ(shared_area(kSquare, kSquare), 100);
    EXPECT_DOUBLE_EQ(shared_area(kSquare, moved(kSquare, {4, 5})), 30);
    EXPECT_DOUBLE_EQ(shared_area(kSquare, moved(kSquare, {20, 0})), 0);
    // A diamond about the square's middle lies half in each of its corners' triangles.
    constexpr std::array<Point, 4> diamond{{{5, -5}, {15, 5}, {5, 15}, {-5, 5}}};
    EXPECT_NEAR(shared_area(kSquare, diamond), 100, 1e-9);
    EXPECT_NEAR(shared_area(diamond, kSquare), 100, 1e-9);
}

TEST(Quadrilateral, SharedAreaIsNeverMoreThanEitherWhereSidesLieOnOneAnother) {
    // A corner of a sheet, cut off by a shadow's edge: two sides lie on the sheet's own.
    constexpr std::array<Point, 4> sheet{{{178, 39}, {422, 77}, {366, 404}, {136, 377}}};
    for (double share = 0.05; share < 1; share += 0.05) {
        const std::array<Point, 4> piece{{sheet[0] + (sheet[1] - sheet[0]) * share, sheet[1],
                                          sheet[1] + (sheet[2] - sheet[1]) * share, place_in(sheet, share, share)}};
        const double common = shared_area(sheet, piece);
        EXPECT_NEAR(common, area(piece), 1e-6 * area(sheet)) << share;
        EXPECT_NEAR(shared_area(piece, sheet), common, 1e-6 * area(sheet)) << share;
    }
}

TEST(Quadrilateral, CornersAreSetClockwiseFromTheTopLeft) {
    std::array<Point, 4> corners{{{10, 10}, {10, 0}, {0, 0}, {0, 10}}};
    EXPECT_LT(area(corners), 0);
    set_clockwise(corners);
    EXPECT_EQ(corners, kSquare);
    EXPECT_TRUE(lies_in(corners, {3, 7}));
    EXPECT_FALSE(lies_in(corners, {11, 7}));
    EXPECT_EQ(place_in(corners, 0.25, 0.5), (Point{2.5, 5}));
}

}  // namespace
}  // namespace fernleaf
