// The strokes of a piece of ink in a picture, sharpened by the width of strokes before it is traced.
#pragma once

#include <vector>

#include "paper/ink_mask.h"
#include "paper/stroke_tracing.h"

namespace fernleaf {

// px of the mask; none where nothing could be traced. piece: of ink.
std::vector<TracedStroke> strokes_of(const InkMask& ink, const InkPiece& piece);

}  // namespace fernleaf
