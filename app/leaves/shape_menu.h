// What can be done with figures and lines that are drawn fair, as menus offer it. UI thread only.
#pragma once

#include <QMenu>

#include "desk/drawing_desk.h"
#include "tools/selection_editing.h"

namespace fernleaf {

// Kind, border, fill, corners; of lines their way and their heads. palette: colours to fill with.
void offer_shapes(QMenu& menu, SelectionEditing& choosing, const std::vector<uint32_t>& palette);

// What lies above what, setting in line and at even distances, and whether what is moved is drawn to guides.
void offer_arranging(QMenu& menu, SelectionEditing& choosing, DrawingDesk& drawing);

}  // namespace fernleaf
