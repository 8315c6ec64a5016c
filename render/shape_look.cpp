#include "render/shape_look.h"

#include <QPainterPath>

namespace fernleaf {

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
    QPen pen(shown_colour(fair.colour, scheme), fair.width_mm, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin);
    // In widths of the line, so that broad ones have broad gaps; the caps take a width of each gap.
    if (fair.form == BorderForm::dashed) pen.setDashPattern({4, 3});
    if (fair.form == BorderForm::dotted) pen.setDashPattern({0.01, 2.2});
    painter.setPen(pen);
    painter.drawPath(path);
    painter.restore();
}

}  // namespace fernleaf
