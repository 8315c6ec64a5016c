#include "ink/selecting.h"

#include <gtest/gtest.h>

#include <numbers>

namespace fernleaf {
namespace {

Stroke line(StrokeId id, Point a, Point b) {
    Stroke s;
    s.id = id;
    s.points = {{a}, {b}};
    return s;
}

void expect_near(Point a, Point b) {
    EXPECT_NEAR(a.x, b.x, 1e-9);
    EXPECT_NEAR(a.y, b.y, 1e-9);
}

const std::vector<Point> kSquare{{0, 0}, {10, 0}, {10, 10}, {0, 10}};

TEST(Selecting, InsideIsByTheEvenOddRule) {
    EXPECT_TRUE(inside(kSquare, {5, 5}));
    EXPECT_FALSE(inside(kSquare, {11, 5}));
    EXPECT_FALSE(inside({{0, 0}, {10, 10}}, {5, 5}));
    EXPECT_FALSE(inside({}, {5, 5}));
    // A star drawn in one go has a hole in its middle.
    std::vector<Point> star;
    for (int i = 0; i < 5; ++i) {
        const double angle = 2 * std::numbers::pi * 2 * i / 5;
        star.push_back({std::sin(angle) * 10, -std::cos(angle) * 10});
    }
    EXPECT_FALSE(inside(star, {0, 0}));
    EXPECT_TRUE(inside(star, {0, -7}));
}

TEST(Selecting, TakesStrokesThatLieMostlyInside) {
    const std::vector<Stroke> strokes{line(1, {2, 2}, {8, 8}), line(2, {7, 5}, {11, 5}), line(3, {9, 5}, {20, 5}),
                                      line(4, {30, 30}, {40, 40}), Stroke{}};
    EXPECT_EQ(strokes_within(strokes, kSquare), (std::vector<StrokeId>{1, 2}));
    EXPECT_TRUE(strokes_within(strokes, {}).empty());
}

TEST(Selecting, ADotIsInsideOrNot) {
    Stroke dot;
    dot.id = 9;
    dot.points = {{{5, 5}}};
    EXPECT_EQ(strokes_within({dot}, kSquare), std::vector<StrokeId>{9});
}

TEST(Selecting, TransformsFollowOneAnother) {
    const Point about{3, 4};
    expect_near(Affine::turn(std::numbers::pi / 2, about)({4, 4}), {3, 5});
    expect_near(Affine::scale(2, 3, about)({4, 5}), {5, 7});
    const Affine both = Affine::shift({1, 2}).then(Affine::scale(2, 2, {0, 0}));
    expect_near(both({1, 1}), {4, 6});
    const Affine there = Affine::turn(0.7, about).then(Affine::scale(2, 0.5, about)).then(Affine::shift({5, -1}));
    const Affine back = Affine::shift({-5, 1}).then(Affine::scale(0.5, 2, about)).then(Affine::turn(-0.7, about));
    expect_near(there.then(back)({12, -3}), {12, -3});
}

TEST(Selecting, AStrokeGrowsWithItsPen) {
    Stroke s = line(5, {0, 0}, {10, 0});
    s.pen.width_mm = 0.5F;
    s.z = 3;
    const Stroke grown = transformed(s, Affine::scale(2, 2, {0, 0}));
    EXPECT_EQ(grown.points[1].at, (Point{20, 0}));
    EXPECT_FLOAT_EQ(grown.pen.width_mm, 1);
    EXPECT_EQ(grown.id, 5);
    EXPECT_EQ(grown.z, 3);
    EXPECT_FLOAT_EQ(transformed(s, Affine::turn(1, {5, 5})).pen.width_mm, 0.5F);
}

}  // namespace
}  // namespace fernleaf
