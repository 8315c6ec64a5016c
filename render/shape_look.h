// How what is drawn fair looks: shapes and tables.
#pragma once

#include <QPainter>

#include "document/shape/fair_shape.h"
#include "document/table/fair_table.h"
#include "render/page_painter.h"

namespace fernleaf {

// The painter's unit must be the millimetre, its origin the page's top left corner.
void draw_shape(QPainter& painter, const FairShape& fair, const PageScheme& scheme);
void draw_table(QPainter& painter, const FairTable& table, const PageScheme& scheme);

}  // namespace fernleaf
