// How steadily the letters of a line stand on their baseline: those of print do, those of a hand never quite.
//
// The lower borders of a line's pieces are known to a part of a pixel. A slope through them (Theil 1950, Sen 1968) and
// the height at which most of them stand then begin a parabola, which is fitted to all that stand near it.
#pragma once

#include <optional>
#include <vector>

#include "paper/ink_mask.h"

namespace fernleaf {

// In heights of the line's pieces.
struct BaselineOffset {
    double offset = 0;       // how far a piece ends below the line's baseline, up to kMostOffset either way
    double uncertainty = 0;  // how much of that the grain of the paper can make
};
constexpr double kMostOffset = 0.14;

// Of each of a line's pieces; nothing for those that don't stand on the baseline (tails, commas, dots), and for all
// where too few stand in one line to tell. A height is the median of the pieces'. pieces: by their place in ink.pieces.
std::vector<std::optional<BaselineOffset>> baseline_offsets(const InkMask& ink, const std::vector<size_t>& pieces);

}  // namespace fernleaf
