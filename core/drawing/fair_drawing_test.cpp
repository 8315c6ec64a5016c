#include "drawing/fair_drawing.h"

#include <gtest/gtest.h>

#include "drawing/drawing_reading.h"
#include "drawing/drawn_ink.h"
#include "drawing/test_ink.h"

namespace fernleaf {
namespace {

Reading reading_of(const std::vector<Stroke>& strokes) {
    Reading out;
    out.lines.resize(1);
    out.lines[0].shapes = drawn_ink(strokes, true).shapes(strokes);
    return out;
}

FairDrawing made_fair(const std::vector<Stroke>& strokes, const Reading& reading, const std::set<StrokeId>* chosen) {
    return drawn_fair(strokes, reading, chosen, {}, [key = int64_t{0}]() mutable { return ++key; });
}

std::vector<Stroke> numbered(std::vector<Stroke> strokes) {
    StrokeId id = 1;
    for (Stroke& s : strokes) s.id = id++;
    return strokes;
}

// Two boxes that were meant to be alike and to stand one above the other, the arrow a little short and aslant.
std::vector<Stroke> rough_flow() {
    return numbered({drawn({{10, 10}, {50, 10.8}, {49.6, 26.6}, {9.7, 26}, {10, 10.4}}),
                     drawn({{11, 60}, {49.2, 60.6}, {49, 77}, {10.8, 76.2}, {11, 60.4}}), drawn({{30, 28}, {31, 57}}),
                     drawn({{28, 53}, {31, 57}, {33.6, 52.6}})});
}

TEST(FairDrawing, NearlyLevelAlikeAndAboveOneAnotherBecomeSo) {
    const std::vector<Stroke> ink = rough_flow();
    const FairDrawing fair = made_fair(ink, reading_of(ink), nullptr);
    ASSERT_EQ(fair.shapes.size(), 3U);
    EXPECT_EQ(fair.ink.size(), 4U);
    std::vector<Box> boxes;
    Shape arrow;
    for (const FairShape& s : fair.shapes) {
        if (!is_closed(s.shape.kind)) {
            arrow = s.shape;
            continue;
        }
        boxes.push_back(box_of(s.shape));
        EXPECT_NEAR(angle_of(s.shape), 0, 1e-6);
    }
    ASSERT_EQ(boxes.size(), 2U);
    EXPECT_NEAR(boxes[0].width(), boxes[1].width(), 1e-6);
    EXPECT_NEAR(boxes[0].height(), boxes[1].height(), 1e-6);
    EXPECT_NEAR(boxes[0].centre().x, boxes[1].centre().x, 1e-6);
    std::ranges::sort(boxes, {}, &Box::top);
    // The arrow leads down, upright, from border to border.
    ASSERT_EQ(arrow.kind, ShapeKind::arrow);
    EXPECT_NEAR(arrow.points.front().x, arrow.points.back().x, 1e-6);
    EXPECT_NEAR(arrow.points.front().x, boxes[0].centre().x, 1e-6);
    EXPECT_NEAR(arrow.points.front().y, boxes[0].bottom, 1e-6);
    EXPECT_NEAR(arrow.points.back().y, boxes[1].top, 1e-6);
}

TEST(FairDrawing, NothingMovesFartherThanItsTolerance) {
    const std::vector<Stroke> ink = rough_flow();
    const Reading reading = reading_of(ink);
    const FairDrawing fair = made_fair(ink, reading, nullptr);
    for (const FairShape& s : fair.shapes) {
        if (!is_closed(s.shape.kind)) continue;
        const auto drawn = std::ranges::find(reading.lines[0].shapes, s.ink, &ReadShape::strokes);
        for (size_t i = 0; i < s.shape.points.size(); ++i)
            EXPECT_LE(distance(s.shape.points[i], drawn->best().shape.points[i]), kMostMovedMm);
    }
}

TEST(FairDrawing, WhatIsMeantAslantOrUnlikeStaysSo) {
    const std::vector<Stroke> ink = numbered({drawn({{20, 20}, {55, 34}, {49, 49}, {14, 35}, {20, 20.4}}),
                                              drawn({{100, 20}, {130, 20}, {130, 60}, {100, 60}, {100, 20.4}})});
    const FairDrawing fair = made_fair(ink, reading_of(ink), nullptr);
    ASSERT_EQ(fair.shapes.size(), 2U);
    EXPECT_NEAR(std::abs(angle_of(fair.shapes[0].shape)), 21.8, 2);
    EXPECT_NEAR(box_of(fair.shapes[1].shape).width(), 30, 1);
}

TEST(FairDrawing, OnlyWhatIsChosenAndWithItsPen) {
    std::vector<Stroke> ink = rough_flow();
    ink[1].pen.colour = 0x8A3B6B;
    ink[1].pen.width_mm = 1.25F;
    const std::set<StrokeId> chosen{2};
    const FairDrawing fair = made_fair(ink, reading_of(ink), &chosen);
    ASSERT_EQ(fair.shapes.size(), 1U);
    EXPECT_EQ(fair.shapes[0].ink, std::vector<StrokeId>{2});
    EXPECT_EQ(fair.shapes[0].colour, 0x8A3B6BU);
    EXPECT_DOUBLE_EQ(fair.shapes[0].width_mm, 1.25);
    ASSERT_EQ(fair.ink.size(), 1U);
    EXPECT_EQ(fair.ink[0].id, 2);
}

TEST(FairDrawing, AChosenLineThatWasReadAsAMarkIsDrawnToo) {
    const std::vector<Stroke> ink = numbered({drawn({{10, 10}, {60, 11}})});
    const std::set<StrokeId> chosen{1};
    EXPECT_TRUE(made_fair(ink, Reading{}, nullptr).shapes.empty());
    const FairDrawing fair = made_fair(ink, Reading{}, &chosen);
    ASSERT_EQ(fair.shapes.size(), 1U);
    EXPECT_EQ(fair.shapes[0].shape.kind, ShapeKind::line);
    EXPECT_NEAR(fair.shapes[0].shape.points[0].y, fair.shapes[0].shape.points[1].y, 1e-6);
    std::vector<Stroke> highlighted = ink;
    highlighted[0].pen.kind = PenKind::highlighter;
    EXPECT_TRUE(made_fair(highlighted, Reading{}, &chosen).shapes.empty()) << "it would cover what it lies under";
}

TEST(FairDrawing, LinksOfWhatAPersonSaysIsDrawnEndOnBordersToo) {
    const std::vector<Stroke> ink = rough_flow();
    const std::set<StrokeId> chosen{1, 2, 3, 4};
    const FairDrawing fair = made_fair(ink, Reading{}, &chosen);
    ASSERT_EQ(fair.shapes.size(), 3U);
    std::vector<double> bottoms, tops;
    for (const FairShape& s : fair.shapes)
        if (is_closed(s.shape.kind)) bottoms.push_back(box_of(s.shape).bottom), tops.push_back(box_of(s.shape).top);
    const auto arrow =
        std::ranges::find(fair.shapes, ShapeKind::arrow, [](const FairShape& s) { return s.shape.kind; });
    ASSERT_NE(arrow, fair.shapes.end());
    EXPECT_NEAR(arrow->shape.points.front().y, std::ranges::min(bottoms), 1e-6);
    EXPECT_NEAR(arrow->shape.points.back().y, std::ranges::max(tops), 1e-6);
}

TEST(FairDrawing, AFairDrawingIsReadAsTheDiagramItIs) {
    const std::vector<Stroke> ink = rough_flow();
    Elements page;
    page.shapes = made_fair(ink, reading_of(ink), nullptr).shapes;
    ElementId id = 50;
    for (FairShape& s : page.shapes) s.id = id++;
    Reading reading;
    add_typed(reading, page);
    ASSERT_EQ(reading.lines.size(), 1U);
    EXPECT_EQ(reading.lines[0].kind, RegionKind::drawing);
    const DrawingReading drawing = read_drawing(reading);
    ASSERT_EQ(drawing.nodes.size(), 2U);
    ASSERT_EQ(drawing.links.size(), 1U);
    EXPECT_EQ(drawing.links[0].heads, LinkHeads::to);
}

TEST(FairDrawing, LinksHoldOnToWhatTheyLeadTo) {
    const std::vector<Stroke> ink = rough_flow();
    const FairDrawing fair = made_fair(ink, reading_of(ink), nullptr);
    std::vector<int64_t> keys;
    FairShape arrow;
    for (const FairShape& s : fair.shapes)
        if (is_closed(s.shape.kind))
            keys.push_back(s.key);
        else
            arrow = s;
    std::ranges::sort(keys);
    EXPECT_EQ(keys, (std::vector<int64_t>{1, 2}));
    EXPECT_NE(arrow.from.figure, arrow.to.figure);
    EXPECT_NE(arrow.from.figure, 0);
    EXPECT_NE(arrow.to.figure, 0);
    EXPECT_TRUE(arrow.from.to_middle());
    // An arrow that is drawn later holds on to figures that are fair already.
    std::vector<FairShape> before;
    for (FairShape s : fair.shapes)
        if (is_closed(s.shape.kind)) s.id = 100 + s.key, before.push_back(s);
    const std::vector<Stroke> later = numbered({drawn({{31, 28}, {31, 57}})});
    Reading reading;
    reading.lines.resize(1);
    reading.lines[0].shapes = drawn_ink(later, true).shapes(later);
    for (const FairShape& s : before) reading.lines[0].shapes.push_back({{s.id}, {{s.shape, 1, 0}}});
    const FairDrawing line = drawn_fair(later, reading, nullptr, before, [] { return int64_t{9}; });
    ASSERT_EQ(line.shapes.size(), 1U);
    EXPECT_NE(line.shapes[0].from.figure, 0);
    EXPECT_NE(line.shapes[0].to.figure, line.shapes[0].from.figure);
}

}  // namespace
}  // namespace fernleaf
