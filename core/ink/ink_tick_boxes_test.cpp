#include "ink/ink_tick_boxes.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

namespace fernleaf {
namespace {

Stroke path(const std::vector<Point>& points) {
    Stroke out;
    for (const Point& p : points) out.points.push_back({p});
    return out;
}
Stroke word(double x, double y) { return path({{x, y}, {x + 2, y - 3}, {x + 4, y}, {x + 6, y - 3}, {x + 8, y}}); }
Stroke square(double x, double y, double side) {
    return path({{x, y}, {x + side, y}, {x + side, y + side}, {x, y + side}, {x, y}});
}

// Corners that are missed and rounded, sides that bulge.
Stroke careless_square(double x, double y, double side, std::mt19937& random) {
    std::uniform_real_distribution<double> off(-0.06 * side, 0.06 * side);
    std::vector<Point> out;
    const std::vector<Point> corners{{x, y}, {x, y + side}, {x + side, y + side}, {x + side, y}, {x, y}};
    for (size_t i = 0; i + 1 < corners.size(); ++i) {
        const double bulge = off(random);
        for (int k = 0; k < 10; ++k) {
            const double t = k / 10.0, out_by = bulge * std::sin(std::numbers::pi * t);
            out.push_back({std::lerp(corners[i].x, corners[i + 1].x, t) + (i % 2 == 0 ? out_by : 0),
                           std::lerp(corners[i].y, corners[i + 1].y, t) + (i % 2 == 1 ? out_by : 0)});
        }
    }
    out.push_back({x + off(random), y + off(random)});
    return path(out);
}

TEST(InkTickBoxes, StandBeforeALine) {
    const auto found = ink_tick_boxes({square(20, 20, 5), word(29, 24)});
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].strokes, std::vector<size_t>{0});
    EXPECT_TRUE(found[0].ticks.empty());
    EXPECT_TRUE(ink_tick_boxes({square(20, 20, 5)}).empty()) << "nothing is written behind it";
    EXPECT_TRUE(ink_tick_boxes({word(8, 24), square(17, 20, 5), word(29, 24)}).empty()) << "within a line";
    EXPECT_TRUE(ink_tick_boxes({square(20, 20, 20), word(45, 30)}).empty()) << "a figure";
}

TEST(InkTickBoxes, TakeUpToFourStrokes) {
    EXPECT_EQ(ink_tick_boxes({path({{20, 20}, {20, 25}, {25, 25}}), path({{20, 20}, {25, 20}, {25, 25}}), word(29, 24)})
                  .size(),
              1U);
    const auto found = ink_tick_boxes({word(29, 44), path({{20, 20}, {25, 20}}), path({{25, 20}, {25, 25}}),
                                       path({{25, 25}, {20, 25}}), path({{20, 25}, {20, 20}}), word(29, 24)});
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].strokes, (std::vector<size_t>{1, 2, 3, 4}));
}

TEST(InkTickBoxes, AreTickedByInkInThem) {
    const Stroke tick = path({{21, 22}, {22, 24}, {22.5, 24.2}, {23, 23}, {24, 21}, {26, 18.5}});
    const auto found = ink_tick_boxes({square(20, 20, 5), word(29, 24), tick});
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].ticks, std::vector<size_t>{2});
    const Stroke cross = path({{20.5, 20.5}, {24.5, 24.5}}), other = path({{24.5, 20.5}, {20.5, 24.5}});
    EXPECT_EQ(ink_tick_boxes({square(20, 20, 5), cross, other, word(29, 24)})[0].ticks.size(), 2U);
}

TEST(InkTickBoxes, MayBeCareless) {
    std::mt19937 random(20261201);
    int found = 0;
    for (int i = 0; i < 100; ++i)
        found += ink_tick_boxes({careless_square(20, 20, 3.5 + 0.03 * i, random), word(30, 24)}).size() == 1 ? 1 : 0;
    EXPECT_GE(found, 95);
}

TEST(InkTickBoxes, AreNoRoundLetters) {
    for (const double flat : {0.8, 1.0, 1.2})
        for (double side = 3; side < 8; side += 0.5) {
            std::vector<Point> round;
            for (int k = 0; k <= 40; ++k) {
                const double a = 2 * std::numbers::pi * k / 40;
                round.push_back({20 + side / 2 * (1 + std::cos(a)), 20 + flat * side / 2 * (1 + std::sin(a))});
            }
            EXPECT_TRUE(ink_tick_boxes({path(round), word(22 + side, 23)}).empty()) << side << ' ' << flat;
        }
    const Stroke d = path({{20, 20}, {20, 25}, {22, 25}, {24, 24}, {24.5, 22.5}, {24, 21}, {22, 20}, {20, 20}});
    EXPECT_TRUE(ink_tick_boxes({d, word(28, 24)}).empty());
}

}  // namespace
}  // namespace fernleaf
