#include "ink/scribble.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "ink/test_stroke.h"

namespace fernleaf {
namespace {

Stroke zigzag(StrokeId id, Point from, double length, double step, int runs, double angle = 0) {
    std::vector<Point> corners;
    for (int i = 0; i <= runs; ++i) {
        const Point p{i % 2 == 0 ? 0 : length, step * i};
        corners.push_back(
            from + Point{p.x * std::cos(angle) - p.y * std::sin(angle), p.x * std::sin(angle) + p.y * std::cos(angle)});
    }
    return stroke_along(id, corners);
}

TEST(Scribble, AZigzagOverAWordTakesIt) {
    const std::vector<Stroke> word{stroke_along(1, {{11, 10}, {13, 14}, {15, 10}}),
                                   stroke_along(2, {{16, 11}, {18, 13}}), stroke_along(3, {{40, 10}, {44, 14}})};
    EXPECT_EQ(scribbled_out(zigzag(9, {10, 9}, 10, 0.8, 8), word), (std::vector<StrokeId>{1, 2}));
}

TEST(Scribble, GoesInAnyDirection) {
    for (const double angle : {0.0, 0.6, std::numbers::pi / 2, 2.5})
        EXPECT_TRUE(is_scribble(zigzag(9, {50, 50}, 12, 0.7, 8, angle))) << angle;
}

TEST(Scribble, LettersWithManyStrokesAreLetters) {
    const std::vector<Point> w{{0, 0}, {1, 4}, {2, 0}, {3, 4}, {4, 0}},
        m{{0, 4}, {0, 0}, {1, 4}, {2, 0}, {3, 4}, {4, 0}}, z{{0, 0}, {4, 0}, {0, 4}, {4, 4}};
    for (const auto& letter : {w, m, z}) EXPECT_FALSE(is_scribble(stroke_along(1, letter)));
    // "mum", joined.
    std::vector<Point> mum;
    for (int i = 0; i < 16; ++i) mum.push_back({i * 0.9, i % 2 == 0 ? 3.0 : 0.0});
    EXPECT_FALSE(is_scribble(stroke_along(1, mum)));
}

TEST(Scribble, HatchingOnEmptyPaperOrInAnOutlineStays) {
    const Stroke box = stroke_along(1, {{8, 8}, {22, 8}, {22, 18}, {8, 18}, {8, 8}});
    const Stroke hatching = zigzag(9, {10, 10}, 10, 0.7, 9);
    EXPECT_TRUE(is_scribble(hatching));
    EXPECT_TRUE(scribbled_out(hatching, {box, hatching}).empty());
    EXPECT_TRUE(scribbled_out(hatching, {}).empty());
}

TEST(Scribble, AHighlighterNeitherScribblesNorIsScribbledOut) {
    Stroke band = stroke_along(1, {{11, 11}, {19, 11}});
    band.pen.kind = PenKind::highlighter;
    Stroke scribble = zigzag(9, {10, 9}, 10, 0.8, 8);
    EXPECT_TRUE(scribbled_out(scribble, {band}).empty());
    scribble.pen.kind = PenKind::highlighter;
    EXPECT_TRUE(scribbled_out(scribble, {stroke_along(1, {{11, 11}, {19, 11}})}).empty());
}

TEST(Scribble, TakesDotsAndEmptyStrokes) {
    EXPECT_FALSE(is_scribble({}));
    Stroke dot;
    dot.points = {{{1, 1}}};
    EXPECT_FALSE(is_scribble(dot));
    dot.points.change().assign(50, {{1, 1}});
    EXPECT_FALSE(is_scribble(dot));
}

}  // namespace
}  // namespace fernleaf
