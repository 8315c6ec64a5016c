// UNIPEN, the exchange format of on-line handwriting (Guyon, Schomaker, Plamondon, Liberman, Janet 1994;
// definition 1.0).
//
//   auto sheets = read_unipen(bytes);
//
// Read: the coordinates named by .COORD (X, Y, T, P, tilt by RHO and THETA is skipped), .PEN_DOWN and .PEN_UP,
// resolution in points per mm or inch, points per second, and .START_BOX or .START_SET as the beginning of another
// sheet. Its y grows upwards. Segments, labels, data of writers and files it includes are passed over.
#pragma once

#include <string_view>
#include <vector>

#include "base/result.h"
#include "exchange/ink_sheet.h"

namespace fernleaf {

bool looks_like_unipen(std::string_view bytes);

// At least one sheet with at least one stroke. Where the file gives no resolution, the usual unit is taken that makes
// the writing nearest to hand size.
Result<std::vector<InkSheet>> read_unipen(std::string_view bytes);

}  // namespace fernleaf
