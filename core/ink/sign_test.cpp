#include "ink/sign.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "ink/test_stroke.h"

namespace fernleaf {
namespace {

Stroke backwards(Stroke s) {
    std::ranges::reverse(s.points.change());
    return s;
}

// Along a curve y(t), x(t) for t from 0 to 1.
template <typename Curve>
Stroke curve(Curve at) {
    std::vector<Point> points;
    for (int i = 0; i <= 60; ++i) points.push_back(at(i / 60.0));
    return stroke_along(1, points);
}

Stroke bow(double sagitta) {
    return curve([=](double t) { return Point{20 + 8 * t, 40 - 4 * sagitta * t * (1 - t)}; });
}

Stroke wave(double waves, double swing) {
    return curve([=](double t) { return Point{20 + 20 * t, 40 + swing * std::sin(2 * std::numbers::pi * waves * t)}; });
}

const Stroke kLine = stroke_along(1, {{20, 40}, {45, 41}});
const Stroke kUpright = stroke_along(1, {{20, 40}, {21, 55}});
const Stroke kCaret = stroke_along(1, {{20, 44}, {22, 40}, {24, 44}});
const Stroke kCorner = stroke_along(1, {{20, 48}, {20, 40}, {27, 40}});

TEST(Sign, LinesAreLevelOrUprightOrNeither) {
    EXPECT_TRUE(is_level(kLine));
    EXPECT_TRUE(is_level(backwards(kLine)));
    EXPECT_FALSE(is_level(kUpright));
    EXPECT_FALSE(is_level(bow(3)));
    EXPECT_TRUE(is_upright(kUpright));
    EXPECT_TRUE(is_upright(backwards(kUpright)));
    EXPECT_FALSE(is_upright(stroke_along(1, {{20, 40}, {30, 50}})));
}

TEST(Sign, WavesHaveTwoFullOnesAtLeast) {
    EXPECT_TRUE(is_wave(wave(4, 0.8)));
    EXPECT_TRUE(is_wave(backwards(wave(2.5, 1.2))));
    EXPECT_FALSE(is_wave(wave(1, 1.2)));
    EXPECT_FALSE(is_wave(kLine));
    EXPECT_FALSE(is_wave(wave(4, 8))) << "that is a scribble";
}

TEST(Sign, ACaretPointsUp) {
    const auto caret = caret_of(kCaret);
    ASSERT_TRUE(caret);
    EXPECT_EQ(caret->apex, (Point{22, 40}));
    EXPECT_LT(caret_of(backwards(kCaret))->left.x, 21) << "whichever way it is drawn";
    EXPECT_FALSE(caret_of(stroke_along(1, {{20, 40}, {22, 44}, {24, 40}}))) << "a v";
    EXPECT_FALSE(caret_of(kUpright));
    EXPECT_FALSE(caret_of(bow(6)));
}

TEST(Sign, BowsBulgeUpOrDown) {
    EXPECT_TRUE(arc_of(bow(2))->over);
    EXPECT_FALSE(arc_of(bow(-2))->over);
    EXPECT_LT(arc_of(backwards(bow(2)))->left.x, 21);
    EXPECT_FALSE(arc_of(kLine));
    EXPECT_FALSE(arc_of(wave(1, 2))) << "an S";
    EXPECT_FALSE(arc_of(stroke_along(1, {{20, 44}, {24, 40}, {28, 44}}))) << "a caret";
}

TEST(Sign, ACornerStandsUprightAndRunsToTheRight) {
    const auto corner = corner_of(kCorner);
    ASSERT_TRUE(corner);
    EXPECT_NEAR(distance(corner->at, {20, 40}), 0, 0.5);
    EXPECT_TRUE(corner_of(backwards(kCorner)));
    EXPECT_FALSE(corner_of(stroke_along(1, {{20, 40}, {20, 48}, {27, 48}}))) << "an L";
    EXPECT_FALSE(corner_of(stroke_along(1, {{27, 48}, {27, 40}, {20, 40}}))) << "a 7 turned round";
    EXPECT_FALSE(corner_of(kLine));
}

TEST(Sign, RingsCloseAroundSomething) {
    const auto ring = [](double part) {
        return curve([part](double t) {
            const double a = 2 * std::numbers::pi * part * t;
            return Point{30 + 5 * std::cos(a), 40 + 4 * std::sin(a)};
        });
    };
    EXPECT_TRUE(is_ring(ring(1)));
    EXPECT_TRUE(is_ring(ring(1.2)));
    EXPECT_FALSE(is_ring(ring(0.7)));
    EXPECT_FALSE(is_ring(ring(3)));
    EXPECT_FALSE(is_ring(kLine));
}

TEST(Sign, AStrokeWithoutLengthHasNoForm) {
    Stroke dot;
    dot.points = {{{20, 40}}, {{20, 40}}};
    EXPECT_FALSE(is_level(dot) || is_upright(dot) || is_wave(dot) || is_ring(dot));
    EXPECT_FALSE(caret_of(dot) || arc_of(dot) || corner_of(dot));
}

}  // namespace
}  // namespace fernleaf
