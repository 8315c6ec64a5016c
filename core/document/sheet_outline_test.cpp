#include "document/sheet_outline.h"

#include <gtest/gtest.h>

#include <limits>

namespace fernleaf {
namespace {

const SheetOutline kSquare{{{{0, 0}, {100, 0}, {100, 100}, {0, 100}}}, {}};

TEST(SheetOutline, StraightSidesGoFromCornerToCorner) {
    EXPECT_TRUE(kSquare.straight());
    EXPECT_EQ(kSquare.on_side(0, 0.25), (Point{25, 0}));
    EXPECT_EQ(kSquare.on_side(2, 0.25), (Point{75, 100})) << "clockwise";
    EXPECT_EQ(kSquare.on_side(3, 1), (Point{0, 0}));
}

TEST(SheetOutline, ABowLeadsAwayFromTheSheetOnEverySide) {
    SheetOutline curled = kSquare;
    for (Bow& bow : curled.bows) bow.even = 0.4;
    EXPECT_FALSE(curled.straight());
    EXPECT_NEAR(curled.on_side(0, 0.5).y, -10, 1e-9);
    EXPECT_NEAR(curled.on_side(1, 0.5).x, 110, 1e-9);
    EXPECT_NEAR(curled.on_side(2, 0.5).y, 110, 1e-9);
    EXPECT_NEAR(curled.on_side(3, 0.5).x, -10, 1e-9);
    EXPECT_EQ(curled.on_side(0, 0), (Point{0, 0})) << "corners stay";
    curled.bows[0] = {0, 0.4};
    EXPECT_NEAR(curled.on_side(0, 0.25).y, -curled.on_side(0, 0.75).y, 1e-9) << "the odd part is a wave";
}

TEST(SheetOutline, ThePolygonBeginsAtTheTopLeftAndTakesEachCornerOnce) {
    const std::vector<Point> border = polygon(kSquare, 2);
    ASSERT_EQ(border.size(), 8U);
    EXPECT_EQ(border[0], (Point{0, 0}));
    EXPECT_EQ(border[1], (Point{50, 0}));
    EXPECT_EQ(border[2], (Point{100, 0}));
    EXPECT_EQ(border[7], (Point{0, 50}));
}

TEST(SheetOutline, IsUnsoundWhenItIsNoSheet) {
    EXPECT_TRUE(is_valid(kSquare));
    const auto with = [](size_t corner, Point p) {
        SheetOutline out = kSquare;
        out.corners[corner] = p;
        return out;
    };
    EXPECT_FALSE(is_valid(with(2, {20, 20}))) << "dented";
    EXPECT_FALSE(is_valid(with(1, {0, 0}))) << "two corners in one place";
    EXPECT_FALSE(is_valid(with(1, {std::numeric_limits<double>::quiet_NaN(), 0})));
    EXPECT_FALSE(is_valid(with(1, {std::numeric_limits<double>::infinity(), 0})));
    SheetOutline backwards = kSquare;
    std::swap(backwards.corners[1], backwards.corners[3]);
    EXPECT_FALSE(is_valid(backwards)) << "anticlockwise";
    SheetOutline wild = kSquare;
    wild.bows[2].odd = 30;
    EXPECT_FALSE(is_valid(wild));
}

TEST(SheetOutline, ScalesWithItsPicture) {
    SheetOutline curled = kSquare;
    curled.bows[1] = {0.2, -0.1};
    const SheetOutline half = scaled(curled, 0.5);
    EXPECT_EQ(half.corners[2], (Point{50, 50}));
    EXPECT_EQ(half.bows, curled.bows) << "in parts of the side";
}

}  // namespace
}  // namespace fernleaf
