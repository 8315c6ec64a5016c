#include "ink/ringed.h"

#include <gtest/gtest.h>

#include <cmath>

#include "ink/test_stroke.h"

namespace fernleaf {
namespace {

Stroke ring(Point middle, double radius) {
    std::vector<Point> points;
    for (int i = 0; i <= 40; ++i)
        points.push_back(middle + Point{radius * std::cos(i / 6.3), radius * std::sin(i / 6.3)});
    return stroke_along(9, points);
}

// An A in two strokes.
std::vector<Stroke> letter(Point foot) {
    return {stroke_along(1, {foot, foot + Point{1.5, -4}, foot + Point{3, 0}}),
            stroke_along(2, {foot + Point{0.8, -1.5}, foot + Point{2.2, -1.5}})};
}

TEST(Ringed, ALetterInARingIsFound) {
    std::vector<Stroke> strokes = letter({20, 40});
    strokes.push_back(stroke_along(3, {{40, 36}, {42, 40}}));
    strokes.push_back(ring({21.5, 38}, 4));
    const auto found = ringed_in(strokes);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].ring, 3U);
    EXPECT_EQ(found[0].inside, (std::vector<size_t>{0, 1}));
}

TEST(Ringed, RingsAboutNothingAboutADotAndThroughInkAreNone) {
    EXPECT_TRUE(ringed_in({ring({21.5, 38}, 4)}).empty());
    EXPECT_TRUE(ringed_in({ring({21.5, 38}, 4), stroke_along(1, {{21.5, 38}, {21.7, 38.2}})}).empty());
    std::vector<Stroke> cut = letter({20, 40});
    cut.push_back(ring({21.5, 38}, 4));
    cut.push_back(stroke_along(3, {{21, 40}, {30, 40}}));
    EXPECT_TRUE(ringed_in(cut).empty());
    std::vector<Stroke> large = letter({20, 40});
    large.push_back(ring({21.5, 38}, 20));
    EXPECT_TRUE(ringed_in(large).empty());
}

}  // namespace
}  // namespace fernleaf
