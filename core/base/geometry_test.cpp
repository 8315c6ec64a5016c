#include "base/geometry.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

TEST(Box, GrowsByWhatItIncludesAndIsEmptyBefore) {
    Box box;
    EXPECT_TRUE(box.empty());
    EXPECT_EQ(box.width(), 0);
    box.include(Point{3, 4});
    EXPECT_FALSE(box.empty());
    EXPECT_EQ(box.width(), 0) << "a point has a place and no size";
    box.include(Box::of(10, 1, 5, 2));
    EXPECT_EQ(box, (Box{3, 1, 15, 4}));
    EXPECT_EQ(box.grown(1), (Box{2, 0, 16, 5}));
    EXPECT_EQ(box.centre(), (Point{9, 2.5}));
}

TEST(Box, MeetsWhatItTouches) {
    const Box box = Box::of(0, 0, 10, 10);
    EXPECT_TRUE(box.meets(Box::of(10, 10, 5, 5))) << "a shared corner is enough";
    EXPECT_FALSE(box.meets(Box::of(10.1, 0, 5, 5)));
    EXPECT_FALSE(box.meets(Box{})) << "nothing meets what is empty";
}

TEST(Box, OverlapIsSharedAreaOfJointArea) {
    const Box box = Box::of(0, 0, 10, 10);
    EXPECT_EQ(box.overlap(box), 1);
    EXPECT_NEAR(box.overlap(Box::of(5, 0, 10, 10)), 50.0 / 150, 1e-12);
    EXPECT_EQ(box.overlap(Box::of(20, 20, 1, 1)), 0);
}

TEST(Box, ShiftedAndTurned) {
    const Box box = Box::of(0, 0, 20, 10);
    EXPECT_EQ(shifted(box, {3, -2}), Box::of(3, -2, 20, 10));
    EXPECT_EQ(turned(box, 0, {99, 99}), box);
    const Box quarter = turned(box, 90, box.centre());
    EXPECT_NEAR(quarter.width(), 10, 1e-12);
    EXPECT_NEAR(quarter.height(), 20, 1e-12);
    EXPECT_NEAR(quarter.centre().x, 10, 1e-12);
    const Box half = turned(box, 180, {0, 0});
    EXPECT_NEAR(half.left, -20, 1e-12);
    EXPECT_NEAR(half.top, -10, 1e-12);
    EXPECT_GT(turned(box, 45, box.centre()).width(), 20);
    EXPECT_TRUE(turned(Box{}, 45, {0, 0}).empty());
}

TEST(Distance, ToASegmentIsToItsNearestPoint) {
    EXPECT_EQ(distance_to_segment({5, 3}, {0, 0}, {10, 0}), 3);
    EXPECT_EQ(distance_to_segment({-3, 4}, {0, 0}, {10, 0}), 5);
    EXPECT_EQ(distance_to_segment({3, 4}, {0, 0}, {0, 0}), 5) << "a segment may be a point";
}

}  // namespace
}  // namespace fernleaf
