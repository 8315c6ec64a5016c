#include "drawing/shape_grouping.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "drawing/test_ink.h"

namespace fernleaf {
namespace {

const std::vector<Point> kLeft{{10, 10}, {40, 10}, {40, 30}, {10, 30}, {10, 10.5}};
const std::vector<Point> kRight{{80, 10}, {110, 10}, {110, 30}, {80, 30}, {80, 10.5}};

std::vector<ShapeGroup> groups_of(const std::vector<Stroke>& strokes) {
    ShapeMemory memory;
    return grouped(pointers(strokes), memory);
}

TEST(ShapeGrouping, AnArrowsHeadBelongsToItsShaftNotToTheFigureItTouches) {
    const std::vector<Stroke> strokes{drawn(kLeft), drawn({{75, 16}, {80, 20}, {75, 24}}), drawn(kRight),
                                      drawn({{41, 20}, {80, 20}})};
    const std::vector<ShapeGroup> groups = groups_of(strokes);
    ASSERT_EQ(groups.size(), 3U);
    for (const ShapeGroup& group : groups) {
        const ShapeKind kind = group.reading.best().shape.kind;
        if (group.strokes.size() == 2) {
            EXPECT_EQ(kind, ShapeKind::arrow);
            EXPECT_EQ(group.strokes, (std::vector<size_t>{1, 3}));
        } else {
            EXPECT_EQ(kind, ShapeKind::rectangle);
        }
    }
}

TEST(ShapeGrouping, SidesDrawnByThemselvesMakeAFigure) {
    const std::vector<Stroke> strokes{drawn({{10, 10}, {40, 10.5}}), drawn({{40, 30}, {40.5, 11}}),
                                      drawn({{10, 10.5}, {10, 30}, {39.5, 30.5}})};
    const std::vector<ShapeGroup> groups = groups_of(strokes);
    ASSERT_EQ(groups.size(), 1U);
    EXPECT_EQ(groups[0].strokes, (std::vector<size_t>{0, 1, 2}));
    EXPECT_EQ(groups[0].reading.best().shape.kind, ShapeKind::rectangle);
}

// A path along a rounded box of 20 by 10 mm, clockwise from a place, some of the way round.
std::vector<Point> round_box(double from, double way) {
    std::vector<Point> out;
    for (double at = from; at <= from + way; at += 0.02) {
        const double angle = 2 * std::numbers::pi * at;
        const double s = std::sin(angle), c = std::cos(angle);
        out.push_back({30 + 10 * std::copysign(std::pow(std::abs(c), 0.5), c),
                       20 + 5 * std::copysign(std::pow(std::abs(s), 0.5), s)});
    }
    return out;
}

TEST(ShapeGrouping, HalvesThatOverlapAndTwoWaysRoundMakeOneFigure) {
    for (const double way : {0.65, 0.78}) {
        const std::vector<Stroke> strokes{drawn(round_box(0, way)), drawn(round_box(0.5, way))};
        const std::vector<ShapeGroup> groups = groups_of(strokes);
        ASSERT_EQ(groups.size(), 1U) << way;
        EXPECT_EQ(groups[0].strokes.size(), 2U);
        EXPECT_TRUE(is_closed(groups[0].reading.best().shape.kind)) << name_of(groups[0].reading.best().shape.kind);
    }
}

TEST(ShapeGrouping, AFourthSideClosesWhatThreeSidesLeaveOpen) {
    const std::vector<Stroke> strokes{drawn({{104, 108}, {73, 115}, {76, 117}, {104, 124}, {134, 118}, {136, 116.5}}),
                                      drawn({{104, 108}, {136, 115}})};
    const std::vector<ShapeGroup> groups = groups_of(strokes);
    ASSERT_EQ(groups.size(), 1U);
    EXPECT_EQ(groups[0].strokes.size(), 2U);
    EXPECT_EQ(groups[0].reading.best().shape.kind, ShapeKind::diamond);
}

TEST(ShapeGrouping, TwoFiguresThatTouchStayTwo) {
    const std::vector<Stroke> strokes{drawn(kLeft), drawn({{40.5, 10}, {70, 10}, {70, 30}, {40.5, 30}, {40.5, 10.5}})};
    EXPECT_EQ(groups_of(strokes).size(), 2U);
}

TEST(ShapeGrouping, DotsAndTooManyStrokesMakeNone) {
    const std::vector<Stroke> dots{drawn({{10, 10}}), drawn({{12, 10}, {12.5, 10}})};
    EXPECT_TRUE(groups_of(dots).empty());
    EXPECT_TRUE(groups_of({}).empty());
    std::vector<Stroke> hatching;
    for (size_t i = 0; i <= kMostDrawnStrokes; ++i)
        hatching.push_back(drawn({{10 + 0.1 * static_cast<double>(i), 10}, {20 + 0.1 * static_cast<double>(i), 30}}));
    EXPECT_TRUE(groups_of(hatching).empty());
}

}  // namespace
}  // namespace fernleaf
