#include "ink/stroke.h"

#include <gtest/gtest.h>

#include <limits>

namespace fernleaf {
namespace {

Stroke line(std::vector<Point> points) {
    Stroke stroke;
    for (const Point p : points) stroke.points.push_back({p});
    return stroke;
}

TEST(Stroke, IsTouchedAlongItsWholePathAndNowhereElse) {
    const Stroke s = line({{0, 0}, {10, 0}, {10, 10}});
    EXPECT_TRUE(touches(s, {5, 0.5}, 0.5));
    EXPECT_TRUE(touches(s, {10.4, 7}, 0.5));
    EXPECT_FALSE(touches(s, {5, 5}, 1));
    EXPECT_TRUE(touches(line({{3, 3}}), {3.1, 3}, 0.2));
    EXPECT_FALSE(touches(Stroke{}, {0, 0}, 100));
}

TEST(Stroke, SmoothingPassesThroughEveryRecordedPoint) {
    const Stroke s = line({{0, 0}, {5, 5}, {10, 0}, {10, 0}, {15, 5}});
    const auto path = smoothed(s.points, 0.2);
    for (const InkPoint& p : s.points) {
        double nearest = 1e9;
        for (const InkPoint& q : path) nearest = std::min(nearest, distance(p.at, q.at));
        EXPECT_LT(nearest, 1e-6);
    }
    for (size_t i = 1; i < path.size(); ++i) EXPECT_LT(distance(path[i - 1].at, path[i].at), 0.5);
}

TEST(Stroke, SmoothingKeepsAStraightLineStraight) {
    const Stroke s = line({{0, 0}, {3, 3}, {10, 10}});
    for (const InkPoint& p : smoothed(s.points, 0.1)) EXPECT_NEAR(p.at.x, p.at.y, 1e-9);
}

TEST(Stroke, LaterStrokesLieAboveUnlessTheirOrderSaysOtherwise) {
    Stroke first, second, between;
    first.id = 3, second.id = 9, between.id = 20, between.z = 5;
    EXPECT_TRUE(z_less(first, second));
    EXPECT_TRUE(z_less(first, between));
    EXPECT_TRUE(z_less(between, second));
    EXPECT_FALSE(z_less(second, first));
}

TEST(Stroke, NumbersThatAreNoPlaceAreUnsound) {
    EXPECT_FALSE(is_valid(Stroke{}));
    EXPECT_TRUE(is_valid(line({{1, 2}})));
    EXPECT_FALSE(is_valid(line({{std::numeric_limits<double>::quiet_NaN(), 0}})));
    EXPECT_FALSE(is_valid(line({{1e12, 0}})));
}

}  // namespace
}  // namespace fernleaf
