// Sets what is chosen in line, or at even distances.
//
//   Elements tidy = aligned(chosen, Alignment::left);
//
// A figure and what stands in it are one piece; so is all else by itself. Lines that hold on to figures are no pieces:
// they follow (drawing/links.h).
#pragma once

#include "document/elements.h"

namespace fernleaf {

enum class Alignment { left, centre, right, top, middle, bottom };

// Against the box about all of it. Elements keep their ids.
Elements aligned(const Elements& chosen, Alignment alignment);

// So that the gaps between neighbours are alike; the first and the last stay. Fewer than three pieces stay as they are.
Elements distributed(const Elements& chosen, bool across);

// How many pieces there are to be set in line.
size_t count_pieces(const Elements& chosen);

}  // namespace fernleaf
