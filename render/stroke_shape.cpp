#include "render/stroke_shape.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "ink/nib.h"

namespace fernleaf {
namespace {

constexpr double kStepMm = 0.3;
constexpr double kSharpTurn = 0.5;  // radians between neighbouring pieces
constexpr int kDiscSides = 16;
constexpr int kDarknessSteps = 8;
constexpr double kFinestMm = 0.015;    // what a screen of 400 dots an inch, magnified four times, shows as one dot
constexpr size_t kLongestPiece = 400;  // points

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

// A smoothed path with its marks; no two neighbouring points lie in one place.
struct Inked {
    std::vector<InkPoint> points;
    std::vector<NibMark> marks;

    // Where the path goes from one point to the next, as a vector of length 1.
    Point direction(size_t i) const {
        const Point d = points[i + 1].at - points[i].at;
        return d * (1 / length(d));
    }
};

std::vector<InkPoint> thinned(const std::vector<InkPoint>& points) {
    std::vector<InkPoint> out;
    out.reserve(points.size());
    for (const InkPoint& p : points)
        if (out.empty() || distance(out.back().at, p.at) > kFinestMm)
            out.push_back(p);
        else
            out.back().pressure = std::max(out.back().pressure, p.pressure);
    return out;
}

Inked inked(const Stroke& stroke) {
    Inked out;
    for (const InkPoint& p : smoothed(thinned(stroke.points), kStepMm))
        if (out.points.empty() || distance(out.points.back().at, p.at) > 1e-4) out.points.push_back(p);
    out.marks = nib_marks(stroke.pen, out.points);
    return out;
}

// The outline from one point of the path to another; round only at the path's own ends. Outlines that follow one
// another meet edge to edge.
void add_outline(QPainterPath& path, const Inked& ink, size_t first, size_t last) {
    const size_t end = ink.points.size() - 1;  // of the whole path
    const auto half_at = [&](size_t i) { return ink.marks[i].width_mm / 2; };
    if (first == 0) add_disc(path, ink.points.front().at, half_at(0));
    if (last == end && last > 0) add_disc(path, ink.points.back().at, half_at(last));
    if (first == last) return;
    std::vector<QPointF> left, right;
    left.reserve(last - first + 1), right.reserve(last - first + 1);
    for (size_t i = first; i <= last; ++i) {
        const Point at = ink.points[i].at;
        const Point before = ink.direction(i > 0 ? i - 1 : 0);
        const Point after = ink.direction(i < end ? i : end - 1);
        const double half = half_at(i);
        const double turn = std::abs(std::atan2(before.x * after.y - before.y * after.x, dot(before, after)));
        if (turn > kSharpTurn) {
            // Both edges turn at the disc instead of being pulled together.
            add_disc(path, at, half);
            for (const Point d : {before, after}) {
                left.push_back(edge(at, {d.y, -d.x}, half));
                right.push_back(edge(at, {-d.y, d.x}, half));
            }
            continue;
        }
        const Point sum = before + after;
        const Point d = sum * (1 / std::max(length(sum), 1e-9));
        left.push_back(edge(at, {d.y, -d.x}, half));
        right.push_back(edge(at, {-d.y, d.x}, half));
    }
    path.moveTo(left.front());
    for (size_t i = 1; i < left.size(); ++i) path.lineTo(left[i]);
    for (size_t i = right.size(); i-- > 0;) path.lineTo(right[i]);
    path.closeSubpath();
}

int step_of(const NibMark& mark) { return static_cast<int>(std::lround(mark.darkness * kDarknessSteps)); }

}  // namespace

QPainterPath stroke_shape(const Stroke& stroke) {
    QPainterPath path;
    path.setFillRule(Qt::WindingFill);
    if (const Inked ink = inked(stroke); !ink.points.empty()) add_outline(path, ink, 0, ink.points.size() - 1);
    return path;
}

void shape_pieces(const Stroke& stroke, const std::function<void(const QPainterPath&, double)>& take) {
    const Inked ink = inked(stroke);
    for (size_t first = 0; first < ink.points.size();) {
        const int step = step_of(ink.marks[first]);
        size_t last = first + 1;
        while (last < ink.points.size() && last - first < kLongestPiece && step_of(ink.marks[last]) == step) ++last;
        QPainterPath piece;
        piece.setFillRule(Qt::WindingFill);
        add_outline(piece, ink, first, std::min(last, ink.points.size() - 1));
        take(piece, static_cast<double>(step) / kDarknessSteps);
        first = last;
    }
}

QPainterPath stroke_tail(const Stroke& stroke, size_t first) {
    // The spline looks at one point before and one after each piece; a fountain pen's width remembers its speed.
    const size_t context = stroke.pen.kind == PenKind::fountain ? 24 : 2;
    Stroke tail;
    tail.pen = stroke.pen;
    const size_t from = first > context ? first - context : 0;
    tail.points = std::vector<InkPoint>(stroke.points.begin() + static_cast<std::ptrdiff_t>(from), stroke.points.end());
    return stroke_shape(tail);
}

Box tail_box(const Stroke& stroke, size_t first) {
    // The spline looks at one point before and one after each piece, and may swing out a little beyond them.
    Box box;
    for (size_t i = first > 2 ? first - 2 : 0; i < stroke.points.size(); ++i) box.include(stroke.points[i].at);
    return box.grown(widest_mark(stroke.pen) / 2 + 0.1 * std::max(box.width(), box.height()));
}

}  // namespace fernleaf
