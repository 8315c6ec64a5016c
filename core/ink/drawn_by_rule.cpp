#include "ink/drawn_by_rule.h"

#include <cmath>
#include <locale>
#include <sstream>
#include <string>

namespace fernleaf {
namespace {

constexpr double kStepUnits = 0.5;    // between points of smooth lines
constexpr double kUnitsPerMs = 0.08;  // 4 cm a second
constexpr int kRuleArcDegrees = 8;    // between points of arcs

Point at_degrees(Point middle, double a, double b, double degrees) {
    const double t = degrees * std::numbers::pi / 180;
    return middle + Point{a * std::cos(t), b * std::sin(t)};
}

// Between b and c of four points, at t from 0 to 1.
Point rule_spline(Point a, Point b, Point c, Point d, double t) {
    const auto knot = [](double before, Point from, Point to) {
        return before + std::max(1e-6, std::sqrt(distance(from, to)));
    };
    const double t0 = 0, t1 = knot(t0, a, b), t2 = knot(t1, b, c), t3 = knot(t2, c, d), at = t1 + t * (t2 - t1);
    const auto mix = [at](Point p, Point q, double from, double to) {
        return p * ((to - at) / (to - from)) + q * ((at - from) / (to - from));
    };
    const Point a1 = mix(a, b, t0, t1), a2 = mix(b, c, t1, t2), a3 = mix(c, d, t2, t3);
    return mix(mix(a1, a2, t0, t2), mix(a2, a3, t1, t3), t1, t2);
}

std::vector<Point> smooth(const std::vector<Point>& corners, bool closed) {
    const auto count = static_cast<int>(corners.size());
    const auto corner = [&](int i) {
        if (closed) return corners[static_cast<size_t>((i + count) % count)];
        if (i < 0) return corners[0] * 2 - corners[1];
        if (i >= count) return corners[static_cast<size_t>(count) - 1] * 2 - corners[static_cast<size_t>(count) - 2];
        return corners[static_cast<size_t>(i)];
    };
    std::vector<Point> out{corner(0)};
    for (int i = 0; i < (closed ? count : count - 1); ++i) {
        const int steps = std::max(2, static_cast<int>(std::ceil(distance(corner(i), corner(i + 1)) / kStepUnits)));
        for (int k = 1; k <= steps; ++k)
            out.push_back(
                rule_spline(corner(i - 1), corner(i), corner(i + 1), corner(i + 2), static_cast<double>(k) / steps));
    }
    return out;
}

std::vector<Point> arc(Point middle, double a, double b, double from, double to) {
    std::vector<Point> out;
    const int steps = std::max(2, static_cast<int>(std::abs(to - from) / kRuleArcDegrees));
    for (int k = 0; k <= steps; ++k) out.push_back(at_degrees(middle, a, b, from + (to - from) * k / steps));
    return out;
}

std::vector<Point> path_of(char kind, const std::vector<double>& n) {
    if (kind == 'e' && n.size() == 4) return arc({n[0], n[1]}, n[2], n[3], -90, 275);  // a little more than all round
    if (kind == 'a' && n.size() == 5) return arc({n[0], n[1]}, n[2], n[2], n[3], n[4]);
    if (n.size() < 4 || n.size() % 2 != 0) return {};
    std::vector<Point> corners;
    for (size_t i = 0; i < n.size(); i += 2) corners.push_back({n[i], n[i + 1]});
    if (kind == 'c') return smooth(corners, false);
    if (kind == 'o' && corners.size() > 2) return smooth(corners, true);
    if (kind == 'l') return corners;
    return {};
}

}  // namespace

std::optional<std::vector<Stroke>> strokes_by_rule(std::string_view description, const Pen& pen) {
    std::vector<Stroke> out;
    std::istringstream pieces{std::string(description)};
    for (std::string piece; std::getline(pieces, piece, ';');) {
        std::istringstream in(piece);
        in.imbue(std::locale::classic());
        char kind = 0;
        std::vector<double> numbers;
        if (!(in >> kind)) return {};
        for (double number = 0; in >> number;) numbers.push_back(number);
        if (!in.eof()) return {};
        const std::vector<Point> path = path_of(kind, numbers);
        if (path.empty()) return {};
        Stroke stroke;
        stroke.pen = pen;
        double way = 0;
        for (size_t i = 0; i < path.size(); ++i) {
            if (i > 0) way += distance(path[i - 1], path[i]);
            stroke.points.push_back({path[i] * kDrawnUnitMm, 0.5F, 0, 0, static_cast<uint32_t>(way / kUnitsPerMs)});
        }
        out.push_back(std::move(stroke));
    }
    return out;
}

}  // namespace fernleaf
