#include "math/sign_groups.h"

#include <algorithm>
#include <set>

namespace fernleaf {
namespace {

constexpr double kBeside = 0.3, kBelow = 0.75;  // of the usual size: how far strokes of a sign are apart,
constexpr double kDotAway = 1.2;                // and how far a dot may be from its stem
constexpr double kAslant = 0.25;                // of it: how far beside a stem its dot may be
constexpr double kLargestSign = 4;              // of it, unless one stroke is as large
constexpr double kLarger = 1.6;                 // of that stroke: a root's hook and its bar
constexpr double kDot = 0.3, kFoot = 0.7;       // of the usual size, of what it stands beside
constexpr size_t kMostNeighbours = 7;
constexpr size_t kGroupsOfStroke = 12;  // at most, on the mean: a scribble is no formula; small groups come first

struct Gap {
    double across, down;
};

Gap gap(const Box& a, const Box& b) {
    return {std::max(a.left, b.left) - std::min(a.right, b.right),
            std::max(a.top, b.top) - std::min(a.bottom, b.bottom)};
}

bool is_dot(const Box& box, double usual_mm) { return std::max(box.width(), box.height()) <= kDot * usual_mm; }

// A dot at the foot of others and beside them is a point, no part of their sign.
bool has_point(const std::vector<size_t>& group, const std::vector<Box>& boxes, double usual_mm) {
    for (const size_t i : group) {
        const Box& dot = boxes[i];
        if (!is_dot(dot, usual_mm)) continue;
        Box rest;
        for (const size_t k : group)
            if (k != i) rest.include(boxes[k]);
        const Point at = dot.centre();
        if (at.y > rest.top + kFoot * rest.height() && rest.height() > kDot * usual_mm &&
            (at.x < rest.left || at.x > rest.right))
            return true;
    }
    return false;
}

}  // namespace

std::vector<std::vector<size_t>> sign_groups(std::span<const Stroke* const> strokes, double usual_mm) {
    std::vector<Box> boxes;
    for (const Stroke* s : strokes) boxes.push_back(s->box());
    std::vector<std::vector<size_t>> near(strokes.size());
    for (size_t i = 0; i < strokes.size(); ++i) {
        std::vector<std::pair<double, size_t>> order;
        for (size_t j = 0; j < strokes.size(); ++j) {
            if (i == j) continue;
            const Gap g = gap(boxes[i], boxes[j]);
            // Beside one another closely; over one another, as the strokes of = and the dot of i, farther apart.
            const double below = is_dot(boxes[i], usual_mm) != is_dot(boxes[j], usual_mm) ? kDotAway : kBelow;
            if (g.across > kBeside * usual_mm || g.down > (g.across < kAslant * usual_mm ? below : kBeside) * usual_mm)
                continue;
            order.emplace_back(
                std::max(g.across, 0.0) + std::max(g.down, 0.0) + 0.01 * distance(boxes[i].centre(), boxes[j].centre()),
                j);
        }
        std::ranges::sort(order);
        if (order.size() > kMostNeighbours) order.resize(kMostNeighbours);
        for (const auto& [far, j] : order) near[i].push_back(j);
    }
    std::set<std::vector<size_t>> all;
    std::vector<std::vector<size_t>> last;
    for (size_t i = 0; i < strokes.size(); ++i) all.insert({i}), last.push_back({i});
    const size_t most = kGroupsOfStroke * strokes.size();
    for (size_t size = 2; size <= kMostStrokesOfSign; ++size) {
        std::vector<std::vector<size_t>> larger;
        for (const std::vector<size_t>& group : last) {
            for (const size_t member : group)
                for (const size_t other : near[member]) {
                    if (all.size() >= most || std::ranges::binary_search(group, other)) continue;
                    std::vector<size_t> more = group;
                    more.insert(std::ranges::lower_bound(more, other), other);
                    Box box;
                    double largest = kLargestSign * usual_mm;
                    for (const size_t k : more) {
                        box.include(boxes[k]);
                        largest = std::max({largest, kLarger * boxes[k].width(), kLarger * boxes[k].height()});
                    }
                    if (std::max(box.width(), box.height()) > largest || has_point(more, boxes, usual_mm)) continue;
                    if (all.insert(more).second) larger.push_back(std::move(more));
                }
        }
        last = std::move(larger);
    }
    return {all.begin(), all.end()};
}

}  // namespace fernleaf
