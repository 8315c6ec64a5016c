// How a tag looks: a plant label in its colour, with a sign of its own, so that it is told without colours, too.
#pragma once

#include <QFont>
#include <QPainter>

#include "document/tag.h"

namespace fernleaf {

QFont tag_font();
QSize tag_size(const QString& name);  // of a whole label
// In a row of such a height; elided where it is too narrow.
void paint_tag(QPainter& painter, const QRect& area, const QString& name, uint32_t colour, bool raised = false);
// The colour on paper of either scheme.
QColor tag_colour(uint32_t colour);
// Its sign alone.
void paint_tag_sign(QPainter& painter, const QPointF& middle, uint32_t colour);

}  // namespace fernleaf
