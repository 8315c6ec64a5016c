#include "ink/ink_tick_boxes.h"

#include <algorithm>
#include <array>
#include <optional>

namespace fernleaf {
namespace {

constexpr double kLeastSideMm = 2.5, kMostSideMm = 9;
constexpr double kMostAspect = 1.45;
constexpr size_t kMostStrokes = 4;
// Of the longer side.
constexpr double kAlong = 0.17;          // from an edge that ink along it may be
constexpr double kAtCorner = 0.17;       // from a corner that its ink may be
constexpr double kOpenCorner = 0.36;     // the same where the pen set down and came back
constexpr double kCovered = 0.72;        // of each edge
constexpr double kMostElsewhere = 0.08;  // of the ink
constexpr double kNearestWord = 0.1, kFarthestWord = 3, kClearLeft = 1.2;
constexpr double kLeastTick = 0.35;  // how far it must run
constexpr double kStepMm = 0.25;

// Points of a stroke in steps that are not longer than that.
std::vector<Point> dense(const Stroke& stroke) {
    std::vector<Point> out;
    const std::vector<InkPoint>& points = stroke.points;
    for (size_t i = 0; i < points.size(); ++i) {
        out.push_back(points[i].at);
        if (i + 1 == points.size()) break;
        const double length = distance(points[i].at, points[i + 1].at);
        const int steps = std::min(200, static_cast<int>(length / kStepMm));
        for (int k = 1; k <= steps; ++k) {
            const double t = static_cast<double>(k) / (steps + 1);
            out.push_back({points[i].at.x + t * (points[i + 1].at.x - points[i].at.x),
                           points[i].at.y + t * (points[i + 1].at.y - points[i].at.y)});
        }
    }
    return out;
}

// The square that some strokes are together, if they are one.
std::optional<Box> square_of(const std::vector<const std::vector<Point>*>& strokes) {
    Box box;
    size_t count = 0;
    for (const auto* points : strokes) {
        for (const Point& p : *points) box.include(p);
        count += points->size();
    }
    const double side = std::max(box.width(), box.height()), other = std::min(box.width(), box.height());
    if (side > kMostSideMm || other < kLeastSideMm || side > kMostAspect * other) return std::nullopt;
    constexpr size_t kParts = 12;  // an edge is looked at in
    std::array<std::array<bool, kParts>, 4> covered{};
    std::array<double, 4> corner_gap{side, side, side, side};
    const std::array<Point, 4> corners{Point{box.left, box.top}, Point{box.right, box.top},
                                       Point{box.right, box.bottom}, Point{box.left, box.bottom}};
    size_t elsewhere = 0;
    const auto part = [](double at, double from, double length) {
        return static_cast<size_t>(std::clamp((at - from) / length * kParts, 0.0, kParts - 1.0));
    };
    for (const auto* points : strokes)
        for (const Point& p : *points) {
            const std::array<double, 4> away{p.y - box.top, box.right - p.x, box.bottom - p.y, p.x - box.left};
            bool along = false;
            for (size_t edge = 0; edge < 4; ++edge) {
                if (away[edge] > kAlong * side) continue;
                along = true;
                covered[edge][edge % 2 == 0 ? part(p.x, box.left, box.width()) : part(p.y, box.top, box.height())] =
                    true;
            }
            if (!along) ++elsewhere;
            for (size_t k = 0; k < 4; ++k) corner_gap[k] = std::min(corner_gap[k], distance(p, corners[k]));
        }
    if (static_cast<double>(elsewhere) > kMostElsewhere * static_cast<double>(count)) return std::nullopt;
    for (const auto& edge : covered)
        if (static_cast<double>(std::ranges::count(edge, true)) < kCovered * kParts) return std::nullopt;
    std::ranges::sort(corner_gap);
    if (corner_gap[2] > kAtCorner * side || corner_gap[3] > kOpenCorner * side) return std::nullopt;
    return box;
}

// Whether a line of writing begins behind it.
bool stands_before_writing(const std::vector<Stroke>& strokes, const InkTickBox& found) {
    const Box& box = found.box;
    const double side = std::max(box.width(), box.height());
    bool written = false;
    for (size_t i = 0; i < strokes.size(); ++i) {
        if (std::ranges::find(found.strokes, i) != found.strokes.end() ||
            std::ranges::find(found.ticks, i) != found.ticks.end())
            continue;
        const Box other = strokes[i].box();
        const double shared = std::min(other.bottom, box.bottom) - std::max(other.top, box.top);
        if (shared < 0.2 * std::min(box.height(), std::max(other.height(), 0.5))) continue;
        const double behind = other.left - box.right, before = box.left - other.right;
        if (behind > kNearestWord * side && behind < kFarthestWord * side && other.height() < 4 * side) written = true;
        if (before < kClearLeft * side && other.left < box.left) return false;  // within a line, or in a drawing
    }
    return written;
}

void find_ticks(const std::vector<Stroke>& strokes, InkTickBox& found) {
    const double side = std::max(found.box.width(), found.box.height());
    const Box reach = found.box.grown(0.45 * side);
    for (size_t i = 0; i < strokes.size(); ++i) {
        if (std::ranges::find(found.strokes, i) != found.strokes.end()) continue;
        const std::vector<InkPoint>& points = strokes[i].points;
        const auto within = [&](const Box& in) {
            return std::ranges::count_if(points, [&](const InkPoint& p) { return in.contains(p.at); });
        };
        const auto count = static_cast<double>(points.size());
        if (path_length(strokes[i]) > kLeastTick * side && static_cast<double>(within(found.box)) >= 0.4 * count &&
            static_cast<double>(within(reach)) >= 0.8 * count)
            found.ticks.push_back(i);
    }
}

}  // namespace

std::vector<InkTickBox> ink_tick_boxes(const std::vector<Stroke>& strokes) {
    std::vector<InkTickBox> out;
    std::vector<std::vector<Point>> points(strokes.size());
    std::vector<Box> boxes;
    for (const Stroke& stroke : strokes) boxes.push_back(stroke.box());
    const auto small = [&](size_t i) { return std::max(boxes[i].width(), boxes[i].height()) <= kMostSideMm; };
    for (size_t i = 0; i < strokes.size();) {
        size_t taken = 0;
        std::vector<const std::vector<Point>*> some;
        for (size_t n = 0; n < kMostStrokes && i + n < strokes.size() && small(i + n) && taken == 0; ++n) {
            if (points[i + n].empty()) points[i + n] = dense(strokes[i + n]);
            some.push_back(&points[i + n]);
            const auto box = square_of(some);
            if (!box) continue;
            InkTickBox found{*box, {}, {}};
            for (size_t k = 0; k <= n; ++k) found.strokes.push_back(i + k);
            find_ticks(strokes, found);
            if (!stands_before_writing(strokes, found)) continue;
            out.push_back(std::move(found));
            taken = n + 1;
        }
        i += std::max<size_t>(1, taken);
    }
    return out;
}

}  // namespace fernleaf
