#include "ink/drawn_by_rule.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

TEST(DrawnByRule, EveryPieceIsAStroke) {
    const auto strokes = strokes_by_rule("l 2 2 10 2 10 8; e 12 12 5 4; a 12 12 6 0 90; c 2 2 6 6 10 2; o 4 4 8 4 6 8");
    ASSERT_TRUE(strokes);
    ASSERT_EQ(strokes->size(), 5U);
    EXPECT_EQ((*strokes)[0].points.size(), 3U);
    EXPECT_EQ((*strokes)[0].points[1].at, (Point{5, 1}));
    const Box ellipse = (*strokes)[1].box();
    EXPECT_NEAR(ellipse.width(), 5, 0.05);
    EXPECT_NEAR(ellipse.height(), 4, 0.05);
    EXPECT_LT(distance((*strokes)[4].points.front().at, (*strokes)[4].points.back().at), 1e-6) << "closed";
}

TEST(DrawnByRule, SmoothLinesGoThroughTheirPoints) {
    const auto strokes = strokes_by_rule("c 2 2 6 9 14 3 20 12");
    ASSERT_TRUE(strokes);
    for (const Point p : {Point{1, 1}, Point{3, 4.5}, Point{7, 1.5}, Point{10, 6}}) {
        double nearest = 100;
        for (const InkPoint& on : (*strokes)[0].points) nearest = std::min(nearest, distance(on.at, p));
        EXPECT_LT(nearest, 1e-6);
    }
}

TEST(DrawnByRule, TimeGoesOnAlongAStroke) {
    const auto strokes = strokes_by_rule("c 2 2 6 9 14 3");
    uint32_t before = 0;
    for (const InkPoint& p : (*strokes)[0].points) {
        EXPECT_GE(p.time_ms, before);
        before = p.time_ms;
    }
    EXPECT_GT(before, 100U);
}

TEST(DrawnByRule, WhatIsNoPieceIsNothing) {
    for (const char* wrong : {"x 1 2 3 4", "l 1 2 3", "l 1 2", "e 1 2 3", "l 1 a 3 4", ";", "o 1 1 2 2", "l 1 2 3 4;;"})
        EXPECT_FALSE(strokes_by_rule(wrong)) << wrong;
}

}  // namespace
}  // namespace fernleaf
