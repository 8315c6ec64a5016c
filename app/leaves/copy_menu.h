// What is chosen, as other programs take it: a picture, a diagram as text, a table. UI thread only.
#pragma once

#include <QMenu>

#include "desk/session.h"
#include "tools/selection_editing.h"

namespace fernleaf {

void offer_copies(QMenu& menu, Session& session, SelectionEditing& choosing);

}  // namespace fernleaf
