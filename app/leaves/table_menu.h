// What can be done with a table that is drawn fair, as a menu offers it. UI thread only.
#pragma once

#include <QMenu>

#include "tools/chosen_table.h"

namespace fernleaf {

void offer_table(QMenu& menu, ChosenTable& table);

}  // namespace fernleaf
