// What is printed on a notebook's cover, drawn in a few strokes on its colour. UI thread only.
#pragma once

#include <QImage>
#include <QPainter>

#include "document/notebook.h"

namespace fernleaf {

// The colour with its pattern, or a picture under it, within rounded corners.
void paint_cover(QPainter& painter, const QRect& area, const QColor& colour, CoverPattern pattern,
                 const QImage& picture = {});
QString cover_pattern_name(CoverPattern pattern);

}  // namespace fernleaf
