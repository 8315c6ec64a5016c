// How steadily the letters of a line stand on their baseline: those of print do, those of a hand never quite.
//
// The lower borders of a line's pieces are known to a part of a pixel. A slope through them (Theil 1950, Sen 1968) and
// the height at which most of them stand then begin a parabola, which is fitted to all that stand near it.
#pragma once

#include <optional>
#include <vector>

#include "paper/ink_mask.h"

namespace fernleaf {

// How far each of a line's pieces ends below the line's baseline, in heights of its pieces (the median), up to
// kMostOffset either way. Nothing for pieces that don't stand on it (tails, commas, dots), and for all where too few
// stand in one line to tell. pieces: by their place in ink.pieces.
std::vector<std::optional<double>> baseline_offsets(const InkMask& ink, const std::vector<size_t>& pieces);
constexpr double kMostOffset = 0.14;

}  // namespace fernleaf
