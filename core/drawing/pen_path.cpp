#include "drawing/pen_path.h"

#include <optional>

namespace fernleaf {
namespace {

constexpr double kHookTurn = 75;     // degrees: sharper, and a tail is a hook
constexpr double kSideInset = 0.15;  // of a side at each end, where corners are cut or rounded
constexpr double kFarOff = 0.35;     // of a side: a crossing farther from its corner is none

double squared_to_segment(Point p, Point a, Point b) {
    const double d = distance_to_segment(p, a, b);
    return d * d;
}

std::optional<Point> crossing(const FittedLine& a, const FittedLine& b) {
    const double cross = a.along.x * b.along.y - a.along.y * b.along.x;
    if (std::abs(cross) < 0.12) return std::nullopt;  // nearly parallel
    const Point d = b.at - a.at;
    return a.at + a.along * ((d.x * b.along.y - d.y * b.along.x) / cross);
}

}  // namespace

FittedLine fitted_line(const std::vector<Point>& points) {
    Point mean;
    for (const Point& p : points) mean = mean + p * (1.0 / static_cast<double>(points.size()));
    double xx = 0, xy = 0, yy = 0;
    for (const Point& p : points) {
        const Point d = p - mean;
        xx += d.x * d.x, xy += d.x * d.y, yy += d.y * d.y;
    }
    const double turn = 0.5 * std::atan2(2 * xy, xx - yy);
    return {mean, {std::cos(turn), std::sin(turn)}};
}

double path_length(const PenPath& path) {
    double out = 0;
    for (size_t i = 1; i < path.size(); ++i) out += distance(path[i - 1], path[i]);
    return out;
}

PenPath resampled(const PenPath& path, double step) {
    PenPath out{path.front()};
    double left = step;
    for (size_t i = 1; i < path.size(); ++i) {
        Point from = path[i - 1];
        double way = distance(from, path[i]);
        while (way >= left) {
            from = from + (path[i] - from) * (left / way);
            out.push_back(from);
            way = distance(from, path[i]);
            left = step;
        }
        left -= way;
    }
    if (distance(out.back(), path.back()) > 0.3 * step || out.size() < 2) out.push_back(path.back());
    return out;
}

PenPath without_hooks(const PenPath& path, double most) {
    // The sharpest turn within reach of an end: a tail behind it goes back on where the path came from.
    const auto tail = [&](const PenPath& p) -> size_t {
        double way = 0;
        for (size_t i = 1; i + 2 < p.size() && way < most; ++i) {
            way += distance(p[i - 1], p[i]);
            const Point in = p[i] - p[0], on = p[std::min(p.size() - 1, i + 3)] - p[i];
            if (length(in) < 1e-9 || length(on) < 1e-9) continue;
            const double cosine = dot(in, on) / (length(in) * length(on));
            if (cosine < std::cos(kHookTurn * std::numbers::pi / 180) && path_length(p) > 6 * way) return i;
        }
        return 0;
    };
    PenPath out(path.begin() + static_cast<std::ptrdiff_t>(tail(path)), path.end());
    std::ranges::reverse(out);
    out.erase(out.begin(), out.begin() + static_cast<std::ptrdiff_t>(tail(out)));
    std::ranges::reverse(out);
    return out;
}

Chain chained(std::vector<PenPath> paths) {
    Chain out;
    std::erase_if(paths, [](const PenPath& p) { return p.empty(); });
    if (paths.empty()) return out;
    const auto longest = std::ranges::max_element(paths, {}, [](const PenPath& p) { return path_length(p); });
    out.path = *longest;
    paths.erase(longest);
    while (!paths.empty()) {
        double nearest = std::numeric_limits<double>::infinity();
        size_t which = 0;
        bool at_end = true, turn = false;
        for (size_t i = 0; i < paths.size(); ++i)
            for (const bool end : {true, false})
                for (const bool last : {false, true}) {
                    const double d =
                        distance(end ? out.path.back() : out.path.front(), last ? paths[i].back() : paths[i].front());
                    if (d < nearest) nearest = d, which = i, at_end = end, turn = last == end;
                }
        PenPath next = paths[which];
        paths.erase(paths.begin() + static_cast<std::ptrdiff_t>(which));
        if (turn) std::ranges::reverse(next);
        out.gap = std::max(out.gap, nearest);
        out.path.insert(at_end ? out.path.end() : out.path.begin(), next.begin(), next.end());
    }
    return out;
}

std::vector<Pieces> straight_pieces(const PenPath& path, size_t most, bool closed) {
    const size_t n = path.size();
    std::vector<Pieces> out(most + 1);
    if (n < 2) return out;
    std::vector<size_t> corners(n);
    for (size_t i = 0; i < n; ++i) corners[i] = i;
    // The squared error of the piece from one corner to another.
    const auto error = [&](size_t from, size_t to) {
        double sum = 0;
        for (size_t i = (from + 1) % n; i != to; i = (i + 1) % n)
            sum += squared_to_segment(path[i], path[from], path[to]);
        return sum;
    };
    const auto next = [&](size_t i) { return (i + 1) % corners.size(); };
    const auto before = [&](size_t i) { return (i + corners.size() - 1) % corners.size(); };
    std::vector<double> without(n);  // each corner: the error of the piece that would take its place
    const auto judge = [&](size_t i) {
        const bool end = !closed && (i == 0 || i + 1 == corners.size());
        without[i] = end ? std::numeric_limits<double>::infinity() : error(corners[before(i)], corners[next(i)]);
    };
    std::vector<double> pieces(n, 0.0);  // the error of the piece behind each corner
    for (size_t i = 0; i < n; ++i) judge(i);
    const size_t ends = closed ? 0 : 1, least = closed ? 3 : 1;
    while (true) {
        const size_t count = corners.size() - ends;
        if (count <= most) {
            double sum = 0;
            for (size_t i = 0; i < corners.size() - ends; ++i) sum += pieces[i];
            out[count] = {corners, std::sqrt(sum / static_cast<double>(n))};
        }
        if (count <= least) break;
        size_t worst = 0;
        double cost = std::numeric_limits<double>::infinity();
        for (size_t i = 0; i < corners.size(); ++i) {
            const double more = without[i] - pieces[i] - pieces[before(i)];
            if (more < cost) cost = more, worst = i;
        }
        if (!std::isfinite(cost)) break;
        pieces[before(worst)] = without[worst];
        corners.erase(corners.begin() + static_cast<std::ptrdiff_t>(worst));
        pieces.erase(pieces.begin() + static_cast<std::ptrdiff_t>(worst));
        without.erase(without.begin() + static_cast<std::ptrdiff_t>(worst));
        const size_t at = worst % corners.size();
        judge(at), judge(before(at));
    }
    return out;
}

PenPath crossed_sides(const PenPath& path, const std::vector<size_t>& corners) {
    const size_t n = path.size(), k = corners.size();
    std::vector<FittedLine> sides;
    for (size_t i = 0; i < k; ++i) {
        const size_t from = corners[i], points = (corners[(i + 1) % k] + n - from) % n;
        const auto inset = static_cast<size_t>(kSideInset * static_cast<double>(points));
        std::vector<Point> side;
        for (size_t j = inset; j + inset <= points; ++j) side.push_back(path[(from + j) % n]);
        if (side.size() < 2) side = {path[from], path[corners[(i + 1) % k]]};
        sides.push_back(fitted_line(side));
    }
    PenPath out;
    for (size_t i = 0; i < k; ++i) {
        const Point here = path[corners[i]];
        const double shorter =
            std::min(distance(here, path[corners[(i + 1) % k]]), distance(here, path[corners[(i + k - 1) % k]]));
        const auto at = crossing(sides[(i + k - 1) % k], sides[i]);
        out.push_back(at && distance(*at, here) < kFarOff * shorter ? *at : here);
    }
    return out;
}

}  // namespace fernleaf
