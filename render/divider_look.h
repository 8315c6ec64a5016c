// How a divider is drawn.
#pragma once

#include <QPainter>

#include "document/divider/divider.h"
#include "render/page_painter.h"

namespace fernleaf {

// The painter's unit must be the millimetre, its origin the page's top left corner.
void draw_divider(QPainter& painter, const Divider& divider, const PageScheme& scheme);

}  // namespace fernleaf
