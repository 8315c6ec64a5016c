// How a plot is drawn: numbers along its left and lower side, axes through nothing where they are seen, curves in their
// colours, and above them what they are.
#pragma once

#include <QPainter>
#include <QRectF>

#include "document/plot/plot.h"
#include "render/page_painter.h"

namespace fernleaf {

// The painter's unit must be the millimetre, its origin the page's top left corner. plot: with the values of names
// where it lies (math/page_values.h). GUI threads, as fonts are.
void draw_plot(QPainter& painter, const Plot& plot, const PageScheme& scheme);

// Where its curves are, mm, before it is turned about the middle of its box.
QRectF plot_field(const Plot& plot);

}  // namespace fernleaf
