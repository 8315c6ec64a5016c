#include "transcript/written_line.h"

#include <algorithm>

namespace fernleaf {
namespace {

constexpr double kSharedHeight = 0.5, kFarthestGap = 3;  // of the lower one's height

bool is(const ReadLine& line, RegionKind kind) { return line.kind == kind && line.cell < 0 && !line.words.empty(); }

}  // namespace

bool goes_on(const ReadLine& before, const ReadLine& line) {
    const bool both = (is(before, RegionKind::text) && is(line, RegionKind::math)) ||
                      (is(before, RegionKind::math) && is(line, RegionKind::text));
    const double least = std::min(before.box.height(), line.box.height());
    const double shared = std::min(before.box.bottom, line.box.bottom) - std::max(before.box.top, line.box.top);
    const double gap = line.box.left - before.box.right;
    return both && shared >= kSharedHeight * least && gap > -least && gap < kFarthestGap * least;
}

}  // namespace fernleaf
