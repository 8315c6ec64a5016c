#include "ink/scribble.h"

#include <algorithm>
#include <cmath>

#include "ink/selecting.h"
#include "ink/turns.h"

namespace fernleaf {
namespace {

constexpr int kTraverses = 6;         // a "w" has four, an "m" written in one go five
constexpr double kTraverse = 0.5;     // of the length along the main axis, run through in one direction
constexpr double kLeastLengthMm = 3;  // along the main axis
constexpr double kDensest = 0.75;     // of a scribble's length: so wide across at most; wider is a coil or a drawing
constexpr double kCovered = 0.5;      // of a stroke's path, within the hull

double cross(Point o, Point a, Point b) { return (a.x - o.x) * (b.y - o.y) - (a.y - o.y) * (b.x - o.x); }

// The convex hull (Andrew's monotone chain, 1979).
std::vector<Point> hull_of(const std::vector<InkPoint>& ink) {
    std::vector<Point> points;
    for (const InkPoint& p : ink) points.push_back(p.at);
    std::ranges::sort(points, [](Point a, Point b) { return a.x != b.x ? a.x < b.x : a.y < b.y; });
    if (points.size() < 3) return points;
    std::vector<Point> hull(2 * points.size());
    size_t n = 0;
    const auto turn = [&](Point p, size_t least) {
        while (n >= least && cross(hull[n - 2], hull[n - 1], p) <= 0) --n;
        hull[n++] = p;
    };
    for (const Point p : points) turn(p, 2);
    const size_t lower = n + 1;
    for (size_t i = points.size() - 1; i-- > 0;) turn(points[i], lower);
    hull.resize(n - 1);
    return hull;
}

// The direction in which the ink spreads most.
Point main_axis(const std::vector<InkPoint>& ink) {
    double n = 0, mx = 0, my = 0, xx = 0, xy = 0, yy = 0;
    for (size_t i = 1; i < ink.size(); ++i) {
        const double w = distance(ink[i - 1].at, ink[i].at);
        const Point m = (ink[i - 1].at + ink[i].at) * 0.5;
        n += w, mx += w * m.x, my += w * m.y, xx += w * m.x * m.x, xy += w * m.x * m.y, yy += w * m.y * m.y;
    }
    if (n <= 0) return {1, 0};
    mx /= n, my /= n;
    const double angle = 0.5 * std::atan2(2 * (xy / n - mx * my), (xx / n - mx * mx) - (yy / n - my * my));
    return {std::cos(angle), std::sin(angle)};
}

}  // namespace

bool is_scribble(const Stroke& stroke) {
    const auto& points = stroke.points;
    if (points.size() < 8 || stroke.pen.kind == PenKind::highlighter) return false;
    const Point along = main_axis(points), across{-along.y, along.x};
    Box spread;  // in the main axis' directions
    for (const InkPoint& p : points) spread.include(Point{dot(p.at, along), dot(p.at, across)});
    if (spread.width() < kLeastLengthMm || spread.height() > kDensest * spread.width()) return false;
    std::vector<double> course;
    for (const InkPoint& p : points) course.push_back(dot(p.at, along));
    return runs_of(course, kTraverse * spread.width()) >= kTraverses;
}

std::vector<StrokeId> scribbled_out(const Stroke& newest, const std::vector<Stroke>& strokes) {
    std::vector<StrokeId> out;
    if (!is_scribble(newest)) return out;
    const std::vector<Point> hull = hull_of(newest.points);
    std::vector<Stroke> ink;
    for (const Stroke& s : strokes)
        if (s.id != newest.id && s.pen.kind != PenKind::highlighter) ink.push_back(s);
    return strokes_within(ink, hull, kCovered);
}

}  // namespace fernleaf
