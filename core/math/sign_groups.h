// Groups of strokes of a formula that may be signs.
#pragma once

#include <span>
#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

constexpr size_t kMostStrokesOfSign = 4;

// Each stroke by itself, and strokes near one another, up to four, at most twelve times as many groups as
// strokes; in each the numbers of strokes, rising.
// usual_mm: as usual_size() tells.
std::vector<std::vector<size_t>> sign_groups(std::span<const Stroke* const> strokes, double usual_mm);

}  // namespace fernleaf
