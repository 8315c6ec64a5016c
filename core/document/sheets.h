// An endless page as sheets that can be read on paper.
#pragma once

#include <vector>

#include "document/page.h"

namespace fernleaf {

// What of a page goes on each sheet, from the top down, mm; an ordinary page is one sheet. A long page is cut where
// nothing stands, as low on each sheet as such a place is to be found; through what is on it only where there is none
// in the sheet's lower half. No sheet is longer than its width times the square root of two, and none is left empty
// below the last thing on the page.
std::vector<Box> sheets_of(const Page& page);

}  // namespace fernleaf
