// How a shape that is drawn fair looks.
#pragma once

#include <QPainter>

#include "document/shape/fair_shape.h"
#include "render/page_painter.h"

namespace fernleaf {

// The painter's unit must be the millimetre, its origin the page's top left corner.
void draw_shape(QPainter& painter, const FairShape& fair, const PageScheme& scheme);

}  // namespace fernleaf
