// What is printed on paper.
#include <algorithm>
#include <cmath>

#include "document/errand.h"
#include "render/fonts.h"
#include "render/page_painter.h"
#include "render/paper_forms.h"

namespace fernleaf {
namespace {

constexpr double kRuleWidthMm = 0.15;
constexpr double kTopMarginSpacings = 2.5;  // the first rule stands this many spacings down
constexpr double kMarginLineMm = 18;
constexpr double kDotMm = 0.32;
constexpr int kStaffLines = 5;
constexpr double kStaffGaps = 3.2;  // from staff to staff, in spacings
constexpr double kStaffMarginMm = 10;

// Only what the painter shows: an endless sheet is as long as it likes.
QRectF shown_part(const QPainter& painter, const Sheet& sheet) {
    const QRectF whole(0, 0, sheet.width_mm, sheet.height_mm);
    return painter.hasClipping() ? whole.intersected(painter.clipBoundingRect().adjusted(-1, -1, 1, 1)) : whole;
}

void across(QPainter& painter, const QRectF& part, double first, double step, double last, double left, double right) {
    const double from = first + step * std::max(0.0, std::floor((part.top() - first) / step));
    for (double y = from; y <= std::min(last, part.bottom()); y += step)
        painter.drawLine(QPointF(left, y), QPointF(right, y));
}

void down(QPainter& painter, const QRectF& part, double step, double height) {
    for (double x = step * std::max(1.0, std::floor(part.left() / step)); x < part.right(); x += step)
        painter.drawLine(QPointF(x, std::max(0.0, part.top())), QPointF(x, std::min(height, part.bottom())));
}

void dots(QPainter& painter, const QRectF& part, const Sheet& sheet, const QColor& colour) {
    const double step = sheet.spacing_mm;
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
    for (double y = step * std::max(1.0, std::floor(part.top() / step)); y < part.bottom(); y += step)
        for (double x = step * std::max(1.0, std::floor(part.left() / step)); x < part.right(); x += step)
            painter.drawEllipse(QPointF(x, y), kDotMm, kDotMm);
}

}  // namespace

namespace {

constexpr double kErrandLetterMm = 2.3, kErrandGapMm = 1.4;

// As they are printed on the paper itself, whatever language the window speaks.
const char* printed(Errand errand) {
    switch (errand) {
        case Errand::send:
            return "Send";
        case Errand::important:
            return "Keep";
        case Errand::todo:
            return "To do";
        case Errand::tag_a:
            return "A";
        case Errand::tag_b:
            return "B";
        case Errand::tag_c:
            return "C";
    }
    return "";
}

void paint_errands(QPainter& painter, const Sheet& sheet, const PageScheme& scheme) {
    const QColor colour = scheme.dark ? scheme.rule.lighter(170) : scheme.rule.darker(165);
    constexpr double kDotsAMm = 20;  // letters are set finer than whole mm
    QFont font(kInterfaceFace);
    font.setPixelSize(static_cast<int>(kErrandLetterMm * kDotsAMm));
    const std::vector<ErrandBox> boxes = errand_boxes(sheet);
    if (boxes.empty()) return;
    // No rules run through them.
    const Box first = boxes.front().box.grown(kErrandGapMm), last = boxes.back().box.grown(kErrandGapMm);
    painter.fillRect(QRectF(QPointF(first.left, first.top), QPointF(last.right + kErrandLetterMm, last.bottom)),
                     scheme.paper);
    for (const ErrandBox& e : boxes) {
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(QPen(colour, 2 * kRuleWidthMm));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(QRectF(e.box.left, e.box.top, e.box.width(), e.box.height()));
        painter.save();
        painter.translate(e.box.right + kErrandGapMm, e.box.bottom - kErrandGapMm);
        painter.scale(1 / kDotsAMm, 1 / kDotsAMm);
        painter.setFont(font);
        painter.drawText(QPointF(0, 0), QString::fromLatin1(printed(e.errand)));
        painter.restore();
    }
}

}  // namespace

void paint_paper(QPainter& painter, const Sheet& sheet, const PageScheme& scheme, const PictureImages& images) {
    painter.save();
    const QRectF whole(0, 0, sheet.width_mm, sheet.height_mm);
    painter.fillRect(whole, scheme.paper);
    const QRectF part = shown_part(painter, sheet);
    const double step = std::clamp(sheet.spacing_mm, kLeastSpacingMm, kMostSpacingMm);
    painter.setPen(QPen(scheme.rule, kRuleWidthMm));
    switch (sheet.paper) {
        case Paper::plain:
            break;
        case Paper::ruled:
        case Paper::margined:
            across(painter, part, kTopMarginSpacings * step, step, sheet.height_mm - step / 2, 0, sheet.width_mm);
            if (sheet.paper == Paper::ruled) break;
            painter.setPen(QPen(scheme.margin, kRuleWidthMm));
            painter.drawLine(QPointF(kMarginLineMm, 0), QPointF(kMarginLineMm, sheet.height_mm));
            break;
        case Paper::squared:
            across(painter, part, step, step, sheet.height_mm - 0.1, 0, sheet.width_mm);
            down(painter, part, step, sheet.height_mm);
            break;
        case Paper::dotted:
            dots(painter, part, sheet, scheme.dark ? scheme.rule.lighter(150) : scheme.rule.darker(125));
            break;
        case Paper::staves: {
            const double gap = step / (kStaffLines - 1);
            painter.setPen(QPen(scheme.dark ? scheme.rule.lighter(150) : scheme.rule.darker(130), kRuleWidthMm));
            for (double y = kTopMarginSpacings * step; y + step < sheet.height_mm - step / 2; y += kStaffGaps * step)
                if (y <= part.bottom() && y + step >= part.top())
                    for (int i = 0; i < kStaffLines; ++i)
                        painter.drawLine(QPointF(kStaffMarginMm, y + i * gap),
                                         QPointF(sheet.width_mm - kStaffMarginMm, y + i * gap));
            break;
        }
        case Paper::picture:
            if (const auto found = images.find(kPaperPicture); found != images.end()) {
                // As wide as the sheet; on a longer one, again below.
                const QImage& image = found->second;
                const double tall = sheet.width_mm * image.height() / std::max(1, image.width());
                painter.setRenderHint(QPainter::SmoothPixmapTransform);
                painter.setClipRect(whole, painter.hasClipping() ? Qt::IntersectClip : Qt::ReplaceClip);
                for (double y = 0; y < sheet.height_mm && tall > 1; y += tall)
                    painter.drawImage(QRectF(0, y, sheet.width_mm, tall), image);
            }
            break;
        default:
            break;  // a form
    }
    paint_form(painter, sheet, scheme);
    if (sheet.errands) paint_errands(painter, sheet, scheme);
    painter.restore();
}

}  // namespace fernleaf
