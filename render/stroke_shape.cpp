#include "render/stroke_shape.h"

#include <cmath>
#include <numbers>

namespace fernleaf {
namespace {

constexpr double kStepMm = 0.3;
constexpr double kSharpTurn = 0.5;  // radians between neighbouring pieces
constexpr int kDiscSides = 16;

QPointF edge(Point at, Point normal, double half) { return {at.x + normal.x * half, at.y + normal.y * half}; }

void add_disc(QPainterPath& path, Point at, double radius) {
    for (int i = 0; i < kDiscSides; ++i) {
        const double angle = 2 * std::numbers::pi * i / kDiscSides;
        const QPointF p(at.x + radius * std::cos(angle), at.y + radius * std::sin(angle));
        if (i == 0)
            path.moveTo(p);
        else
            path.lineTo(p);
    }
    path.closeSubpath();
}

QPainterPath outline(const Pen& pen, const std::vector<InkPoint>& recorded) {
    QPainterPath path;
    path.setFillRule(Qt::WindingFill);
    if (recorded.empty()) return path;
    std::vector<InkPoint> points;
    for (const InkPoint& p : smoothed(recorded, kStepMm))
        if (points.empty() || distance(points.back().at, p.at) > 1e-4) points.push_back(p);
    const size_t n = points.size();
    add_disc(path, points.front().at, width_at(pen, points.front()) / 2);
    if (n == 1) return path;
    add_disc(path, points.back().at, width_at(pen, points.back()) / 2);

    std::vector<Point> directions(n - 1);
    for (size_t i = 0; i + 1 < n; ++i) {
        const Point d = points[i + 1].at - points[i].at;
        directions[i] = d * (1 / length(d));
    }
    std::vector<QPointF> left, right;
    for (size_t i = 0; i < n; ++i) {
        const Point before = directions[i > 0 ? i - 1 : 0];
        const Point after = directions[i < n - 1 ? i : n - 2];
        const double half = width_at(pen, points[i]) / 2;
        const double turn = std::abs(std::atan2(before.x * after.y - before.y * after.x, dot(before, after)));
        if (turn > kSharpTurn) {
            // Both edges turn at the disc instead of being pulled together.
            add_disc(path, points[i].at, half);
            for (const Point d : {before, after}) {
                left.push_back(edge(points[i].at, {d.y, -d.x}, half));
                right.push_back(edge(points[i].at, {-d.y, d.x}, half));
            }
            continue;
        }
        const Point sum = before + after;
        const Point d = sum * (1 / std::max(length(sum), 1e-9));
        left.push_back(edge(points[i].at, {d.y, -d.x}, half));
        right.push_back(edge(points[i].at, {-d.y, d.x}, half));
    }
    path.moveTo(left.front());
    for (size_t i = 1; i < left.size(); ++i) path.lineTo(left[i]);
    for (size_t i = right.size(); i-- > 0;) path.lineTo(right[i]);
    path.closeSubpath();
    return path;
}

}  // namespace

QPainterPath stroke_shape(const Stroke& stroke) { return outline(stroke.pen, stroke.points); }

QPainterPath stroke_tail(const Stroke& stroke, size_t first) {
    // The spline looks at one point before and one after each piece.
    const size_t from = first > 2 ? first - 2 : 0;
    return outline(stroke.pen, {stroke.points.begin() + static_cast<std::ptrdiff_t>(from), stroke.points.end()});
}

}  // namespace fernleaf
