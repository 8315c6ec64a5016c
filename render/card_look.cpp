#include "render/card_look.h"

#include <QCoreApplication>
#include <QFontMetricsF>
#include <QLocale>
#include <QPainterPath>

#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr double kDotsPerMm = 20, kNameMm = 3.6, kSmallMm = 2.7, kRoundMm = 1.2;
constexpr uint32_t kInk = 0x1E2A44, kMoss = 0x2E6B4F;

// A sheet with a turned corner, and what ties it: a stitch for a file, a path for a page.
void draw_sign(QPainter& painter, const QRectF& at, bool page) {
    const double w = at.width(), h = at.height(), fold = 0.32 * w;
    QPainterPath sheet(at.topLeft());
    sheet.lineTo(at.left() + w - fold, at.top());
    sheet.lineTo(at.left() + w, at.top() + fold);
    sheet.lineTo(at.right(), at.bottom());
    sheet.lineTo(at.left(), at.bottom());
    sheet.closeSubpath();
    sheet.moveTo(at.left() + w - fold, at.top());
    sheet.lineTo(at.left() + w - fold, at.top() + fold);
    sheet.lineTo(at.left() + w, at.top() + fold);
    painter.drawPath(sheet);
    QPainterPath within;
    if (page) {
        within.moveTo(at.left() + 0.22 * w, at.top() + 0.72 * h);
        within.lineTo(at.left() + 0.7 * w, at.top() + 0.72 * h);
        within.moveTo(at.left() + 0.5 * w, at.top() + 0.58 * h);
        within.lineTo(at.left() + 0.7 * w, at.top() + 0.72 * h);
        within.lineTo(at.left() + 0.5 * w, at.top() + 0.86 * h);
    } else {
        for (const double y : {0.5, 0.68, 0.86}) {
            within.moveTo(at.left() + 0.22 * w, at.top() + y * h);
            within.lineTo(at.left() + 0.78 * w, at.top() + y * h);
        }
    }
    painter.drawPath(within);
}

}  // namespace

void draw_card(QPainter& painter, const Card& card, const PageScheme& scheme) {
    const QRectF box(QPointF(card.box.left, card.box.top), QPointF(card.box.right, card.box.bottom));
    const QColor moss = shown_colour(kMoss, scheme), ink = shown_colour(kInk, scheme);
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    QColor ground = moss;
    ground.setAlpha(22);
    painter.setPen(QPen(moss, 0.25));
    painter.setBrush(ground);
    painter.drawRoundedRect(box, kRoundMm, kRoundMm);
    painter.setBrush(Qt::NoBrush);
    const double sign = std::min(0.62 * box.height(), 0.2 * box.width());
    painter.setPen(QPen(moss, 0.3, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    draw_sign(painter, QRectF(box.left() + 0.3 * sign + 1, box.center().y() - sign / 2, 0.8 * sign, sign),
              card.page != 0);
    const double left = box.left() + 1.4 * sign + 2, room = box.right() - left - 1.5;
    if (room <= 0) return painter.restore();
    painter.setClipRect(box, painter.hasClipping() ? Qt::IntersectClip : Qt::ReplaceClip);
    // No larger than two lines have room.
    const double fit = std::min(1.0, box.height() / (kNameMm + kSmallMm + 4));
    const auto write = [&](double baseline, double mm, const QColor& colour, const QString& text, int weight) {
        QFont font(kInterfaceFace);
        font.setPixelSize(std::max(1, static_cast<int>(mm * fit * kDotsPerMm)));
        font.setWeight(static_cast<QFont::Weight>(weight));
        painter.save();
        painter.translate(left, baseline);
        painter.scale(1 / kDotsPerMm, 1 / kDotsPerMm);
        painter.setFont(font);
        painter.setPen(colour);
        painter.drawText(QPointF(0, 0), QFontMetricsF(font).elidedText(text, Qt::ElideMiddle, room * kDotsPerMm));
        painter.restore();
    };
    const double middle = box.center().y();
    write(middle, kNameMm, ink, QString::fromStdString(card.name), QFont::DemiBold);
    write(middle + 1.45 * kSmallMm * fit, kSmallMm, moss,
          card.page != 0 ? QCoreApplication::translate("Card", "Page") : QLocale().formattedDataSize(card.bytes, 1),
          QFont::Normal);
    painter.restore();
}

}  // namespace fernleaf
