// The ways in which formulas are taken to the clipboard. UI thread only.
#pragma once

#include <QMenu>
#include <string>
#include <vector>

#include "desk/messages.h"

namespace fernleaf {

// latex: of each formula, one or more.
void offer_formula_copies(QMenu& menu, Messages& messages, const std::vector<std::string>& latex, bool decimal_comma);

}  // namespace fernleaf
