#include "demo/drawn_shape.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include "demo/chance.h"

namespace fernleaf {
namespace {

using Line = std::vector<Point>;

Line in_steps(const Line& line, double step) {
    Line out{line.front()};
    for (size_t i = 1; i < line.size(); ++i) {
        const int count = std::max(1, static_cast<int>(std::lround(distance(line[i - 1], line[i]) / step)));
        for (int k = 1; k <= count; ++k)
            out.push_back(line[i - 1] + (line[i] - line[i - 1]) * (static_cast<double>(k) / count));
    }
    return out;
}

// The mean of what is within reach: cuts corners.
Line smooth(const Line& line, int reach) {
    Line out = line;
    const int n = static_cast<int>(line.size());
    for (int i = 1; i + 1 < n; ++i) {
        const int r = std::min({reach, i, n - 1 - i});
        Point sum;
        for (int j = i - r; j <= i + r; ++j) sum = sum + line[static_cast<size_t>(j)];
        out[static_cast<size_t>(i)] = sum * (1.0 / (2 * r + 1));
    }
    return out;
}

// A slow unsteadiness along the way.
void shake(Line& line, double amount, double wave_mm, Chance& chance) {
    std::array<double, 6> phase{}, strength{};
    for (size_t k = 0; k < 6; ++k)
        phase[k] = chance.between(0, 7), strength[k] = chance.normal(amount) / (1 + (k < 2 ? 0 : k < 4 ? 0.7 : 1.4));
    double way = 0;
    for (size_t i = 0; i < line.size(); ++i) {
        if (i > 0) way += distance(line[i - 1], line[i]);
        Point off;
        for (size_t k = 0; k < 3; ++k) {
            const double t = 2 * std::numbers::pi * way / wave_mm * (0.5 + 0.6 * static_cast<double>(k));
            off = off + Point{strength[2 * k] * std::sin(t + phase[2 * k]),
                              strength[2 * k + 1] * std::sin(t + phase[2 * k + 1])};
        }
        line[i] = line[i] + off;
    }
}

// A polygon's line begun anywhere along it, run on beyond its end or stopped short.
Line begun_anywhere(const Line& closed, bool at_corner, double size, Chance& chance) {
    Line ring(closed.begin(), closed.end() - 1);
    std::rotate(ring.begin(), ring.begin() + static_cast<std::ptrdiff_t>(chance.below(ring.size())), ring.end());
    if (!at_corner) {  // begun on the first side: its corner comes last
        ring.push_back(ring[0]);
        ring[0] = ring[0] + (ring[1] - ring[0]) * chance.between(0.2, 0.8);
    }
    ring.push_back(ring.front());
    Line line = in_steps(ring, size / 90);
    if (chance.one_in(2)) {
        const double gap = chance.between(0, 0.09) * size;
        while (line.size() > 4 && distance(line.back(), ring.front()) < gap) line.pop_back();
    } else {
        const auto more = static_cast<size_t>(chance.between(0, 0.08) * static_cast<double>(line.size()));
        line.insert(line.end(), line.begin() + 1, line.begin() + 1 + static_cast<std::ptrdiff_t>(more));
    }
    if (chance.one_in(14)) {  // gone over once more
        const Line again = line;
        const auto part = static_cast<std::ptrdiff_t>(chance.between(0.5, 1) * static_cast<double>(again.size()));
        line.insert(line.end(), again.begin(), again.begin() + part);
    }
    return line;
}

// Sides or pairs of sides as strokes of their own, whose ends hardly meet.
std::vector<Line> in_pieces(const Line& corners, double size, double careless, Chance& chance) {
    std::vector<Line> out;
    for (size_t i = 0; i + 1 < corners.size();) {
        const size_t sides = std::min(corners.size() - 1 - i, 1 + chance.below(3));
        Line piece(corners.begin() + static_cast<std::ptrdiff_t>(i),
                   corners.begin() + static_cast<std::ptrdiff_t>(i + sides) + 1);
        const auto off = [&] {
            return Point{chance.normal(0.012 * careless * size), chance.normal(0.012 * careless * size)};
        };
        piece.front() = piece.front() + off(), piece.back() = piece.back() + off();
        out.push_back(in_steps(piece, size / 90));
        i += sides;
    }
    return out;
}

void move_corners(Line& corners, double by, bool closed, Chance& chance) {
    for (Point& p : corners) p = p + Point{chance.normal(by), chance.normal(by)};
    if (closed) corners.back() = corners.front();
}

}  // namespace

Shape any_shape(ShapeKind kind, Point about, double size, std::mt19937& random) {
    Chance chance(random);
    Shape out{kind, {}};
    double w = size / 2, h = w * chance.between(0.3, 1);
    if (chance.one_in(2)) std::swap(w, h);
    double turn = chance.one_in(2) ? chance.normal(3) : chance.between(-40, 40);
    const auto corners = [&](std::initializer_list<Point> p) { out.points = p; };
    const auto ring = [&](int n, double depth) {
        const double first = chance.between(0, 2 * std::numbers::pi);
        for (int i = 0; i < n; ++i) {
            const double t = first + 2 * std::numbers::pi * i / n, r = depth > 0 && i % 2 == 1 ? depth : 1;
            out.points.push_back({w * r * std::cos(t), w * r * std::sin(t)});
        }
    };
    switch (kind) {
        case ShapeKind::line:
            corners({{-w, 0}, {w, 0}});
            turn = chance.between(-90, 90);
            break;
        case ShapeKind::arrow:
        case ShapeKind::double_arrow: {
            turn = chance.between(-180, 180);
            const double off = chance.one_in(2) ? 0 : chance.between(-0.5, 0.5) * w;
            if (off == 0)
                corners({{-w, 0}, {w, 0}});
            else if (chance.one_in(2))
                corners(
                    {{-w, off}, {w * chance.between(-0.5, 0.5), off}, {w * chance.between(0.5, 0.6), -off}, {w, -off}});
            else
                for (int i = 0; i <= 8; ++i)
                    out.points.push_back({-w + w * i / 4.0, off * std::sin(std::numbers::pi * i / 8)});
            break;
        }
        case ShapeKind::polyline: {
            const size_t n = 3 + chance.below(4);
            double dy = chance.between(0.3, 0.9) * w;
            for (size_t i = 0; i < n; ++i) {
                out.points.push_back(
                    {-w + 2 * w * static_cast<double>(i) / static_cast<double>(n - 1), i % 2 == 0 ? 0 : dy});
                if (i % 2 == 1) dy = chance.between(0.3, 0.9) * w * (chance.one_in(4) ? -1 : 1);
            }
            break;
        }
        case ShapeKind::arc: {
            const double sweep = chance.between(0.6, 4.4), first = chance.between(0, 6);
            for (const double part : {0.0, 0.5, 1.0})
                out.points.push_back({w * std::cos(first + sweep * part), w * std::sin(first + sweep * part)});
            break;
        }
        case ShapeKind::curve: {
            const double waves = chance.between(0.9, 1.8), high = chance.between(0.25, 0.5) * w;
            for (int i = 0; i <= 12; ++i)
                out.points.push_back({-w + w * i / 6.0, high * std::sin(2 * std::numbers::pi * waves * i / 12)});
            break;
        }
        case ShapeKind::circle:
            corners({{0, -w}, {w, 0}, {0, w}, {-w, 0}});
            break;
        case ShapeKind::ellipse:
            w = size / 2, h = w * chance.between(0.35, 0.75);
            corners({{0, -h}, {w, 0}, {0, h}, {-w, 0}});
            break;
        case ShapeKind::square:
            corners({{-w, -w}, {w, -w}, {w, w}, {-w, w}});
            turn = chance.one_in(2) ? chance.normal(2) : chance.between(-22, 22);
            break;
        case ShapeKind::rectangle:
        case ShapeKind::rounded_rectangle:
            w = size / 2, h = w * chance.between(0.2, 0.72);
            if (chance.one_in(3)) std::swap(w, h);
            corners({{-w, -h}, {w, -h}, {w, h}, {-w, h}});
            if (kind == ShapeKind::rounded_rectangle)
                turn = chance.normal(3), out.radius = chance.between(0.28, 0.5) * std::min(w, h) * 1.6;
            break;
        case ShapeKind::triangle:
            if (chance.one_in(2))
                corners({{0, -h}, {w, h}, {-w, h}});
            else
                corners({{chance.between(-1, 1) * w, -h}, {w, h * chance.between(0.3, 1)}, {-w, h}});
            break;
        case ShapeKind::diamond:
            corners({{0, -h}, {w, 0}, {0, h}, {-w, 0}});
            turn = chance.normal(3);
            break;
        case ShapeKind::parallelogram: {
            w = size / 2, h = w * chance.between(0.22, 0.8);
            const double lean = chance.between(0.33, 0.7) * h * (chance.one_in(2) ? 1 : -1);
            corners({{-w + lean, -h}, {w + lean, -h}, {w - lean, h}, {-w - lean, h}});
            turn = chance.normal(3);
            break;
        }
        case ShapeKind::trapezoid: {
            w = size / 2, h = w * chance.between(0.3, 0.9);
            const double in = chance.between(0.25, 0.5) * std::max(h, 0.5 * w);
            corners({{-w + in, -h}, {w - in * chance.between(0.6, 1), -h}, {w, h}, {-w, h}});
            turn = chance.one_in(2) ? chance.normal(3) : 180 + chance.normal(3);
            break;
        }
        case ShapeKind::pentagon:
            ring(5, 0);
            break;
        case ShapeKind::hexagon:
            ring(6, 0);
            break;
        case ShapeKind::star:
            ring(10, chance.between(0.4, 0.55));
            break;
        case ShapeKind::polygon: {
            // Of seven to nine corners, or with a notch.
            if (chance.one_in(2)) {
                const int n = 7 + static_cast<int>(chance.below(2));
                double bluntest = 0;  // the cosine of the least turn
                do {
                    out.points.clear();
                    const double first = chance.between(0, 6);
                    for (int i = 0; i < n; ++i) {
                        const double t = first + 2 * std::numbers::pi * (i + chance.between(-0.25, 0.25)) / n;
                        const double r = w * chance.between(0.55, 1.1);
                        out.points.push_back({r * std::cos(t), r * std::sin(t)});
                    }
                    bluntest = 0;
                    for (size_t i = 0; i < out.points.size(); ++i) {
                        const Point a = out.points[(i + 1) % out.points.size()] - out.points[i],
                                    b = out.points[(i + 2) % out.points.size()] -
                                        out.points[(i + 1) % out.points.size()];
                        bluntest = std::max(bluntest, dot(a, b) / (length(a) * length(b)));
                    }
                } while (bluntest > 0.9);
            } else {
                const double x = chance.between(-0.3, 0.3) * w, y = chance.between(-0.2, 0.3) * h;
                corners({{-w, -h}, {x, -h}, {x, y}, {w, y}, {w, h}, {-w, h}});
            }
            break;
        }
        case ShapeKind::brace: {
            const double out_mm = chance.between(0.18, 0.36) * w;
            corners({{0, -w}, {out_mm, chance.between(-0.15, 0.15) * w}, {0, w}});
            turn = 90.0 * static_cast<double>(chance.below(4)) + chance.normal(3);
            break;
        }
    }
    for (Point& p : out.points) p = turned(p, turn, {}) + about;
    return out;
}

std::vector<Stroke> drawn_by_hand(const Shape& shape, const DrawingManner& manner, std::mt19937& random) {
    Chance chance(random);
    const double careless = manner.careless;
    std::vector<Line> meant = outline_of(shape);
    double size = 0;
    Box box;
    for (const Line& line : meant)
        for (const Point& p : line) box.include(p);
    size = std::hypot(box.width(), box.height());
    std::vector<Line> lines;
    const bool cornered = is_closed(shape.kind) && shape.kind != ShapeKind::circle &&
                          shape.kind != ShapeKind::ellipse && shape.kind != ShapeKind::rounded_rectangle;
    if (shape.kind == ShapeKind::arrow || shape.kind == ShapeKind::double_arrow) {
        for (size_t i = 1; i < meant.size(); ++i) {  // heads are longer or shorter, their sides uneven
            Line& head = meant[i];
            const double times = chance.between(0.7, 1.5);
            for (const size_t k : {size_t{0}, size_t{2}})
                head[k] = head[1] + (head[k] - head[1]) * (times * chance.between(0.8, 1.25));
        }
        if (meant.size() == 2 && chance.one_in(3)) {  // head and shaft in one stroke
            Line one = meant[0];
            one.insert(one.end(), meant[1].begin(), meant[1].end());
            one.erase(one.end() - 3), one.insert(one.end() - 2, meant[1][0]);
            one.back() = meant[1][2];
            lines = {in_steps(one, size / 90)};
        } else {
            lines.push_back(in_steps(meant[0], size / 90));
            for (size_t i = 1; i < meant.size(); ++i) {
                Line head = meant[i];
                for (Point& p : head)
                    p = p + Point{chance.normal(0.008 * careless * size), chance.normal(0.008 * careless * size)};
                if (chance.one_in(2)) {
                    lines.push_back(in_steps(head, size / 90));
                } else {
                    lines.push_back(in_steps({head[1], head[0]}, size / 90));
                    lines.push_back(in_steps({head[1], head[2]}, size / 90));
                }
            }
        }
    } else if (shape.kind == ShapeKind::star && shape.points.size() == 10 && chance.one_in(3)) {
        // In one stroke that crosses itself, from point to point.
        Line line;
        for (size_t i = 0; i <= 5; ++i) line.push_back(shape.points[2 * (2 * i % 5)]);
        move_corners(line, 0.01 * careless * size, true, chance);
        lines = {in_steps(line, size / 90)};
    } else if (cornered) {
        Line corners = meant[0];
        move_corners(corners, 0.009 * careless * size, true, chance);
        if (chance.one_in(3))
            lines = in_pieces(corners, size, careless, chance);
        else
            lines = {begun_anywhere(corners, !chance.one_in(4), size, chance)};
    } else if (is_closed(shape.kind)) {
        lines = {begun_anywhere(in_steps(meant[0], size / 60), true, size, chance)};
        if (chance.one_in(8)) {  // in two halves
            const auto middle = lines[0].begin() + static_cast<std::ptrdiff_t>(lines[0].size() / 2);
            lines = {Line(lines[0].begin(), middle + 1), Line(middle, lines[0].end())};
        }
    } else {
        Line line = meant[0];
        if (shape.kind == ShapeKind::polyline) move_corners(line, 0.009 * careless * size, false, chance);
        lines = {in_steps(line, size / 90)};
        if (shape.kind == ShapeKind::line && chance.one_in(12)) {  // gone over
            Line back(lines[0].rbegin(), lines[0].rend());
            lines[0].insert(lines[0].end(), back.begin() + 1, back.end());
        }
    }
    std::vector<Stroke> out;
    for (Line& line : lines) {
        line = smooth(line, static_cast<int>(chance.between(0, 3.5) * careless));
        shake(line, 0.0045 * careless * size, size * chance.between(0.5, 1.1), chance);
        if (chance.one_in(10)) {  // a hook as the pen comes down
            const Point d = line[std::min<size_t>(2, line.size() - 1)] - line[0];
            line.insert(line.begin(), line[0] + turned(d * 0.8, chance.between(100, 170), {}));
        }
        if (chance.one_in(2)) std::ranges::reverse(line);
        Stroke stroke;
        stroke.pen = manner.pen;
        uint32_t time = 0;
        for (const Point& p : line) {
            stroke.points.push_back({p + Point{chance.normal(0.03), chance.normal(0.03)}, 0.5F, 0, 0, time});
            time += 9;
        }
        out.push_back(std::move(stroke));
    }
    std::ranges::shuffle(out, random);
    return out;
}

}  // namespace fernleaf
