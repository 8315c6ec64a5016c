// Papers with a form printed on them: a week, minutes of a meeting, a storyboard … What is printed is paper: it is
// neither read nor moved.
#pragma once

#include <QPainter>

#include "document/sheet.h"
#include "render/page_painter.h"

namespace fernleaf {

// As for paint_paper; kinds of paper that are no forms are left alone.
void paint_form(QPainter& painter, const Sheet& sheet, const PageScheme& scheme);

}  // namespace fernleaf
