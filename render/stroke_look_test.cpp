#include "render/stroke_look.h"

#include <gtest/gtest.h>

#include <QImage>
#include <algorithm>
#include <cmath>
#include <cstdlib>

#include "render/page_painter.h"
#include "render/stroke_shape.h"

namespace fernleaf {
namespace {

constexpr double kLookPxPerMm = 10;

Stroke stroke(const Pen& pen, std::vector<Point> points, float pressure = 0.5F) {
    Stroke s;
    s.pen = pen;
    for (const Point p : points) s.points.push_back({p, pressure});
    return s;
}

QImage drawn(const std::vector<Stroke>& strokes) {
    QImage image(200, 200, QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.scale(kLookPxPerMm, kLookPxPerMm);
    Page page;
    page.strokes = strokes;
    const PageScheme scheme = light_page();
    paint_elements(painter, page, {scheme, {}, Box::of(0, 0, 20, 20)});
    return image;
}

double mean_grey(const QImage& image, const QRect& where) {
    double sum = 0;
    for (int y = where.top(); y <= where.bottom(); ++y)
        for (int x = where.left(); x <= where.right(); ++x) sum += qGray(image.pixel(x, y));
    return sum / (where.width() * where.height());
}

const std::vector<Point> kAcross{{2, 10}, {6, 10}, {10, 10}, {14, 10}, {18, 10}};

TEST(StrokeLook, AHighlighterLiesUnderInkWrittenBefore) {
    Stroke ink = stroke({0x000000, 1}, {{10, 4}, {10, 16}});
    Stroke band = stroke({0xFFFF00, 4, PenKind::highlighter, Tip::round, 1}, kAcross);
    ink.id = 1, band.id = 2;
    EXPECT_EQ(drawn({ink, band}).pixelColor(100, 100), QColor(Qt::black));
}

TEST(StrokeLook, OpacityLetsThePaperThroughEvenlyWhereAStrokeCrossesItself) {
    const Pen pen{0x000000, 2, PenKind::highlighter, Tip::round, 0.5F};
    const QImage image = drawn({stroke(pen, {{4, 10}, {16, 10}, {16, 14}, {10, 14}, {10, 4}})});
    const int once = qGray(image.pixel(60, 100)), twice = qGray(image.pixel(100, 100));
    EXPECT_NEAR(once, 128, 3);
    EXPECT_NEAR(twice, once, 2);
}

TEST(StrokeLook, PressureDarkensAPencilAndItsGrainShows) {
    const Pen pencil{0x000000, 2, PenKind::pencil};
    const QRect middle(60, 96, 80, 8);
    const QImage light = drawn({stroke(pencil, kAcross, 0.1F)}), dark = drawn({stroke(pencil, kAcross, 0.9F)});
    EXPECT_GT(mean_grey(light, middle), mean_grey(dark, middle) + 60);
    int least = 255, most = 0;
    for (int x = 60; x < 140; ++x) {
        least = std::min(least, qGray(dark.pixel(x, 100)));
        most = std::max(most, qGray(dark.pixel(x, 100)));
    }
    EXPECT_GT(most - least, 40);
}

TEST(StrokeLook, APencilOfChangingPressureHasNoGaps) {
    Stroke s = stroke({0x000000, 2, PenKind::pencil}, kAcross);
    for (size_t i = 0; i < s.points.size(); ++i) s.points.change()[i].pressure = 0.2F * static_cast<float>(i + 1);
    const QImage image = drawn({s});
    for (int x = 30; x < 170; ++x) EXPECT_LT(mean_grey(image, QRect(x, 96, 1, 9)), 240) << x;
}

TEST(StrokeLook, ALongStrokeIsDrawnWholeAndWithoutSeams) {
    // A spiral of thousands of points, drawn in pieces.
    std::vector<Point> spiral;
    for (int i = 0; i < 6000; ++i)
        spiral.push_back({10 + 0.0014 * i * std::cos(0.02 * i), 10 + 0.0014 * i * std::sin(0.02 * i)});
    for (const float opacity : {1.0F, 0.5F}) {
        const Stroke s = stroke({0x000000, 0.3F, PenKind::ballpoint, Tip::round, opacity}, spiral);
        const QImage pieces = drawn({s});
        QImage whole(200, 200, QImage::Format_RGB32);
        whole.fill(Qt::white);
        QPainter painter(&whole);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.scale(kLookPxPerMm, kLookPxPerMm);
        painter.setOpacity(opacity);
        painter.setPen(Qt::NoPen);
        painter.setBrush(Qt::black);
        painter.drawPath(stroke_shape(s));
        painter.end();
        int most = 0;
        for (int y = 0; y < 200; ++y)
            for (int x = 0; x < 200; ++x)
                most = std::max(most, std::abs(qGray(pieces.pixel(x, y)) - qGray(whole.pixel(x, y))));
        EXPECT_LT(most, 12);
    }
}

TEST(StrokeLook, PointsCloserThanCanBeSeenCostNothing) {
    std::vector<Point> still(200'000, {10, 10});
    for (size_t i = 0; i < still.size(); ++i) still[i].x += 1e-9 * static_cast<double>(i);
    EXPECT_LE(stroke_shape(stroke({0x000000, 1}, still)).elementCount(), 60);
    EXPECT_LT(qGray(drawn({stroke({0x000000, 1}, still)}).pixel(100, 100)), 10);
}

}  // namespace
}  // namespace fernleaf
