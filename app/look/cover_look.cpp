#include "look/cover_look.h"

#include <QCoreApplication>
#include <QPainterPath>
#include <cmath>

namespace fernleaf {
namespace {

constexpr double kRound = 4;
const QColor kPrint(255, 255, 255, 46);

void leaf(QPainter& painter, const QPointF& at, double length, double angle) {
    painter.save();
    painter.translate(at);
    painter.rotate(angle);
    QPainterPath path(QPointF(0, 0));
    path.quadTo(QPointF(length / 2, -length / 2.6), QPointF(length, 0));
    path.quadTo(QPointF(length / 2, length / 2.6), QPointF(0, 0));
    painter.drawPath(path);
    painter.restore();
}

void print_pattern(QPainter& painter, const QRectF& r, CoverPattern pattern) {
    painter.setPen(Qt::NoPen);
    painter.setBrush(kPrint);
    const auto lines = [&](double width) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(kPrint, width, Qt::SolidLine, Qt::RoundCap));
    };
    switch (pattern) {
        case CoverPattern::bands:  // of a spine
            painter.drawRect(QRectF(r.left() + 8, r.top(), 3, r.height()));
            painter.drawRect(QRectF(r.right() - 10, r.top(), 3, r.height()));
            break;
        case CoverPattern::leaves:
            for (double x = r.left() + 4; x < r.right(); x += 17)
                for (double y = r.top() + 5; y < r.bottom() + 8; y += 13)
                    leaf(painter, {x + (std::lround((y - r.top()) / 13) % 2 == 0 ? 0.0 : 8.5), y}, 11, -35);
            break;
        case CoverPattern::rain:
            lines(1.4);
            for (double x = r.left() - r.height(); x < r.right(); x += 11)
                for (double y = r.top() + 4; y < r.bottom(); y += 12)
                    painter.drawLine(QPointF(x + (y - r.top()) * 0.5 + 4, y), QPointF(x + (y - r.top()) * 0.5, y + 7));
            break;
        case CoverPattern::rows:  // of an orchard
            for (double y = r.top() + 6; y < r.bottom(); y += 9)
                for (double x = r.left() + 6; x < r.right(); x += 9) painter.drawEllipse(QPointF(x, y), 1.9, 1.9);
            break;
        case CoverPattern::rings:  // of a trunk
            lines(1.6);
            for (double radius = 6; radius < 60; radius += 7)
                painter.drawEllipse(QPointF(r.right() - 26, r.bottom() - 6), radius, radius * 0.92);
            break;
        case CoverPattern::hills:
            for (int i = 0; i < 3; ++i) {
                QPainterPath hill(r.bottomLeft());
                for (double x = r.left(); x <= r.right() + 4; x += 4)
                    hill.lineTo(x, r.bottom() - r.height() * (0.18 + 0.16 * i) -
                                       r.height() * 0.12 * std::sin(x / (26 + 9 * i) + 2.1 * i));
                hill.lineTo(r.bottomRight());
                painter.drawPath(hill);
            }
            break;
    }
}

}  // namespace

void paint_cover(QPainter& painter, const QRect& area, const QColor& colour, CoverPattern pattern,
                 const QImage& picture) {
    painter.save();
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
    painter.drawRoundedRect(area, kRound, kRound);
    QPainterPath shape;
    shape.addRoundedRect(area, kRound, kRound);
    painter.setClipPath(shape, Qt::IntersectClip);
    if (picture.isNull()) {
        print_pattern(painter, area, pattern);
    } else {
        // Its middle, as wide as the cover; under the colour, so that the title can be read.
        const double scale = std::max(area.width() / static_cast<double>(picture.width()),
                                      area.height() / static_cast<double>(picture.height()));
        const QSizeF part(area.width() / scale, area.height() / scale);
        painter.drawImage(
            QRectF(area), picture,
            QRectF(QPointF((picture.width() - part.width()) / 2, (picture.height() - part.height()) / 2), part));
        QColor over = colour;
        over.setAlpha(150);
        painter.fillRect(area, over);
    }
    painter.restore();
}

QString cover_pattern_name(CoverPattern pattern) {
    const auto say = [](const char* text) { return QCoreApplication::translate("Cover", text); };
    switch (pattern) {
        case CoverPattern::bands:
            return say("Bands");
        case CoverPattern::leaves:
            return say("Leaves");
        case CoverPattern::rain:
            return say("Rain");
        case CoverPattern::rows:
            return say("Rows");
        case CoverPattern::rings:
            return say("Rings");
        case CoverPattern::hills:
            return say("Hills");
    }
    return {};
}

}  // namespace fernleaf
