#include "drawing/shape_fits.h"

#include <array>
#include <opencv2/imgproc.hpp>

#include "base/quantile.h"
#include "drawing/open_fit.h"
#include "drawing/pen_path.h"

namespace fernleaf {
namespace {

constexpr double kSteps = 120;       // of a path's length
constexpr double kHookShare = 0.05;  // of the figure's diagonal: the longest hook
constexpr size_t kContourPoints = 96;
constexpr int kDirections = 72;       // about the middle, in which ink is looked for
constexpr double kLeastAbout = 0.84;  // of them: else it encloses nothing
constexpr double kMostOpen = 0.3;     // of the diagonal: the widest gap of what encloses something
constexpr double kLeastScale = 0.3;   // of the diagonal
constexpr double kMeets = 0.1;        // of the diagonal: ends so near meet, whatever lies about the middle
constexpr double kCloseTo = 0.05;     // of the diagonal: ink so near other ink was drawn over
constexpr double kFarAlong = 0.2;     // of the path: and not just the ink next to it
constexpr double kDrawnOver = 0.2;    // of the ink: more, and the order of strokes tells nothing
constexpr double kOvershoot = 0.2;    // of the path at either end, that may lie over its other end

Box box_of(const std::vector<PenPath>& paths) {
    Box out;
    for (const PenPath& path : paths)
        for (const Point& p : path) out.include(p);
    return out;
}

// Ink drawn over other ink, as a part of all.
double drawn_over(const PenPath& path, double diagonal) {
    const auto far = static_cast<size_t>(kFarAlong * static_cast<double>(path.size()));
    size_t over = 0;
    for (size_t i = 0; i < path.size(); ++i)
        for (size_t j = 0; j < path.size(); ++j) {
            const size_t apart = i > j ? i - j : j - i;
            if (apart <= far || path.size() - apart <= far) continue;
            if (distance(path[i], path[j]) >= kCloseTo * diagonal) continue;
            ++over;
            break;
        }
    return static_cast<double>(over) / static_cast<double>(path.size());
}

// Cuts off what runs on over its own beginning.
PenPath closed_up(const PenPath& path) {
    const auto reach = static_cast<size_t>(kOvershoot * static_cast<double>(path.size()));
    size_t first = 0, last = path.size() - 1;
    double least = std::numeric_limits<double>::infinity();
    for (size_t i = 0; i <= reach; ++i)
        for (size_t j = path.size() - 1 - reach; j < path.size(); ++j) {
            const double cost =
                distance(path[i], path[j]) + 0.5 * (distance(path[0], path[i]) + distance(path[j], path.back()));
            if (cost < least) least = cost, first = i, last = j;
        }
    return {path.begin() + static_cast<std::ptrdiff_t>(first), path.begin() + static_cast<std::ptrdiff_t>(last) + 1};
}

// How the ink lies about its middle, in a frame in which it is as wide as high.
struct Around {
    double share = 0;    // of the directions in which there is ink
    double breadth = 0;  // the diagonal of a square as large as the smallest box about it
    Contour contour;
};

Around around(const std::vector<PenPath>& paths) {
    std::vector<cv::Point2f> points, hull;
    for (const PenPath& path : paths)
        for (const Point& p : path) points.emplace_back(static_cast<float>(p.x), static_cast<float>(p.y));
    const cv::RotatedRect box = cv::minAreaRect(points);
    cv::convexHull(points, hull);
    const cv::Moments m = cv::moments(hull);
    Around out;
    out.breadth = std::sqrt(2.0 * box.size.width * box.size.height);
    if (m.m00 <= 0 || box.size.width <= 0 || box.size.height <= 0) return out;
    const Point centre{m.m10 / m.m00, m.m01 / m.m00};
    const auto into = [&](Point p) {
        const Point q = turned(p - centre, -box.angle, {});
        return Point{q.x / box.size.width, q.y / box.size.height};
    };
    const auto from = [&](Point p) {
        return centre + turned(Point{p.x * box.size.width, p.y * box.size.height}, box.angle, {});
    };
    std::array<std::vector<double>, kContourPoints> far;
    std::array<bool, kDirections> seen{};
    for (const PenPath& path : paths)
        for (size_t i = 0; i + 1 < path.size(); ++i)
            for (int k = 0; k < 4; ++k) {  // what is near the middle is passed in few steps
                const Point q = into(path[i] + (path[i + 1] - path[i]) * (k / 4.0));
                const double part = (std::atan2(q.y, q.x) + std::numbers::pi) / (2 * std::numbers::pi);
                far[static_cast<size_t>(part * kContourPoints) % kContourPoints].push_back(length(q));
                seen[static_cast<size_t>(part * kDirections) % kDirections] = true;
            }
    out.share = static_cast<double>(std::ranges::count(seen, true)) / kDirections;
    for (size_t i = 0; i < far.size(); ++i) {
        if (far[i].empty()) continue;
        const double t = 2 * std::numbers::pi * (static_cast<double>(i) + 0.5) / kContourPoints - std::numbers::pi;
        const Point u{std::cos(t), std::sin(t)};
        out.contour.outer.push_back(from(u * *std::ranges::max_element(far[i])));
        out.contour.middle.push_back(from(u * median(std::move(far[i]))));
    }
    return out;
}

}  // namespace

ShapeFits shape_fits(const std::vector<const Stroke*>& strokes) {
    ShapeFits out;
    std::vector<PenPath> paths;
    double all = 0;
    for (const Stroke* stroke : strokes) {
        PenPath path;
        for (const InkPoint& p : stroke->points) path.push_back(p.at);
        if (path.size() >= 2) all += path_length(path), paths.push_back(std::move(path));
    }
    const Box box = box_of(paths);
    const double diagonal = std::hypot(box.width(), box.height());
    if (paths.empty() || diagonal <= 0 || !std::isfinite(diagonal) || !std::isfinite(all)) return out;
    for (PenPath& path : paths)
        path = without_hooks(resampled(path, std::max(all / 2000, diagonal / kSteps / 2)), kHookShare * diagonal);
    const double step = std::max(diagonal / kSteps, all / (4 * kSteps));
    for (PenPath& path : paths) path = resampled(path, step);

    out.scale = diagonal;
    const Chain chain = chained(paths);
    const PenPath path = resampled(chain.path, path_length(chain.path) / kSteps);
    const bool in_one = chain.gap < kMostOpen * diagonal;
    const bool over = drawn_over(path, diagonal) > kDrawnOver;
    const PenPath once = closed_up(path);
    const double open = distance(once.front(), once.back());
    const bool closes = in_one && !over && open < kMostOpen * diagonal;
    Around about = around(paths);
    const bool all_about = about.share >= kLeastAbout && about.contour.middle.size() > 10;
    const bool encloses = closes ? all_about || open < kMeets * diagonal : all_about && (over || !in_one);
    if (in_one || !encloses) std::ranges::move(open_fits(path), std::back_inserter(out.fits));
    if (encloses) {
        // Where the ends don't meet there is no ink: nothing is put between them.
        if (closes) about.contour.middle = resampled(once, path_length(once) / kContourPoints);
        out.scale = std::max(kLeastScale * diagonal, about.breadth);
        std::ranges::move(closed_fits(about.contour), std::back_inserter(out.fits));
    }
    if (auto arrow = arrow_fit(paths)) out.fits.push_back(std::move(*arrow));
    return out;
}

}  // namespace fernleaf
