#include "render/stroke_shape.h"

#include <gtest/gtest.h>

#include <cmath>

namespace fernleaf {
namespace {

Stroke stroke(std::vector<Point> points, float pressure = 0.5F) {
    Stroke s;
    s.pen.width_mm = 1;
    for (const Point p : points) s.points.push_back({p, pressure});
    return s;
}

TEST(StrokeShape, CoversThePathAndNoMoreThanThePenIsWide) {
    const QPainterPath path = stroke_shape(stroke({{10, 10}, {20, 10}, {30, 10}}));
    for (const double x : {10.0, 15.0, 20.0}) {
        EXPECT_TRUE(path.contains(QPointF(x, 10.4))) << x;
        EXPECT_FALSE(path.contains(QPointF(x, 11.2))) << x;
    }
    EXPECT_TRUE(path.contains(QPointF(9.6, 10)));
    EXPECT_FALSE(path.contains(QPointF(9.3, 10)));
}

TEST(StrokeShape, PressureWidens) {
    Stroke light = stroke({{10, 10}, {20, 10}}, 0), heavy = stroke({{10, 10}, {20, 10}}, 1);
    light.pen.kind = heavy.pen.kind = PenKind::fountain;
    EXPECT_FALSE(stroke_shape(light).contains(QPointF(15, 10.4)));
    EXPECT_TRUE(stroke_shape(heavy).contains(QPointF(15, 10.6)));
}

TEST(StrokeShape, ADotIsADisc) {
    const QPainterPath path = stroke_shape(stroke({{5, 5}}));
    EXPECT_TRUE(path.contains(QPointF(5.4, 5)));
    EXPECT_FALSE(path.contains(QPointF(5.6, 5)));
    EXPECT_TRUE(stroke_shape(stroke({})).isEmpty());
}

TEST(StrokeShape, StaysFilledWhereItCrossesItselfAndAtSharpTurns) {
    std::vector<Point> loop;
    for (int i = 0; i <= 80; ++i) loop.push_back({20 + 5 * std::sin(i * 0.157), 20 + 3 * std::sin(i * 0.314)});
    const QPainterPath eight = stroke_shape(stroke(loop));
    EXPECT_TRUE(eight.contains(QPointF(20, 20)));
    EXPECT_FALSE(eight.contains(QPointF(22.5, 20)));
    const QPainterPath turn = stroke_shape(stroke({{10, 10}, {20, 10}, {10, 10.5}}));
    EXPECT_TRUE(turn.contains(QPointF(20.3, 10)));
}

TEST(StrokeShape, ItsTailCoversWhatWasAdded) {
    std::vector<Point> wave;
    for (int i = 0; i <= 60; ++i) wave.push_back({10 + i * 0.5, 20 + 3 * std::sin(i * 0.3)});
    const Stroke s = stroke(wave);
    const QPainterPath tail = stroke_tail(s, 50);
    for (size_t i = 50; i < s.points.size(); ++i)
        EXPECT_TRUE(tail.contains(QPointF(s.points[i].at.x, s.points[i].at.y))) << i;
    EXPECT_FALSE(tail.contains(QPointF(s.points[40].at.x, s.points[40].at.y)));
}

}  // namespace
}  // namespace fernleaf
