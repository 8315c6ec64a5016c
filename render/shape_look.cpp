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
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(shown_colour(fair.colour, scheme), fair.width_mm, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    painter.drawPath(path);
    painter.restore();
}

}  // namespace fernleaf
