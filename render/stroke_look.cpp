#include "render/stroke_look.h"

#include <QPaintEngine>
#include <random>

#include "render/page_painter.h"
#include "render/stroke_shape.h"

namespace fernleaf {
namespace {

constexpr int kGrainPx = 64;
constexpr double kGrainMm = 0.05;  // one grain of the paper's tooth
constexpr int kGrainLeast = 110;   // of 255: lead that falls into the hollows

// A pencil's colour on the paper's tooth. The painter is told where the pattern lies by the page, so that a tile drawn
// anew looks as before.
QBrush grain(const QColor& colour) {
    thread_local QColor of;
    thread_local QImage image;
    if (image.isNull() || of != colour) {
        of = colour;
        image = QImage(kGrainPx, kGrainPx, QImage::Format_ARGB32_Premultiplied);
        std::minstd_rand random(7);
        for (int y = 0; y < kGrainPx; ++y)
            for (int x = 0; x < kGrainPx; ++x) {
                QColor c = colour;
                c.setAlpha(kGrainLeast + static_cast<int>(random() % static_cast<unsigned>(256 - kGrainLeast)));
                image.setPixelColor(x, y, c);
            }
    }
    QBrush brush(image);
    brush.setTransform(QTransform::fromScale(kGrainMm, kGrainMm));
    return brush;
}

}  // namespace

StrokeLook::StrokeLook(const Stroke& stroke) : pen_(stroke.pen) {
    for (const ShapePart& part : shape_parts(stroke)) parts_.push_back({part.shape, part.darkness * pen_.opacity});
}

void StrokeLook::draw(QPainter& painter, const PageScheme& scheme) const {
    const QColor colour = shown_colour(pen_.colour, scheme);
    // Documents get an even tone: a pattern would become pictures there.
    const bool grained = pen_.kind == PenKind::pencil && painter.paintEngine()->type() != QPaintEngine::Pdf;
    painter.setBrush(grained ? grain(colour) : QBrush(colour));
    const double before = painter.opacity();
    for (const Part& part : parts_) {
        painter.setOpacity(before * part.opacity);
        painter.drawPath(part.shape);
    }
    painter.setOpacity(before);
}

}  // namespace fernleaf
