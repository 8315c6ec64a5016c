// What can be done with figures and lines that are drawn fair, as menus offer it. UI thread only.
#pragma once

#include <QMenu>

#include "tools/selection_editing.h"

namespace fernleaf {

// Kind, border, fill, corners; of lines their way and their heads. palette: colours to fill with.
void offer_shapes(QMenu& menu, SelectionEditing& choosing, const std::vector<uint32_t>& palette);

// Setting in line and at even distances, and whether what is moved is drawn to guides.
void offer_alignment(QMenu& menu, SelectionEditing& choosing);

}  // namespace fernleaf
