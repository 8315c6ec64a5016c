#include "document/shape/fair_shape.h"

#include <gtest/gtest.h>

#include "document/elements.h"

namespace fernleaf {
namespace {

using FairShapeTraits = ElementTraits<FairShape>;

FairShape box() {
    FairShape out;
    out.shape = {ShapeKind::rectangle, {{10, 10}, {50, 10}, {50, 30}, {10, 30}}, 0};
    out.ink = {4, 7};
    out.colour = 0x2E6B4F;
    return out;
}

FairShape circle() {
    FairShape out;
    out.shape = {ShapeKind::circle, {{20, 10}, {30, 20}, {20, 30}, {10, 20}}, 0};
    return out;
}

TEST(FairShape, ComesBackAsItWasKept) {
    FairShape fair = box();
    fair.shape = {ShapeKind::rounded_rectangle, fair.shape.points, 4};
    fair.transform_since_set = Affine::turn(0.5, {3, 4});
    const auto back = FairShapeTraits::decode(FairShapeTraits::encode(fair));
    ASSERT_TRUE(back) << back.error().message;
    EXPECT_EQ(*back, fair);
}

TEST(FairShape, DamagedBytesAreAnError) {
    for (const char* bytes : {"", "{}", "[]", R"({"shape":"heart","width":1,"colour":0,"points":[[0,0],[1,1]]})",
                              R"({"shape":"line","width":1,"colour":0,"points":[[0,0]]})",
                              R"({"shape":"line","width":1,"colour":0,"points":[[0,0],[1e9,1]]})",
                              R"({"shape":"line","width":1e9,"colour":0,"points":[[0,0],[1,1]]})",
                              R"({"shape":"line","width":1,"colour":-5,"points":[[0,0],[1,1]]})",
                              R"({"shape":"line","width":1,"colour":0,"points":[[0],[1,1]]})"})
        EXPECT_FALSE(FairShapeTraits::decode(bytes)) << bytes;
}

TEST(FairShape, ItsLinesAreItNotWhatTheyEnclose) {
    EXPECT_TRUE(FairShapeTraits::covers(box(), {30, 10.2}, 0));
    EXPECT_FALSE(FairShapeTraits::covers(box(), {30, 20}, 1));
    EXPECT_TRUE(FairShapeTraits::covers(box(), {30, 31}, 1));
    EXPECT_TRUE(FairShapeTraits::mostly_inside(box(), {{0, 0}, {45, 0}, {45, 40}, {0, 40}}));
    EXPECT_FALSE(FairShapeTraits::mostly_inside(box(), {{0, 0}, {25, 0}, {25, 40}, {0, 40}}));
}

TEST(FairShape, AStretchedCircleIsAnEllipseAndAgainACircle) {
    const FairShape wide = FairShapeTraits::transformed(circle(), Affine::scale(2, 1, {20, 20}));
    EXPECT_EQ(wide.shape.kind, ShapeKind::ellipse);
    EXPECT_NEAR(box_of(wide.shape).width(), 40, 1e-6);
    EXPECT_NEAR(box_of(wide.shape).height(), 20, 1e-6);
    // Aslant its axes are no longer where the circle's were: every point of the outline lies where it went.
    const Affine skewed = Affine::turn(0.6, {20, 20}).then(Affine::scale(2, 0.7, {20, 20}));
    const FairShape aslant = FairShapeTraits::transformed(wide, skewed);
    const auto outline = outline_of(aslant.shape);
    for (const auto& line : outline_of(wide.shape))
        for (const Point p : line) EXPECT_LT(distance_to(outline, skewed(p)), 0.2);
    const std::vector<Point>& p = aslant.shape.points;
    EXPECT_NEAR(dot(p[1] - p[3], p[2] - p[0]), 0, 1e-6) << "axes stand upright on one another";
    EXPECT_EQ(FairShapeTraits::transformed(circle(), Affine::scale(3, 3, {0, 0})).shape.kind, ShapeKind::circle);
    EXPECT_EQ(FairShapeTraits::transformed(circle(), Affine::turn(1, {5, 5})).shape.kind, ShapeKind::circle);
}

TEST(FairShape, ASkewedRectangleIsAParallelogramAndItsInkGoesAlong) {
    const Affine skew{1, 0.5, 0, 0, 1, 0};
    EXPECT_EQ(FairShapeTraits::transformed(box(), skew).shape.kind, ShapeKind::parallelogram);
    const FairShape turned = FairShapeTraits::transformed(box(), Affine::turn(0.3, {0, 0}));
    EXPECT_EQ(turned.shape.kind, ShapeKind::rectangle);
    EXPECT_EQ(turned.transform_since_set, Affine::turn(0.3, {0, 0}));
    FairShape square = box();
    square.shape = {ShapeKind::square, {{0, 0}, {10, 0}, {10, 10}, {0, 10}}, 0};
    EXPECT_EQ(FairShapeTraits::transformed(square, Affine::scale(2, 1, {0, 0})).shape.kind, ShapeKind::rectangle);
}

TEST(FairShape, IsAnElementLikeTheOthers) {
    Elements page;
    page.shapes = {box()};
    page.shapes[0].id = 3;
    EXPECT_EQ(element_at(page, {10, 20}, 0.5), 3);
    const auto copied = decode_elements(encode_elements(page));
    ASSERT_TRUE(copied);
    ASSERT_EQ(copied->shapes.size(), 1U);
    EXPECT_EQ(copied->shapes[0].shape, box().shape);
}

TEST(FairShape, LinksFillAndBorderAreKept) {
    FairShape arrow;
    arrow.shape = {ShapeKind::arrow, {{0, 0}, {20, 0}}};
    arrow.from = {7, {0.5, 0.5}}, arrow.to = {9, {0, 0.25}};
    arrow.routing = Routing::curved, arrow.form = BorderForm::dotted;
    EXPECT_EQ(*FairShapeTraits::decode(FairShapeTraits::encode(arrow)), arrow);
    FairShape filled = box();
    filled.key = 7, filled.fill = 0x2E6B4F, filled.fill_strength = 0.18;
    EXPECT_EQ(*FairShapeTraits::decode(FairShapeTraits::encode(filled)), filled);
    EXPECT_TRUE(FairShapeTraits::covers(filled, drawn_box(filled).centre(), 0)) << "it is all of what it fills";
    filled.fill_strength = 0;
    EXPECT_FALSE(FairShapeTraits::covers(filled, drawn_box(filled).centre(), 0));
    filled.fill_strength = 3;
    EXPECT_TRUE(FairShapeTraits::validation_error(filled));
    EXPECT_FALSE(
        FairShapeTraits::decode(R"({"shape":"line","points":[[0,0],[9,0]],"width":1,"colour":0,"routing":7})"));
    EXPECT_FALSE(
        FairShapeTraits::decode(R"({"shape":"line","points":[[0,0],[9,0]],"width":1,"colour":0,"from":[1,1e300,0]})"));
}

}  // namespace
}  // namespace fernleaf
