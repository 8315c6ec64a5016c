#include "document/shape/shape.h"

#include <gtest/gtest.h>

#include <set>

namespace fernleaf {
namespace {

TEST(Shape, EveryKindHasANameOfItsOwn) {
    std::set<std::string_view> names;
    for (int k = 0; k < kShapeKinds; ++k) names.insert(name_of(static_cast<ShapeKind>(k)));
    EXPECT_EQ(names.size(), static_cast<size_t>(kShapeKinds));
    EXPECT_EQ(name_of(ShapeKind::rounded_rectangle), "rounded_rectangle");
    EXPECT_EQ(name_of(ShapeKind::brace), "brace");
}

TEST(Shape, OnlyFiguresEnclose) {
    EXPECT_TRUE(is_closed(ShapeKind::circle));
    EXPECT_TRUE(is_closed(ShapeKind::polygon));
    EXPECT_FALSE(is_closed(ShapeKind::brace));
    EXPECT_FALSE(is_closed(ShapeKind::arrow));
}

TEST(Shape, ACirclesOutlineIsAsFarFromItsMiddleEverywhere) {
    const Shape circle{ShapeKind::circle, {{50, 30}, {70, 50}, {50, 70}, {30, 50}}};
    const auto outline = outline_of(circle);
    ASSERT_EQ(outline.size(), 1U);
    for (const Point& p : outline[0]) EXPECT_NEAR(distance(p, {50, 50}), 20, 1e-6);
    EXPECT_NEAR(distance_to(outline, {50, 50}), 20, 0.1);
    EXPECT_EQ(angle_of(circle), 0);
}

TEST(Shape, ArrowsHaveAHeadAtOneEndOrBoth) {
    const Shape one{ShapeKind::arrow, {{0, 0}, {40, 0}}};
    const auto outline = outline_of(one);
    ASSERT_EQ(outline.size(), 2U);
    EXPECT_EQ(outline[1][1], (Point{40, 0}));
    for (const size_t barb : {size_t{0}, size_t{2}}) EXPECT_LT(outline[1][barb].x, 40);
    EXPECT_EQ(outline_of({ShapeKind::double_arrow, {{0, 0}, {40, 0}}}).size(), 3U);
}

TEST(Shape, AnArcGoesThroughItsThreePoints) {
    const auto outline = outline_of({ShapeKind::arc, {{0, 10}, {10, 0}, {20, 10}}});
    for (const Point p : {Point{0, 10}, {10, 0}, {20, 10}}) EXPECT_LT(distance_to(outline, p), 0.05);
    EXPECT_GT(distance_to(outline, {10, 20}), 8) << "it is the upper half";
}

TEST(Shape, ARoundedRectanglesCornersAreCut) {
    const Shape shape{ShapeKind::rounded_rectangle, {{0, 0}, {40, 0}, {40, 20}, {0, 20}}, 6};
    const auto outline = outline_of(shape);
    EXPECT_LT(distance_to(outline, {20, 0}), 1e-6);
    EXPECT_NEAR(distance_to(outline, {0, 0}), 6 * (std::sqrt(2.0) - 1), 0.6);
}

TEST(Shape, TurnIsToldFromItsSides) {
    EXPECT_NEAR(angle_of({ShapeKind::line, {{0, 0}, {10, 10}}}), 45, 1e-9);
    EXPECT_NEAR(angle_of({ShapeKind::line, {{10, 10}, {0, 0}}}), 45, 1e-9) << "whichever way it was drawn";
    EXPECT_NEAR(angle_of({ShapeKind::rectangle, {{0, 0}, {20, -4}, {22, 6}, {2, 10}}}), -11.3, 0.1);
}

TEST(Shape, AnotherKindStandsInTheSamePlaceTurnedAsItWas) {
    const Shape box{ShapeKind::rectangle, {{10, 10}, {50, 10}, {50, 30}, {10, 30}}};
    for (const ShapeKind kind : {ShapeKind::ellipse, ShapeKind::diamond, ShapeKind::triangle, ShapeKind::parallelogram,
                                 ShapeKind::trapezoid, ShapeKind::hexagon, ShapeKind::rounded_rectangle}) {
        const Shape other = as_kind(box, kind);
        EXPECT_TRUE(is_valid(other)) << name_of(kind);
        EXPECT_EQ(other.kind, kind);
        EXPECT_GT(box_of(other).overlap(box_of(box)), 0.98) << name_of(kind);
    }
    for (const ShapeKind kind : {ShapeKind::pentagon, ShapeKind::star, ShapeKind::circle, ShapeKind::square}) {
        const Shape other = as_kind(box, kind);
        EXPECT_TRUE(is_valid(other)) << name_of(kind);
        EXPECT_LT(distance(box_of(other).centre(), box_of(box).centre()), 2) << name_of(kind);
    }
    EXPECT_EQ(box_of(as_kind(box, ShapeKind::circle)).width(), box_of(as_kind(box, ShapeKind::square)).width());
    const Shape turned = transformed(box, Affine::turn(0.5, {30, 20}));
    const Shape back = as_kind(as_kind(turned, ShapeKind::ellipse), ShapeKind::rectangle);
    EXPECT_GT(box_of(back).overlap(box_of(turned)), 0.98) << "and back again";
}

}  // namespace
}  // namespace fernleaf
