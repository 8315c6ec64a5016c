#include "ink/selecting.h"

#include <cmath>

namespace fernleaf {
namespace {

constexpr double kStepMm = 0.5;  // how closely a path is looked at

}  // namespace

bool inside(const std::vector<Point>& polygon, Point p) {
    bool in = false;
    for (size_t i = 0, j = polygon.size() - 1; i < polygon.size(); j = i++) {
        const Point a = polygon[i], b = polygon[j];
        if ((a.y > p.y) != (b.y > p.y) && p.x < (b.x - a.x) * (p.y - a.y) / (b.y - a.y) + a.x) in = !in;
    }
    return polygon.size() >= 3 && in;
}

std::vector<StrokeId> strokes_within(const std::vector<Stroke>& strokes, const std::vector<Point>& polygon,
                                     double share) {
    Box area;
    for (const Point p : polygon) area.include(p);
    std::vector<StrokeId> chosen;
    for (const Stroke& stroke : strokes) {
        const auto& points = stroke.points;
        if (points.empty() || area.empty() || !stroke.box().meets(area)) continue;
        size_t in = inside(polygon, points.front().at), all = 1;
        for (size_t i = 1; i < points.size(); ++i) {
            const int pieces = std::max(1, static_cast<int>(distance(points[i - 1].at, points[i].at) / kStepMm));
            for (int k = 1; k <= pieces; ++k, ++all)
                in += inside(polygon, between(points[i - 1], points[i], static_cast<double>(k) / pieces).at);
        }
        if (static_cast<double>(in) >= share * static_cast<double>(all)) chosen.push_back(stroke.id);
    }
    return chosen;
}

Affine Affine::shift(Point by) { return {1, 0, by.x, 0, 1, by.y}; }

Affine Affine::scale(double x, double y, Point about) { return {x, 0, about.x * (1 - x), 0, y, about.y * (1 - y)}; }

Affine Affine::turn(double radians, Point about) {
    const double c = std::cos(radians), s = std::sin(radians);
    return {c, -s, about.x - c * about.x + s * about.y, s, c, about.y - s * about.x - c * about.y};
}

Affine Affine::then(const Affine& o) const {
    return {o.xx * xx + o.xy * yx, o.xx * xy + o.xy * yy, o.xx * dx + o.xy * dy + o.dx,
            o.yx * xx + o.yy * yx, o.yx * xy + o.yy * yy, o.yx * dx + o.yy * dy + o.dy};
}

double Affine::growth() const { return std::sqrt(std::abs(xx * yy - xy * yx)); }

Stroke transformed(Stroke stroke, const Affine& by) {
    for (InkPoint& p : stroke.points.change()) p.at = by(p.at);
    stroke.pen.width_mm = static_cast<float>(stroke.pen.width_mm * by.growth());
    return stroke;
}

}  // namespace fernleaf
