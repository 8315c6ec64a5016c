#include "render/shape_look.h"

#include <QPainterPath>

namespace fernleaf {
namespace {

constexpr float kHeadTint = 0.12F;

QPen border_pen(uint32_t colour, double width_mm, BorderForm form, const PageScheme& scheme) {
    QPen pen(shown_colour(colour, scheme), width_mm, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin);
    // In widths of the line, so that broad ones have broad gaps; the caps take a width of each gap.
    if (form == BorderForm::dashed) pen.setDashPattern({4, 3});
    if (form == BorderForm::dotted) pen.setDashPattern({0.01, 2.2});
    return pen;
}

}  // namespace

void draw_table(QPainter& painter, const FairTable& table, const PageScheme& scheme) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    if (table.head) {
        const double w = width_of(table), h = table.rows_mm.front();
        QPolygonF head;
        for (const Point p : {Point{0, 0}, Point{w, 0}, Point{w, h}, Point{0, h}}) {
            const Point at = to_page(table, p);
            head << QPointF(at.x, at.y);
        }
        // Words that were there before lie below it: it must let them through.
        QColor tint = shown_colour(table.colour, scheme);
        tint.setAlphaF(kHeadTint);
        painter.setPen(Qt::NoPen);
        painter.setBrush(tint);
        painter.drawPolygon(head);
    }
    painter.setPen(border_pen(table.colour, table.width_mm, table.form, scheme));
    for (const auto& [a, b] : rules_of(table)) painter.drawLine(QPointF(a.x, a.y), QPointF(b.x, b.y));
    painter.restore();
}

void draw_shape(QPainter& painter, const FairShape& fair, const PageScheme& scheme) {
    QPainterPath path;
    for (const std::vector<Point>& line : outline_of(fair.shape)) {
        if (line.empty()) continue;
        path.moveTo(line.front().x, line.front().y);
        for (size_t i = 1; i < line.size(); ++i) path.lineTo(line[i].x, line[i].y);
        // Closed, so that its first corner is joined like the others.
        if (is_closed(fair.shape.kind)) path.closeSubpath();
    }
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    if (fair.fill_strength > 0 && is_closed(fair.shape.kind)) {
        QColor fill = shown_colour(fair.fill, scheme);
        fill.setAlphaF(static_cast<float>(fair.fill_strength));
        painter.fillPath(path, fill);
    }
    painter.setBrush(Qt::NoBrush);
    painter.setPen(border_pen(fair.colour, fair.width_mm, fair.form, scheme));
    painter.drawPath(path);
    painter.restore();
}

}  // namespace fernleaf
