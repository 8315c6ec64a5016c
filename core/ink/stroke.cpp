#include "ink/stroke.h"

#include <algorithm>
#include <cmath>

namespace fernleaf {
namespace {

constexpr double kFarthestMm = 100'000;

// Barry & Goldman's pyramid for the spline segment p1-p2 with centripetal knots.
Point spline(Point p0, Point p1, Point p2, Point p3, double part) {
    const auto knot = [](double t, Point a, Point b) { return t + std::max(1e-6, std::sqrt(distance(a, b))); };
    const double t0 = 0;
    const double t1 = knot(t0, p0, p1);
    const double t2 = knot(t1, p1, p2);
    const double t3 = knot(t2, p2, p3);
    const double t = t1 + (t2 - t1) * part;
    const auto mix = [t](Point a, Point b, double from, double to) {
        return a * ((to - t) / (to - from)) + b * ((t - from) / (to - from));
    };
    const Point a1 = mix(p0, p1, t0, t1);
    const Point a2 = mix(p1, p2, t1, t2);
    const Point a3 = mix(p2, p3, t2, t3);
    return mix(mix(a1, a2, t0, t2), mix(a2, a3, t1, t3), t1, t2);
}

}  // namespace

InkPoint between(const InkPoint& a, const InkPoint& b, double part) {
    const auto mix = [part](double x, double y) { return static_cast<float>(x + (y - x) * part); };
    InkPoint p;
    p.at = a.at + (b.at - a.at) * part;
    p.pressure = mix(a.pressure, b.pressure);
    p.tilt_x = mix(a.tilt_x, b.tilt_x);
    p.tilt_y = mix(a.tilt_y, b.tilt_y);
    p.time_ms = static_cast<uint32_t>(std::lround(a.time_ms + (static_cast<double>(b.time_ms) - a.time_ms) * part));
    return p;
}

Box Stroke::box() const {
    Box box;
    for (const InkPoint& p : points) box.include(p.at);
    return box;
}

double path_length(const Stroke& stroke) {
    double sum = 0;
    for (size_t i = 1; i < stroke.points.size(); ++i) sum += distance(stroke.points[i - 1].at, stroke.points[i].at);
    return sum;
}

bool touches(const Stroke& stroke, Point centre, double radius) {
    const auto& points = stroke.points;
    const double reach = radius + stroke.pen.width_mm / 2.0;
    if (points.empty() || !stroke.box().grown(reach).contains(centre)) return false;
    if (points.size() == 1) return distance(points[0].at, centre) <= reach;
    for (size_t i = 1; i < points.size(); ++i)
        if (distance_to_segment(centre, points[i - 1].at, points[i].at) <= reach) return true;
    return false;
}

std::vector<InkPoint> smoothed(const std::vector<InkPoint>& points, double step) {
    if (points.size() < 2) return points;
    std::vector<InkPoint> out{points.front()};
    for (size_t i = 1; i < points.size(); ++i) {
        const InkPoint& a = points[i - 1];
        const InkPoint& b = points[i];
        const int pieces = static_cast<int>(std::clamp(std::ceil(distance(a.at, b.at) / step), 1.0, 200.0));
        // At the ends the spline's outer points are mirrored, so that the path keeps its direction.
        const Point before = i > 1 ? points[i - 2].at : a.at * 2 - b.at;
        const Point after = i + 1 < points.size() ? points[i + 1].at : b.at * 2 - a.at;
        for (int k = 1; k <= pieces; ++k) {
            const double t = static_cast<double>(k) / pieces;
            InkPoint p = between(a, b, t);
            if (pieces > 1) p.at = spline(before, a.at, b.at, after, t);
            out.push_back(p);
        }
    }
    return out;
}

bool is_valid(const Stroke& stroke) {
    return !stroke.points.empty() && std::isfinite(stroke.pen.width_mm) && std::isfinite(stroke.pen.opacity) &&
           std::ranges::all_of(stroke.points, [](const InkPoint& p) {
               return std::abs(p.at.x) <= kFarthestMm && std::abs(p.at.y) <= kFarthestMm && std::isfinite(p.pressure) &&
                      std::isfinite(p.tilt_x) && std::isfinite(p.tilt_y);
           });
}

}  // namespace fernleaf
