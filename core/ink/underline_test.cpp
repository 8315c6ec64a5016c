#include "ink/underline.h"

#include <gtest/gtest.h>

#include <cmath>

#include "ink/test_stroke.h"

namespace fernleaf {
namespace {

constexpr double kFoot = 40;

class Underlines : public testing::Test {
protected:
    // Letters as zigzags 3 mm high, 2 mm apart.
    void write(double left, int letters, double foot = kFoot) {
        for (int i = 0; i < letters; ++i) {
            const double x = left + 2.4 * i;
            add({{x, foot - 3}, {x + 0.8, foot}, {x + 1.6, foot - 3}});
        }
    }
    size_t add(const std::vector<Point>& corners) {
        strokes_.push_back(stroke_along(static_cast<StrokeId>(strokes_.size()) + 1, corners));
        return strokes_.size() - 1;
    }
    size_t add_wave(double left, double right, double y) {
        std::vector<Point> points;
        for (double x = left; x <= right; x += 0.25) points.push_back({x, y + 0.5 * std::sin(3 * x)});
        return add(points);
    }

    std::vector<Stroke> strokes_;
};

TEST_F(Underlines, ALineUnderWritingIsOneAndKnowsWhatStandsOnIt) {
    write(20, 8);
    write(60, 4);
    const size_t line = add({{20, kFoot + 1}, {39, kFoot + 1.4}});
    const auto found = underlines_in(strokes_);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].stroke, line);
    EXPECT_FALSE(found[0].wave);
    EXPECT_EQ(found[0].over.size(), 8U);
}

TEST_F(Underlines, AWaveIsToldFromALine) {
    write(20, 8);
    add_wave(20, 39, kFoot + 1.2);
    const auto found = underlines_in(strokes_);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_TRUE(found[0].wave);
}

TEST_F(Underlines, LinesThroughWordsOverThemOrUnderNothingAreNone) {
    write(20, 8);
    add({{20, kFoot - 1.5}, {39, kFoot - 1.5}});
    add({{20, kFoot - 6}, {39, kFoot - 6}});
    add({{60, kFoot + 1}, {90, kFoot + 1}});
    EXPECT_TRUE(underlines_in(strokes_).empty());
}

TEST_F(Underlines, AFractionsBarIsNone) {
    write(20, 8);
    write(20, 8, kFoot + 5.2);
    add({{20, kFoot + 1}, {39, kFoot + 1}});
    EXPECT_TRUE(underlines_in(strokes_).empty());
}

TEST_F(Underlines, BarsOfLettersAndEdgesOfBoxesAreNone) {
    write(80, 6);
    add({{20, kFoot - 9}, {20, kFoot}});  // a tall E
    add({{20, kFoot - 9}, {26, kFoot - 9}});
    add({{20, kFoot}, {26, kFoot}});
    EXPECT_TRUE(underlines_in(strokes_).empty());
    write(40, 6);
    add({{38, kFoot - 5}, {38, kFoot + 1}});  // a box about a word
    add({{56, kFoot - 5}, {56, kFoot + 1}});
    add({{38, kFoot + 1}, {56, kFoot + 1}});
    EXPECT_TRUE(underlines_in(strokes_).empty());
}

}  // namespace
}  // namespace fernleaf
