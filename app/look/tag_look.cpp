#include "look/tag_look.h"

#include <QPainterPath>
#include <algorithm>

#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr int kPointPx = 9, kSignPx = 16, kEndPx = 8, kHeightPx = 24;
constexpr double kSignRadius = 3.6;

}  // namespace

QFont tag_font() {
    QFont font(kInterfaceFace);
    font.setPixelSize(12);
    return font;
}

QSize tag_size(const QString& name) {
    return {kPointPx + kSignPx + QFontMetrics(tag_font()).horizontalAdvance(name) + kEndPx, kHeightPx};
}

QColor tag_colour(uint32_t colour) {
    const QColor c = QColor::fromRgb(colour);
    return theme().dark ? QColor::fromHslF(c.hslHueF(), c.hslSaturationF() * 0.8F, 0.68F) : c;
}

void paint_tag_sign(QPainter& painter, const QPointF& m, uint32_t colour) {
    const auto colours = tag_colours();
    const auto which = std::ranges::find(colours, colour) - colours.begin();
    const double r = kSignRadius;
    const QColor c = tag_colour(colour);
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(c, 1.6));
    painter.setBrush(c);
    switch (which) {
        case 0:  // a dot
            painter.drawEllipse(m, r - 0.6, r - 0.6);
            break;
        case 1:  // a diamond
            painter.drawPolygon(
                QPolygonF({m + QPointF(0, -r), m + QPointF(r, 0), m + QPointF(0, r), m + QPointF(-r, 0)}));
            break;
        case 2:  // a ring
            painter.setBrush(Qt::NoBrush);
            painter.drawEllipse(m, r, r);
            break;
        case 3:  // a triangle
            painter.drawPolygon(QPolygonF({m + QPointF(0, -r), m + QPointF(r, r - 0.6), m + QPointF(-r, r - 0.6)}));
            break;
        case 4:  // a square
            painter.drawRect(QRectF(m.x() - r + 0.8, m.y() - r + 0.8, 2 * r - 1.6, 2 * r - 1.6));
            break;
        default:  // two bars
            painter.drawLine(m + QPointF(-r, -1.8), m + QPointF(r, -1.8));
            painter.drawLine(m + QPointF(-r, 1.8), m + QPointF(r, 1.8));
    }
    painter.restore();
}

void paint_tag(QPainter& painter, const QRect& area, const QString& name, uint32_t colour, bool raised) {
    const QSize whole = tag_size(name);
    const QRectF r(area.left() + 0.5, area.center().y() - kHeightPx / 2.0 + 1.5,
                   std::min(whole.width(), area.width()) - 1, kHeightPx - 2);
    const QColor c = tag_colour(colour);
    QColor ground = c;
    ground.setAlphaF(raised ? 0.24F : 0.12F);
    QPainterPath label;  // pointed, to stand in the ground
    label.moveTo(r.left(), r.center().y());
    label.lineTo(r.left() + kPointPx, r.top());
    label.lineTo(r.right() - 2, r.top());
    label.quadTo(r.right(), r.top(), r.right(), r.top() + 2);
    label.lineTo(r.right(), r.bottom() - 2);
    label.quadTo(r.right(), r.bottom(), r.right() - 2, r.bottom());
    label.lineTo(r.left() + kPointPx, r.bottom());
    label.closeSubpath();
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(c, 1));
    painter.setBrush(ground);
    painter.drawPath(label);
    paint_tag_sign(painter, {r.left() + kPointPx + 5, r.center().y()}, colour);
    const QRectF words(r.left() + kPointPx + kSignPx - 1, r.top(), r.width() - kPointPx - kSignPx - kEndPx + 4,
                       r.height());
    painter.setFont(tag_font());
    painter.setPen(theme().text);
    painter.drawText(words, Qt::AlignLeft | Qt::AlignVCenter,
                     QFontMetrics(tag_font()).elidedText(name, Qt::ElideRight, static_cast<int>(words.width()) + 2));
    painter.restore();
}

}  // namespace fernleaf
