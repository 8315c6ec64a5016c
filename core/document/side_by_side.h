// Lays several sheets out on one page.
#pragma once

#include <vector>

#include "base/geometry.h"

namespace fernleaf {

struct SizeMm {
    double width = 0, height = 0;
};

// Places for sheets on a page of a size, in rows from the top left, in their order, with gaps between: as large as they
// are where they fit so, else all made smaller alike. Sizes above 0.
std::vector<Box> side_by_side(const std::vector<SizeMm>& sheets, SizeMm page);

}  // namespace fernleaf
