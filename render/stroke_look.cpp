#include "render/stroke_look.h"

#include <QPaintEngine>
#include <algorithm>
#include <limits>
#include <random>

#include "render/page_painter.h"
#include "render/stroke_shape.h"

namespace fernleaf {
namespace {

constexpr int kGrainPx = 64;
constexpr double kGrainMm = 0.05;  // one grain of the paper's tooth
constexpr int kGrainLeast = 110;   // of 255: lead that falls into the hollows
constexpr double kMostSteps = std::numeric_limits<uint16_t>::max();

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
    shape_pieces(stroke, [this](const QPainterPath& shape, double darkness) { keep(shape, darkness); });
    pieces_.shrink_to_fit();
    numbers_.shrink_to_fit();
}

void StrokeLook::keep(const QPainterPath& shape, double darkness) {
    const QRectF box = shape.boundingRect();
    Piece piece;
    piece.left = static_cast<float>(box.left()), piece.top = static_cast<float>(box.top());
    piece.right = static_cast<float>(box.right()), piece.bottom = static_cast<float>(box.bottom());
    piece.step = static_cast<float>(std::max({box.width(), box.height(), 1e-3}) / kMostSteps);
    piece.darkness = static_cast<float>(darkness);
    piece.begin = static_cast<uint32_t>(numbers_.size());
    size_t length_at = 0;
    for (int i = 0; i < shape.elementCount(); ++i) {
        const QPainterPath::Element corner = shape.elementAt(i);
        if (corner.isMoveTo()) {
            length_at = numbers_.size();
            numbers_.push_back(0);
        }
        ++numbers_[length_at];
        for (const double way : {corner.x - piece.left, corner.y - piece.top})
            numbers_.push_back(static_cast<uint16_t>(std::clamp(std::round(way / piece.step), 0.0, kMostSteps)));
    }
    piece.end = static_cast<uint32_t>(numbers_.size());
    if (piece.end > piece.begin) pieces_.push_back(piece);
}

void StrokeLook::add_to(QPainterPath& path, const Piece& piece) const {
    for (size_t i = piece.begin; i < piece.end;) {
        const size_t corners = numbers_[i++];
        for (size_t k = 0; k < corners; ++k, i += 2) {
            const QPointF at(piece.left + piece.step * numbers_[i], piece.top + piece.step * numbers_[i + 1]);
            if (k == 0)
                path.moveTo(at);
            else
                path.lineTo(at);
        }
    }
}

void StrokeLook::draw(QPainter& painter, const PageScheme& scheme) const {
    constexpr double kFar = std::numeric_limits<double>::max();
    draw(painter, scheme, {-kFar, -kFar, kFar, kFar});
}

void StrokeLook::draw(QPainter& painter, const PageScheme& scheme, const Box& clip) const {
    const QColor colour = shown_colour(pen_.colour, scheme);
    // Documents get an even tone: a pattern would become pictures there.
    const bool grained = pen_.kind == PenKind::pencil && painter.paintEngine()->type() != QPaintEngine::Pdf;
    painter.setBrush(grained ? grain(colour) : QBrush(colour));
    const double before = painter.opacity();
    // Pieces of one darkness lie in one path, so that a pencil line crossing itself is not darker there than drawn.
    std::vector<float> drawn;
    for (const Piece& first : pieces_) {
        if (std::ranges::find(drawn, first.darkness) != drawn.end()) continue;
        drawn.push_back(first.darkness);
        QPainterPath path;
        path.setFillRule(Qt::WindingFill);
        for (const Piece& piece : pieces_)
            if (piece.darkness == first.darkness && clip.meets({piece.left, piece.top, piece.right, piece.bottom}))
                add_to(path, piece);
        painter.setOpacity(before * first.darkness * pen_.opacity);
        painter.drawPath(path);
    }
    painter.setOpacity(before);
}

}  // namespace fernleaf
