#include "paper/line_profile.h"

#include <algorithm>
#include <cmath>

#include "paper/lab.h"

namespace fernleaf {
namespace {

constexpr int kStepPx = 2;          // between the places of a line that are looked at
constexpr double kEdgeSlope = 0.9;  // change of colour (CIE76) a px that is an edge
constexpr int kEdgeReachPx = 3;     // how far beside the line it may lie
constexpr double kBesidePx = 7;     // from the line: there the colours of both sides are taken
constexpr double kAcrossPx = 14;    // from the line: there the colours of both sides of a soft edge are taken
constexpr double kSoftPx = 8.5;     // the way from one colour to the other: light fades so, paper ends at once
constexpr int kLeastTold = 10;      // places of a side that tell how soft it is

}  // namespace

LineProfile::LineProfile(const EdgePicture& picture, const EdgeLine& line) : line_(line) {
    const int w = picture.lab.cols, h = picture.lab.rows;
    const double reach = std::hypot(w, h);
    begin_ = -reach;
    const auto count = static_cast<size_t>(2 * reach / kStepPx) + 2;
    sums_.resize(count + 1);
    for (size_t i = 0; i < count; ++i) {
        Sum sum = sums_[i];
        const Point p = line.at(begin_ + static_cast<double>(i) * kStepPx);
        const auto inside = [&](Point q) { return q.x >= 0 && q.y >= 0 && q.x <= w - 1 && q.y <= h - 1; };
        if (inside(p)) {
            ++sum.seen;
            const auto slope_at = [&](Point q) {
                const auto gx = picture.slope_x.at<cv::Vec3f>(static_cast<int>(q.y), static_cast<int>(q.x));
                const auto gy = picture.slope_y.at<cv::Vec3f>(static_cast<int>(q.y), static_cast<int>(q.x));
                return cv::norm(gx * static_cast<float>(line.normal.x) + gy * static_cast<float>(line.normal.y));
            };
            const auto steepest_within = [&](int reach_px) {
                double steepest = 0;
                for (int k = -reach_px; k <= reach_px; ++k)
                    if (const Point q = p + line.normal * k; inside(q)) steepest = std::max(steepest, slope_at(q));
                return steepest;
            };
            const double steepest = steepest_within(kEdgeReachPx);
            sum.edge += steepest > kEdgeSlope;
            const Point before = p - line.normal * kBesidePx, after = p + line.normal * kBesidePx;
            if (inside(before) && inside(after)) {
                const cv::Vec3f u = picture.colour(before), v = picture.colour(after);
                ++sum.compared;
                const bool differ = cv::norm(u - v) > kDiffers;
                sum.differ += differ;
                sum.clear += differ && steepest > kEdgeSlope;
                sum.brighter += v[0] > u[0];
            }
            const Point far_before = p - line.normal * kAcrossPx, far_after = p + line.normal * kAcrossPx;
            if (steepest > kEdgeSlope && inside(far_before) && inside(far_after)) {
                const double change = cv::norm(picture.colour(far_after) - picture.colour(far_before));
                sum.told += change > kDiffers;
                // A board's frame has two edges: each is steep, though from one side to the other it is far. And
                // light that fades leaves the hue as it is.
                sum.soft += change > std::max(kDiffers, kSoftPx * steepest) &&
                            change > kSoftPx * steepest_within(static_cast<int>(kAcrossPx)) &&
                            same_hue(picture.colour(far_before), picture.colour(far_after));
            }
        }
        sums_[i + 1] = sum;
    }
}

double LineProfile::strength() const {
    double here = 0, most = 0;
    for (size_t i = 1; i < sums_.size(); ++i) {
        here = std::max(0.0, here + (sums_[i].clear > sums_[i - 1].clear ? 1 : -1));
        most = std::max(most, here);
    }
    return kStepPx * most;
}

double LineProfile::strength(const Box& box) const {
    double here = 0, most = 0;
    for (size_t i = 1; i < sums_.size(); ++i) {
        if (!box.contains(line_.at(begin_ + static_cast<double>(i - 1) * kStepPx))) continue;
        here = std::max(0.0, here + (sums_[i].clear > sums_[i - 1].clear ? 1 : -1));
        most = std::max(most, here);
    }
    return kStepPx * most;
}

LineProfile::Part LineProfile::between(Point a, Point b) const {
    if (line_.frame) return {};
    const auto [from, to] = std::minmax({line_.t_of(a), line_.t_of(b)});
    const auto index = [&](double t) {
        return static_cast<size_t>(std::clamp((t - begin_) / kStepPx, 0.0, static_cast<double>(sums_.size() - 1)));
    };
    const Sum &first = sums_[index(from)], &last = sums_[index(to)];
    const double steps = std::max(1.0, (to - from) / kStepPx), seen = last.seen - first.seen;
    const double compared = last.compared - first.compared;
    const int told = last.told - first.told;
    Part out;
    out.unseen = std::clamp(1 - seen / steps, 0.0, 1.0);
    out.soft = told >= kLeastTold && 2 * (last.soft - first.soft) > told;
    if (seen > 0) out.cover = (last.edge - first.edge) / seen * (1 - out.unseen) + kUnknown * out.unseen;
    if (compared > 0) {
        out.differ = (last.differ - first.differ) / compared * (1 - out.unseen) + kUnknown * out.unseen;
        out.brighter = (last.brighter - first.brighter) / compared;
    }
    return out;
}

}  // namespace fernleaf
