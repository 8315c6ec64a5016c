#include "drawing/open_fit.h"

#include <array>

namespace fernleaf {
namespace {

constexpr size_t kMostPieces = 8;
constexpr size_t kCurvePoints = 9;
constexpr double kLeastSweep = 20, kMostSweep = 345;  // degrees of an arc
constexpr double kLeastCorner = 22;                   // degrees a polyline turns at a corner; less is a bend

constexpr double kHeadReach = 0.45;   // of the shaft: ink about its end that may be a head
constexpr double kLeastBarb = 0.018;  // of the shaft, to each side,
constexpr double kMostBarb = 0.4;
constexpr double kSideRatio = 4;    // one barb's side to the other's, at most
constexpr double kForward = 0.12;   // of the shaft: how far a head may reach beyond the tip
constexpr double kBackward = 0.25;  // of its side: how far back a barb's end lies at least
constexpr double kTold = 0.6;       // of the head: where the path's way is told
constexpr double kHeadFreedom = 3, kShaftPrice = 0.004;
constexpr double kTipTurn = 80;       // degrees: so sharply a pen turns from the shaft into the head
constexpr double kLeastPart = 0.3;    // of a stroke: a shaft drawn in one with its head is that long
constexpr double kLeastShaft = 0.35;  // of all ink in an arrow whose head was drawn apart

void add(std::vector<Fit>& out, const PenPath& path, Shape shape, double freedom) {
    const double error = distance_off(path, outline_of(shape));
    out.push_back({std::move(shape), error, freedom});
}

double turn_at(Point a, Point b, Point c) {
    const Point u = b - a, v = c - b;
    return std::abs(std::atan2(u.x * v.y - u.y * v.x, dot(u, v))) * 180 / std::numbers::pi;
}

PenPath picked(const PenPath& path, const std::vector<size_t>& at) {
    PenPath out;
    for (const size_t i : at) out.push_back(path[i]);
    return out;
}

// Ends of a straight line fitted to all of a path.
PenPath line_through(const PenPath& path) {
    const FittedLine line = fitted_line(path);
    const Point mean = line.at;
    Point along = line.along;
    if (dot(path.back() - path.front(), along) < 0) along = along * -1;
    double low = 0, high = 0;
    for (const Point& p : path) {
        const double at = dot(p - mean, along);
        low = std::min(low, at), high = std::max(high, at);
    }
    return {mean + along * low, mean + along * high};
}

void add_arc(std::vector<Fit>& out, const PenPath& path) {
    // Kåsa's circle: x² + y² = 2ax + 2by + c, by least squares about the mean.
    Point mean;
    for (const Point& p : path) mean = mean + p * (1.0 / static_cast<double>(path.size()));
    double xx = 0, xy = 0, yy = 0, xz = 0, yz = 0;
    for (const Point& p : path) {
        const Point d = p - mean;
        const double z = dot(d, d);
        xx += d.x * d.x, xy += d.x * d.y, yy += d.y * d.y, xz += d.x * z, yz += d.y * z;
    }
    const double det = 2 * (xx * yy - xy * xy);
    if (std::abs(det) < 1e-9) return;
    const Point centre = mean + Point{(xz * yy - yz * xy) / det, (yz * xx - xz * xy) / det};
    double r = 0, sweep = 0;
    for (const Point& p : path) r += distance(p, centre) / static_cast<double>(path.size());
    for (size_t i = 1; i < path.size(); ++i) {
        const Point a = path[i - 1] - centre, b = path[i] - centre;
        sweep += std::atan2(a.x * b.y - a.y * b.x, dot(a, b));
    }
    const double degrees = std::abs(sweep) * 180 / std::numbers::pi;
    if (degrees < kLeastSweep || degrees > kMostSweep) return;
    const double first = std::atan2(path.front().y - centre.y, path.front().x - centre.x);
    const auto at = [&](double part) {
        return centre + Point{std::cos(first + part * sweep), std::sin(first + part * sweep)} * r;
    };
    add(out, path, {ShapeKind::arc, {at(0), at(0.5), at(1)}}, 5);
}

void add_brace(std::vector<Fit>& out, const PenPath& path) {
    const Point a = path.front(), b = path.back(), along = b - a;
    const double long_mm = length(along);
    if (long_mm <= 0) return;
    const Point u = along * (1 / long_mm), v{-u.y, u.x};
    // The tip is the farthest from the line between the ends, near the middle.
    Point tip = a;
    double far = 0;
    for (const Point& p : path) {
        const double t = dot(p - a, u) / long_mm, away = std::abs(dot(p - a, v));
        if (t > 0.25 && t < 0.75 && away > far) far = away, tip = p;
    }
    if (far < 0.05 * long_mm || far > 0.5 * long_mm) return;
    add(out, path, {ShapeKind::brace, {a, tip, b}}, 6);
}

// Points along a path, evenly, that a curve goes through.
PenPath curve_points(const PenPath& path) {
    PenPath out;
    const size_t n = std::min(kCurvePoints, path.size());
    for (size_t i = 0; i < n; ++i) {
        // The mean of what is about it: a hand shakes.
        const size_t at = i * (path.size() - 1) / std::max<size_t>(1, n - 1);
        const size_t reach = std::min({at, path.size() - 1 - at, path.size() / 48});
        Point sum;
        for (size_t j = at - reach; j <= at + reach; ++j) sum = sum + path[j];
        out.push_back(sum * (1.0 / static_cast<double>(2 * reach + 1)));
    }
    return out;
}

// A head: its tip with the ends of its two barbs before and behind it.
using Head = PenPath;

// The head that ink about a path's end draws: on both sides, pointing back.
std::optional<Head> head_of(const std::vector<Point>& ink, const PenPath& path, double shaft) {
    if (ink.size() < 3 || shaft <= 0) return std::nullopt;
    const Point tip = path.back();
    double reach = 0;
    for (const Point& p : ink) reach = std::max(reach, distance(p, tip));
    // Which way the path comes is told within the head, but not by its last wiggle.
    size_t at = path.size() - 1;
    while (at > 0 && distance(path[at], tip) < kTold * reach) --at;
    const Point from = path[at];
    const Point back = (from - tip) * (1 / std::max(1e-9, distance(from, tip))), side{-back.y, back.x};
    Point left, right;
    double most_left = 0, most_right = 0, beyond = 0;
    for (const Point& p : ink) {
        const Point d = p - tip;
        const double aside = dot(d, side);
        if (aside > most_right) most_right = aside, right = d;
        if (aside < -most_left) most_left = -aside, left = d;
        beyond = std::max(beyond, -dot(d, back));
    }
    const double less = std::min(most_left, most_right), more = std::max(most_left, most_right);
    if (less > kLeastBarb * shaft && more < kMostBarb * shaft && more < kSideRatio * less &&
        beyond < kForward * shaft && dot(left, back) > kBackward * most_left &&
        dot(right, back) > kBackward * most_right)
        return Head{tip + left, tip, tip + right};
    return std::nullopt;
}

struct Headed {
    PenPath shaft;
    std::optional<Head> head;
};

// Takes the head off a path's end, if it was drawn with it or lies about it. others: ink by itself near that end.
Headed without_head(const PenPath& path, const std::vector<Point>& others) {
    const double whole = path_length(path);
    // The pen turns sharply where the shaft ends and stays near from there on: the first such place.
    double way = 0;
    for (size_t i = 1; i + 1 < path.size(); ++i) {
        way += distance(path[i - 1], path[i]);
        if (way < kLeastPart * whole) continue;
        const size_t reach = std::min({i, path.size() - 1 - i, std::max<size_t>(2, path.size() / 30)});
        if (turn_at(path[i - reach], path[i], path[i + reach]) < kTipTurn) continue;
        std::vector<Point> rest(path.begin() + static_cast<std::ptrdiff_t>(i), path.end());
        if (std::ranges::any_of(rest, [&](Point p) { return distance(p, path[i]) > kHeadReach * way; })) continue;
        const PenPath shaft(path.begin(), path.begin() + static_cast<std::ptrdiff_t>(i) + 1);
        rest.insert(rest.end(), others.begin(), others.end());
        if (auto head = head_of(rest, shaft, way)) return {shaft, std::move(head)};
    }
    return {path, head_of(others, path, whole)};
}

}  // namespace

std::vector<Fit> open_fits(const PenPath& path) {
    std::vector<Fit> out;
    add(out, path, {ShapeKind::line, line_through(path)}, 4);
    const std::vector<Pieces> pieces = straight_pieces(path, kMostPieces, false);
    for (size_t k = 2; k <= kMostPieces; ++k) {
        if (pieces[k].corners.size() != k + 1) continue;
        const PenPath corners = picked(path, pieces[k].corners);
        bool sharp = true;
        for (size_t i = 1; i + 1 < corners.size(); ++i)
            sharp &= turn_at(corners[i - 1], corners[i], corners[i + 1]) > kLeastCorner;
        if (sharp) add(out, path, {ShapeKind::polyline, corners}, 2.0 * static_cast<double>(k + 1));
    }
    add_arc(out, path);
    add_brace(out, path);
    add(out, path, {ShapeKind::curve, curve_points(path)}, 13);
    return out;
}

std::optional<Fit> arrow_fit(const std::vector<PenPath>& paths) {
    double all = 0;
    for (const PenPath& path : paths) all += path_length(path);
    const auto longest = std::ranges::max_element(paths, {}, [](const PenPath& p) { return path_length(p); });
    if (longest == paths.end() || longest->size() < 4) return std::nullopt;
    // Other strokes lie about one end or the other.
    const double reach = kHeadReach * path_length(*longest);
    std::array<std::vector<Point>, 2> about;  // the beginning, the end
    for (auto path = paths.begin(); path != paths.end(); ++path) {
        if (path == longest) continue;
        const auto within = [&](Point end) {
            return std::ranges::all_of(*path, [&](Point p) { return distance(p, end) < reach; });
        };
        const auto nearest = [&](Point end) {
            double out = std::numeric_limits<double>::infinity();
            for (const Point& p : *path) out = std::min(out, distance(p, end));
            return out;
        };
        const bool at_end = nearest(longest->back()) < nearest(longest->front());
        if (!within(at_end ? longest->back() : longest->front())) return std::nullopt;
        std::ranges::copy(*path, std::back_inserter(about[at_end ? 1 : 0]));
    }
    const Headed end = without_head(*longest, about[1]);
    PenPath reversed(end.shaft.rbegin(), end.shaft.rend());
    const Headed begin = without_head(reversed, about[0]);
    if ((!about[1].empty() && !end.head) || (!about[0].empty() && !begin.head)) return std::nullopt;
    if (!end.head && !begin.head) return std::nullopt;
    PenPath shaft = begin.shaft;  // from its end to its beginning
    if (end.head) std::ranges::reverse(shaft);
    if (paths.size() > 1 && path_length(shaft) < kLeastShaft * all) return std::nullopt;
    // The shaft as it is: straight, by corners, or as a curve.
    Fit best;
    double least = std::numeric_limits<double>::infinity();
    for (Fit& fit : open_fits(shaft)) {
        const double cost = fit.error + kShaftPrice * fit.freedom * path_length(shaft);
        const bool may_be = fit.shape.kind == ShapeKind::line || fit.shape.kind == ShapeKind::polyline ||
                            fit.shape.kind == ShapeKind::curve;
        if (may_be && cost < least) least = cost, best = std::move(fit);
    }
    std::vector<PenPath> outline = outline_of(best.shape);
    for (const Headed* one : {&end, &begin})
        if (one->head) {
            // Barbs, and the line between their ends of a head that was drawn as a triangle.
            outline.push_back({(*one->head)[0], (*one->head)[1], (*one->head)[2]});
            best.freedom += kHeadFreedom;
        }
    PenPath ink;
    for (const PenPath& path : paths) ink.insert(ink.end(), path.begin(), path.end());
    best.error = distance_off(ink, outline);
    std::vector<PenPath> triangles = outline;
    for (size_t i = outline.size() - (end.head ? 1 : 0) - (begin.head ? 1 : 0); i < outline.size(); ++i)
        triangles[i].push_back(outline[i].front());
    best.error = std::min(best.error, distance_off(ink, triangles));
    best.shape.kind = end.head && begin.head ? ShapeKind::double_arrow : ShapeKind::arrow;
    return best;
}

}  // namespace fernleaf
