#include "drawing/guides.h"

#include <algorithm>
#include <array>
#include <optional>

namespace fernleaf {
namespace {

constexpr double kSameMm = 0.01;

// A box seen along one of its ways: what is across is begin to end, what is along is from to to.
struct Extent {
    double begin = 0, end = 0, from = 0, to = 0;
    double middle() const { return (begin + end) / 2; }
};

Extent extent(const Box& box, bool across) {
    return across ? Extent{box.left, box.right, box.top, box.bottom} : Extent{box.top, box.bottom, box.left, box.right};
}

bool side_by_side(const Extent& a, const Extent& b) { return a.from < b.to && b.from < a.to; }

struct Choice {
    double by = 0;
    bool found = false;
    void offer(double other, double reach) {
        if (std::abs(other) > reach || (found && std::abs(other) >= std::abs(by))) return;
        by = other, found = true;
    }
};

// Between two neighbours in the middle, or beyond one of them as far as that is from its next.
void offer_gaps(Choice& best, const Extent& box, const std::vector<Extent>& others, double reach) {
    std::vector<Extent> row;
    for (const Extent& o : others)
        if (side_by_side(o, box)) row.push_back(o);
    for (const Extent& a : row)
        for (const Extent& b : row) {
            if (a.end >= b.begin) continue;
            const double gap = b.begin - a.end, wide = box.end - box.begin;
            if (wide < gap) best.offer((a.end + b.begin) / 2 - box.middle(), reach);
            best.offer(b.end + gap - box.begin, reach);
            best.offer(a.begin - gap - box.end, reach);
        }
}

}  // namespace

Snap snapped(const Box& box, const std::vector<Box>& others, double grid, double reach) {
    Snap out;
    for (const bool across : {true, false}) {
        const Extent own = extent(box, across);
        std::vector<Extent> extents;
        for (const Box& o : others) extents.push_back(extent(o, across));
        Choice best;
        for (const Extent& o : extents)
            for (const double theirs : {o.begin, o.middle(), o.end})
                for (const double mine : {own.begin, own.middle(), own.end}) best.offer(theirs - mine, reach);
        const bool in_line = best.found;
        offer_gaps(best, own, extents, reach);
        if (!best.found && grid > 0) best.offer(grid * std::round(own.begin / grid) - own.begin, reach);
        if (!best.found) continue;
        (across ? out.by.x : out.by.y) = best.by;
        if (!in_line) continue;
        // A line along everything that is in line then.
        for (const double mine : {own.begin + best.by, own.middle() + best.by, own.end + best.by}) {
            double from = own.from, to = own.to;
            bool meets = false;
            for (const Extent& o : extents)
                if (std::min({std::abs(o.begin - mine), std::abs(o.middle() - mine), std::abs(o.end - mine)}) < kSameMm)
                    from = std::min(from, o.from), to = std::max(to, o.to), meets = true;
            if (!meets) continue;
            out.lines.emplace_back(across ? Point{mine, from} : Point{from, mine},
                                   across ? Point{mine, to} : Point{to, mine});
        }
    }
    return out;
}

}  // namespace fernleaf
