#include "drawing/drawn_rules.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/quantile.h"
#include "drawing/pen_path.h"

namespace fernleaf {
namespace {

constexpr double kStepMm = 1;
constexpr size_t kSmooth = 2;                  // steps about a place that tell its direction
constexpr double kAskewDeg = 24;               // a step may be so far from level (or upright),
constexpr double kRuleAskewDeg = 9;            // and a rule, of a page that is itself turned by no more than
constexpr double kMostSkewDeg = 12;            // this
constexpr double kSideMm = 4, kSideWay = 1.5;  // of a slanted side: how high, and its way to its diagonal
constexpr double kTallMm = 10;                 // taller than letters
constexpr double kShakeMm = 1.2;               // and its hand shake
constexpr double kLeastRuleMm = 9;             // shorter is written
constexpr double kTouchMm = 3, kMostTouchMm = 5, kTouchShare = 0.06;  // how far rules that meet may miss one another
constexpr double kRuleShare = 0.75;                                   // of a stroke's way that must be rules

// The runs of a path that keep to one direction.
void add_runs(const PenPath& path, size_t stroke, Rules& out, double& ruled) {
    const size_t n = path.size();
    // 1: level, 2: upright, 0: neither.
    std::vector<int> way(n);
    const double most = std::tan(kAskewDeg * std::numbers::pi / 180);
    for (size_t i = 0; i < n; ++i) {
        const Point d = path[std::min(n - 1, i + kSmooth)] - path[i < kSmooth ? 0 : i - kSmooth];
        if (std::abs(d.y) <= most * std::abs(d.x)) way[i] = 1;
        if (std::abs(d.x) <= most * std::abs(d.y)) way[i] = 2;
    }
    const double askew = std::tan(kRuleAskewDeg * std::numbers::pi / 180);
    for (size_t begin = 0; begin < n;) {
        size_t end = begin + 1;
        while (end < n && way[end] == way[begin]) ++end;
        const bool level = way[begin] == 1;
        // There and back is one rule as well.
        Box box;
        double at = 0;
        for (size_t i = begin; i < end; ++i) {
            box.include(path[i]);
            at += (level ? path[i].y : path[i].x) / static_cast<double>(end - begin);
        }
        const double along = level ? box.width() : box.height(), across = level ? box.height() : box.width();
        if (way[begin] != 0 && along >= kLeastRuleMm && across <= askew * along + kShakeMm)
            (level ? out.level : out.upright)
                .push_back(level ? Rule{stroke, box.left, box.right, at} : Rule{stroke, box.top, box.bottom, at});
        if (way[begin] != 0 && along >= kLeastRuleMm / 2)
            ruled += path_length(
                {path.begin() + static_cast<std::ptrdiff_t>(begin), path.begin() + static_cast<std::ptrdiff_t>(end)});
        begin = end;
    }
}

// The ways of the strokes that may be rules; empty for others.
std::vector<PenPath> paths_of(const std::vector<Stroke>& strokes) {
    std::vector<PenPath> out(strokes.size());
    for (size_t i = 0; i < strokes.size(); ++i) {
        const Box box = strokes[i].box();
        if (lies_under(strokes[i].pen) || std::max(box.width(), box.height()) < kLeastRuleMm) continue;
        PenPath path;
        for (const InkPoint& p : strokes[i].points) path.push_back(p.at);
        out[i] = resampled(path, kStepMm);
    }
    return out;
}

Rules rules_of(const std::vector<PenPath>& paths) {
    Rules out;
    for (size_t i = 0; i < paths.size(); ++i) {
        if (paths[i].size() < 3) continue;
        Rules some;
        double ruled = 0;
        add_runs(paths[i], i, some, ruled);
        if (ruled < kRuleShare * path_length(paths[i])) continue;
        std::ranges::move(some.level, std::back_inserter(out.level));
        std::ranges::move(some.upright, std::back_inserter(out.upright));
    }
    return out;
}

// How far level rules are turned, degrees clockwise.
double skew_of(const std::vector<PenPath>& paths) {
    std::vector<double> turns;
    for (const PenPath& path : paths) {
        if (path.size() < 3) continue;
        const Point d = path.back() - path.front();
        const double turn = std::atan2(d.y, d.x) * 180 / std::numbers::pi;
        const double off = turn - 90 * std::round(turn / 90);
        if (length(d) > kRuleShare * path_length(path) && std::abs(off) < kMostSkewDeg) turns.push_back(off);
    }
    return turns.empty() ? 0 : median(std::move(turns));
}

}  // namespace

double touch_reach(const Rule& rule) { return std::min(kMostTouchMm, kTouchMm + kTouchShare * rule.length() / 2); }

bool touch(const Rule& level, const Rule& upright) {
    const double a = touch_reach(level), b = touch_reach(upright);
    return upright.at > level.begin - a && upright.at < level.end + a && level.at > upright.begin - b &&
           level.at < upright.end + b;
}

bool is_side(const Stroke& stroke) {
    const Box box = stroke.box();
    const double diagonal = std::hypot(box.width(), box.height());
    return box.height() > kTallMm ||
           (diagonal > kTallMm && box.height() > kSideMm && path_length(stroke) < kSideWay * diagonal);
}

Rules rules_in(const std::vector<Stroke>& strokes) {
    std::vector<PenPath> paths = paths_of(strokes);
    const double skew = skew_of(paths);
    for (PenPath& path : paths)
        for (Point& p : path) p = turned(p, -skew, {});
    Rules out = rules_of(paths);
    out.skew_deg = skew;
    return out;
}

}  // namespace fernleaf
