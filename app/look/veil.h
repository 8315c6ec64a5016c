// Draws a wash of the desk's colour over what a frame leaves out of a picture. UI thread only.
#pragma once

#include <QPainter>
#include <QPainterPath>

#include "look/theme.h"

namespace fernleaf {

// opacity: of 255.
inline void paint_veil(QPainter& painter, const QRectF& whole, const QPolygonF& shown, int opacity) {
    QPainterPath veil;
    veil.addRect(whole);
    veil.addPolygon(shown);
    veil.closeSubpath();
    QColor wash = theme().desk;
    wash.setAlpha(opacity);
    painter.fillPath(veil, wash);
}

}  // namespace fernleaf
