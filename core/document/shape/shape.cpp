#include "document/shape/shape.h"

#include <array>

namespace fernleaf {
namespace {

constexpr std::array<std::string_view, kShapeKinds> kNames{"line",
                                                           "polyline",
                                                           "arrow",
                                                           "double_arrow",
                                                           "arc",
                                                           "curve",
                                                           "circle",
                                                           "ellipse",
                                                           "square",
                                                           "rectangle",
                                                           "rounded_rectangle",
                                                           "triangle",
                                                           "diamond",
                                                           "parallelogram",
                                                           "trapezoid",
                                                           "pentagon",
                                                           "hexagon",
                                                           "star",
                                                           "polygon",
                                                           "brace"};

constexpr double kHeadShare = 0.25, kMostHeadMm = 5;  // of an arrow's shaft
constexpr double kHeadAngle = 26;                     // degrees from it
constexpr int kRoundSteps = 40;
constexpr double kMostMm = 100'000;
constexpr size_t kMostPoints = 1000;
constexpr double kEqualShare = 1e-3;  // lengths that differ by less are equal, angles right

using Line = std::vector<Point>;

Line ellipse(const std::vector<Point>& axes) {
    const Point centre = (axes[0] + axes[2]) * 0.5, a = axes[1] - centre, b = axes[2] - centre;
    Line out;
    for (int i = 0; i <= kRoundSteps; ++i) {
        const double t = 2 * std::numbers::pi * i / kRoundSteps;
        out.push_back(centre + a * std::cos(t) + b * std::sin(t));
    }
    return out;
}

Line rounded(const std::vector<Point>& corners, double radius) {
    Line out;
    for (size_t i = 0; i < corners.size(); ++i) {
        const Point c = corners[i], before = corners[(i + corners.size() - 1) % corners.size()],
                    after = corners[(i + 1) % corners.size()];
        const auto toward = [&](Point to) {
            const double r = std::min(radius, distance(c, to) / 2);
            return c + (to - c) * (r / std::max(1e-9, distance(c, to)));
        };
        const Point from = toward(before), to = toward(after);
        for (int k = 0; k <= 8; ++k) {
            const double t = k / 8.0;  // a quarter of a circle, nearly: a quadratic Bézier curve
            out.push_back(from * ((1 - t) * (1 - t)) + c * (0.6 * 2 * t * (1 - t)) + (from + to) * (0.4 * t * (1 - t)) +
                          to * (t * t));
        }
    }
    out.push_back(out.front());
    return out;
}

Line arc(Point a, Point middle, Point b) {
    // The circle through three points, by the perpendicular bisectors.
    const Point u = middle - a, v = b - a;
    const double cross = 2 * (u.x * v.y - u.y * v.x);
    if (std::abs(cross) < 1e-9) return {a, middle, b};
    const double uu = dot(u, u), vv = dot(v, v);
    const Point centre = a + Point{(v.y * uu - u.y * vv) / cross, (u.x * vv - v.x * uu) / cross};
    const auto turn = [&](Point p) { return std::atan2(p.y - centre.y, p.x - centre.x); };
    const double r = distance(a, centre), first = turn(a);
    const auto beyond = [&](double angle) {
        double d = angle - first;
        while (d < 0) d += 2 * std::numbers::pi;
        return d;
    };
    double sweep = beyond(turn(b));
    if (beyond(turn(middle)) > sweep) sweep -= 2 * std::numbers::pi;
    Line out;
    for (int i = 0; i <= kRoundSteps; ++i) {
        const double t = first + sweep * i / kRoundSteps;
        out.push_back(centre + Point{std::cos(t), std::sin(t)} * r);
    }
    return out;
}

// A Catmull-Rom spline through the points.
Line through(const std::vector<Point>& p) {
    if (p.size() < 3) return p;
    Line out;
    const auto at = [&](size_t i, int by) {
        return p[static_cast<size_t>(
            std::clamp<std::ptrdiff_t>(static_cast<std::ptrdiff_t>(i) + by, 0, std::ssize(p) - 1))];
    };
    for (size_t i = 0; i + 1 < p.size(); ++i)
        for (int k = 0; k < 8; ++k) {
            const double t = k / 8.0, t2 = t * t, t3 = t2 * t;
            out.push_back((p[i] * 2 + (at(i, 1) - at(i, -1)) * t +
                           (at(i, -1) * 2 - p[i] * 5 + at(i, 1) * 4 - at(i, 2)) * t2 +
                           (p[i] * 3 - at(i, -1) - at(i, 1) * 3 + at(i, 2)) * t3) *
                          0.5);
        }
    out.push_back(p.back());
    return out;
}

Line head(Point tip, Point from, double shaft) {
    const double size = std::min(kMostHeadMm, kHeadShare * shaft);
    const Point back = (from - tip) * (size / std::max(1e-9, distance(from, tip)));
    return {turned(tip + back, kHeadAngle, tip), tip, turned(tip + back, -kHeadAngle, tip)};
}

double path_length(const Line& line) {
    double out = 0;
    for (size_t i = 1; i < line.size(); ++i) out += distance(line[i - 1], line[i]);
    return out;
}

// A curly brace: quarter turns at its ends and beside its tip.
Line brace(Point a, Point tip, Point b) {
    const Point along = b - a;
    const double length_mm = std::max(1e-9, length(along));
    const Point u = along * (1 / length_mm);
    const double t = std::clamp(dot(tip - a, u), 0.1 * length_mm, 0.9 * length_mm);
    const Point foot = a + u * t, out = tip - foot, half = out * 0.5;
    const double bend = std::min({length(out) * 0.5, t / 2, (length_mm - t) / 2});
    const auto quarter = [](Line& line, Point from, Point corner, Point to) {
        for (int i = 0; i <= 6; ++i) {
            const double k = i / 6.0;
            line.push_back(from * ((1 - k) * (1 - k)) + corner * (2 * k * (1 - k)) + to * (k * k));
        }
    };
    Line line;
    quarter(line, a, a + half, a + half + u * bend);
    quarter(line, foot + half - u * bend, foot + half, tip);
    quarter(line, tip, foot + half, foot + half + u * bend);
    quarter(line, b + half - u * bend, b + half, b);
    return line;
}

}  // namespace

std::string_view name_of(ShapeKind kind) { return kNames[static_cast<size_t>(kind)]; }

std::optional<ShapeKind> shape_kind(std::string_view name) {
    const auto found = std::ranges::find(kNames, name);
    if (found == kNames.end()) return std::nullopt;
    return static_cast<ShapeKind>(found - kNames.begin());
}

bool is_valid(const Shape& shape) {
    const auto placed = [](double mm) { return std::abs(mm) < kMostMm; };
    if (!std::ranges::all_of(shape.points, [&](Point p) { return placed(p.x) && placed(p.y); })) return false;
    if (!(shape.radius >= 0 && placed(shape.radius)) || shape.points.size() > kMostPoints) return false;
    const size_t n = shape.points.size();
    switch (shape.kind) {
        case ShapeKind::line:
            return n == 2;
        case ShapeKind::arc:
        case ShapeKind::brace:
        case ShapeKind::triangle:
            return n == 3;
        case ShapeKind::circle:
        case ShapeKind::ellipse:
        case ShapeKind::square:
        case ShapeKind::rectangle:
        case ShapeKind::rounded_rectangle:
        case ShapeKind::diamond:
        case ShapeKind::parallelogram:
        case ShapeKind::trapezoid:
            return n == 4;
        case ShapeKind::pentagon:
            return n == 5;
        case ShapeKind::hexagon:
            return n == 6;
        case ShapeKind::star:
        case ShapeKind::polygon:
            return n >= 3;
        default:
            return n >= 2;
    }
}

bool is_closed(ShapeKind kind) { return kind >= ShapeKind::circle && kind != ShapeKind::brace; }

bool is_line(ShapeKind kind) {
    return kind == ShapeKind::line || kind == ShapeKind::polyline || kind == ShapeKind::arrow ||
           kind == ShapeKind::double_arrow;
}

Shape as_kind(const Shape& figure, ShapeKind kind) {
    // About a box of this width and height, level and about the origin; turned back at the end.
    const bool turns = figure.kind == ShapeKind::square || figure.kind == ShapeKind::rectangle ||
                       figure.kind == ShapeKind::rounded_rectangle || figure.kind == ShapeKind::ellipse;
    const double radians = turns ? angle_of(figure) * std::numbers::pi / 180 : 0;
    const Point about = box_of(figure).centre();
    const Box box = box_of(transformed(figure, Affine::turn(-radians, about)));
    double w = box.width() / 2, h = box.height() / 2;
    if (kind == ShapeKind::circle || kind == ShapeKind::square) w = h = std::sqrt(w * h);
    const auto regular = [&](int corners, double inner) {
        std::vector<Point> out;
        const int count = inner < 1 ? 2 * corners : corners;
        for (int i = 0; i < count; ++i) {
            const double turn = 2 * std::numbers::pi * i / count, out_to = inner < 1 && i % 2 == 1 ? inner : 1;
            out.push_back({w * out_to * std::sin(turn), -h * out_to * std::cos(turn)});
        }
        return out;
    };
    constexpr double kStarInner = 0.382;  // of a star whose sides run on in one another
    Shape out{kind, {}};
    switch (kind) {
        case ShapeKind::circle:
        case ShapeKind::ellipse:
        case ShapeKind::diamond:
            out.points = {{0, -h}, {w, 0}, {0, h}, {-w, 0}};
            break;
        case ShapeKind::triangle:
            out.points = {{0, -h}, {w, h}, {-w, h}};
            break;
        case ShapeKind::parallelogram:
            out.points = {{-w + 0.5 * h, -h}, {w, -h}, {w - 0.5 * h, h}, {-w, h}};
            break;
        case ShapeKind::trapezoid:
            out.points = {{-w + 0.5 * h, -h}, {w - 0.5 * h, -h}, {w, h}, {-w, h}};
            break;
        case ShapeKind::hexagon:
            out.points = {{-w + 0.5 * h, -h}, {w - 0.5 * h, -h}, {w, 0}, {w - 0.5 * h, h}, {-w + 0.5 * h, h}, {-w, 0}};
            break;
        case ShapeKind::pentagon:
            out.points = regular(5, 1);
            break;
        case ShapeKind::star:
            out.points = regular(5, kStarInner);
            break;
        default:
            out.points = {{-w, -h}, {w, -h}, {w, h}, {-w, h}};
            if (kind == ShapeKind::rounded_rectangle) out.radius = 0.5 * std::min(w, h);
            break;
    }
    const Affine place = Affine::turn(radians, {}).then(Affine::shift(about));
    for (Point& p : out.points) p = place(p);
    return out;
}

double angle_of(const Shape& shape) {
    if (shape.points.size() < 2 || shape.kind == ShapeKind::circle) return 0;
    const bool axes = shape.kind == ShapeKind::ellipse;
    const Point d = axes ? shape.points[1] - shape.points[3] : shape.points[1] - shape.points[0];
    double degrees = std::atan2(d.y, d.x) * 180 / std::numbers::pi;
    if (degrees > 90) degrees -= 180;
    if (degrees <= -90) degrees += 180;
    return degrees;
}

Shape transformed(Shape shape, const Affine& by) {
    for (Point& p : shape.points) p = by(p);
    shape.radius *= by.growth();
    if (!is_valid(shape)) return shape;
    std::vector<Point>& p = shape.points;
    if (shape.kind == ShapeKind::circle || shape.kind == ShapeKind::ellipse) {
        // The ends of two conjugate diameters; the axes are where the distance from the middle, |a cos t + b sin t|, is
        // greatest and least.
        const Point middle = (p[0] + p[2]) * 0.5, a = p[1] - middle, b = p[2] - middle;
        const double t = 0.5 * std::atan2(2 * dot(a, b), dot(a, a) - dot(b, b));
        const Point first = a * std::cos(t) + b * std::sin(t), second = b * std::cos(t) - a * std::sin(t);
        // As they lay before, the first nearest to where it was.
        const bool swapped = std::abs(dot(first, a)) * length(second) < std::abs(dot(second, a)) * length(first);
        Point right = swapped ? second : first, down = swapped ? first : second;
        if (dot(right, a) < 0) right = right * -1;
        if (dot(down, b) < 0) down = down * -1;
        p = {middle - down, middle + right, middle + down, middle - right};
        if (std::abs(length(right) - length(down)) > kEqualShare * std::max(length(right), length(down)))
            shape.kind = ShapeKind::ellipse;
        return shape;
    }
    const bool upright = shape.kind == ShapeKind::square || shape.kind == ShapeKind::rectangle ||
                         shape.kind == ShapeKind::rounded_rectangle;
    if (!upright) return shape;
    const Point across = p[1] - p[0], down = p[2] - p[1];
    if (std::abs(dot(across, down)) > kEqualShare * length(across) * length(down))
        shape.kind = ShapeKind::parallelogram, shape.radius = 0;
    else if (shape.kind == ShapeKind::square &&
             std::abs(length(across) - length(down)) > kEqualShare * std::max(length(across), length(down)))
        shape.kind = ShapeKind::rectangle;
    return shape;
}

std::vector<Line> outline_of(const Shape& shape) {
    const std::vector<Point>& p = shape.points;
    switch (shape.kind) {
        case ShapeKind::line:
        case ShapeKind::polyline:
            return {p};
        case ShapeKind::arrow:
            return {p, head(p.back(), p[p.size() - 2], path_length(p))};
        case ShapeKind::double_arrow:
            return {p, head(p.back(), p[p.size() - 2], path_length(p)), head(p.front(), p[1], path_length(p))};
        case ShapeKind::arc:
            return {arc(p[0], p[1], p[2])};
        case ShapeKind::curve:
            return {through(p)};
        case ShapeKind::circle:
        case ShapeKind::ellipse:
            return {ellipse(p)};
        case ShapeKind::rounded_rectangle:
            return {rounded(p, shape.radius)};
        case ShapeKind::brace:
            return {brace(p[0], p[1], p[2])};
        default: {
            Line closed = p;
            closed.push_back(p.front());
            return {closed};
        }
    }
}

Box box_of(const Shape& shape) {
    Box out;
    const std::vector<Line> outline = outline_of(shape);
    for (const Line& line : outline)
        for (const Point& p : line) out.include(p);
    return out;
}

double distance_to(const std::vector<Line>& outline, Point p) {
    double nearest = std::numeric_limits<double>::infinity();  // its square
    for (const Line& line : outline)
        for (size_t i = 1; i < line.size(); ++i)
            nearest = std::min(nearest, squared_distance_to_segment(p, line[i - 1], line[i]));
    return std::sqrt(nearest);
}

}  // namespace fernleaf
