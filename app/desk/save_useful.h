// Saves what can be used elsewhere as a contact or an event, into a file that the person names.
#pragma once

#include <QWidget>

#include "desk/transfers.h"
#include "finding/useful.h"

namespace fernleaf {

// The day of a moment (ms since 1970) where this computer is.
Date date_of_ms(int64_t ms);

// useful.line is not looked at: line is the one it stands in. written: when.
void save_useful(QWidget* parent, Transfers& transfers, const ReadLine& line, const Useful& useful, Date written);

}  // namespace fernleaf
