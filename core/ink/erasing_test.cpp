#include "ink/erasing.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

namespace fernleaf {
namespace {

Stroke inked(std::vector<Point> points) {
    Stroke s;
    s.id = 7;
    s.start_ms = 1'000'000;
    s.pen = {0x8A3B6B, 0.7F, PenKind::fountain};
    for (size_t i = 0; i < points.size(); ++i)
        s.points.push_back({points[i], 0.25F + 0.25F * static_cast<float>(i), 0, 0, static_cast<uint32_t>(100 * i)});
    return s;
}

TEST(Erasing, CutsWhereThePathEntersAndLeavesTheEraser) {
    const Stroke stroke = inked({{0, 0}, {10, 0}, {20, 0}});
    const auto rest = erased_along(stroke, {6, -3}, {6, 3}, 2);
    ASSERT_EQ(rest.size(), 2U);
    EXPECT_NEAR(rest[0].points.back().at.x, 4, 1e-9);
    EXPECT_NEAR(rest[1].points.front().at.x, 8, 1e-9);
    EXPECT_EQ(rest[1].points.back().at, (Point{20, 0}));
    // Pressure and time at the cuts are those of the path there.
    EXPECT_NEAR(rest[0].points.back().pressure, 0.35, 1e-6);
    EXPECT_EQ(rest[1].start_ms, 1'000'080);
    EXPECT_EQ(rest[1].points.front().time_ms, 0U);
    EXPECT_EQ(rest[1].points.back().time_ms, 120U);
}

TEST(Erasing, PiecesKeepPenAndPlaceAmongTheInk) {
    const auto rest = erased_along(inked({{0, 0}, {10, 0}}), {5, 0}, {5, 0}, 1);
    ASSERT_EQ(rest.size(), 2U);
    for (const Stroke& piece : rest) {
        EXPECT_EQ(piece.pen, inked({}).pen);
        EXPECT_EQ(piece.z, 7);
        EXPECT_EQ(piece.id, 0);
    }
}

TEST(Erasing, WhatIsNotTouchedStaysAsItIs) {
    const Stroke stroke = inked({{0, 0}, {10, 0}});
    EXPECT_EQ(erased_along(stroke, {0, 2}, {10, 2}, 1.9), std::vector{stroke});
}

TEST(Erasing, DotsAndWholeStrokesGo) {
    EXPECT_TRUE(erased_along(inked({{3, 3}}), {0, 3}, {6, 3}, 0.5).empty());
    EXPECT_TRUE(erased_along(inked({{1, 0}, {2, 0.2}, {3, 0}}), {0, 0}, {4, 0}, 1).empty());
    EXPECT_TRUE(erased_along(inked({}), {0, 0}, {4, 0}, 1).size() == 1);
}

TEST(Erasing, AStrokeCrossedTwiceFallsIntoThree) {
    const auto rest = erased_along(inked({{0, 0}, {10, 0}, {10, 5}, {0, 5}}), {5, -2}, {5, 7}, 1);
    ASSERT_EQ(rest.size(), 3U);
    EXPECT_NEAR(rest[1].points.front().at.x, 6, 1e-9);
    EXPECT_NEAR(rest[1].points.back().at.x, 6, 1e-9);
}

// Every place of random paths is kept exactly when it lies outside the eraser.
TEST(Erasing, KeepsWhatLiesOutsideAndNothingElse) {
    std::mt19937 random(5);
    std::uniform_real_distribution<double> place(0, 30);
    for (int round = 0; round < 200; ++round) {
        std::vector<Point> path;
        for (int i = 0; i < 12; ++i) path.push_back({place(random), place(random)});
        const Stroke stroke = inked(path);
        const Point from{place(random), place(random)}, to{place(random), place(random)};
        const double radius = 0.5 + place(random) / 6;
        double outside = 0;
        for (size_t i = 1; i < path.size(); ++i) {
            constexpr int kParts = 2000;
            for (int k = 0; k < kParts; ++k) {
                const Point p = path[i - 1] + (path[i] - path[i - 1]) * ((k + 0.5) / kParts);
                if (distance_to_segment(p, from, to) > radius) outside += distance(path[i - 1], path[i]) / kParts;
            }
        }
        double kept = 0;
        for (const Stroke& piece : erased_along(stroke, from, to, radius)) {
            kept += path_length(piece);
            for (const InkPoint& p : piece.points) EXPECT_GT(distance_to_segment(p.at, from, to), radius - 1e-6);
        }
        EXPECT_NEAR(kept, outside, 0.3);
    }
}

}  // namespace
}  // namespace fernleaf
