// How a card is drawn.
#pragma once

#include <QPainter>

#include "document/card/card.h"
#include "render/page_painter.h"

namespace fernleaf {

// The painter's unit must be the millimetre, its origin the page's top left corner.
void draw_card(QPainter& painter, const Card& card, const PageScheme& scheme);

}  // namespace fernleaf
