// Follows the border of a sheet that was found roughly.
#pragma once

#include "document/sheet_outline.h"
#include "paper/sheet_edges.h"

namespace fernleaf {

// rough: px of the edge picture, and so is what is given back. Sides that can't be followed stay as they are.
SheetOutline traced(const EdgePicture& picture, const SheetOutline& rough);

}  // namespace fernleaf
