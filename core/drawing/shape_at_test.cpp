#include "drawing/shape_at.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

ReadShape shape(ShapeKind kind, std::vector<Point> points) { return {{1}, {{{kind, std::move(points)}, 0.9, 0}}}; }

TEST(ShapeAt, TheNearestOutlineIsMeantElseTheSmallestFigureAbout) {
    ReadLine drawing;
    drawing.shapes = {shape(ShapeKind::rectangle, {{0, 0}, {80, 0}, {80, 60}, {0, 60}}),
                      shape(ShapeKind::rectangle, {{10, 10}, {40, 10}, {40, 30}, {10, 30}}),
                      shape(ShapeKind::line, {{50, 20}, {70, 20}})};
    const Reading reading{{{}, drawing}};
    EXPECT_EQ(shape_at(reading, {25, 20}, 2).shape, 1);
    EXPECT_EQ(shape_at(reading, {25, 20}, 2).line, 1);
    EXPECT_EQ(shape_at(reading, {60, 50}, 2).shape, 0);
    EXPECT_EQ(shape_at(reading, {60, 21}, 2).shape, 2) << "a line is meant on it, and nowhere else";
    EXPECT_EQ(shape_at(reading, {81, 30}, 2).shape, 0);
    EXPECT_FALSE(shape_at(reading, {90, 30}, 2).valid());
    EXPECT_FALSE(shape_at({}, {0, 0}, 2).valid());
}

}  // namespace
}  // namespace fernleaf
