#include "ink/erasing.h"

#include <algorithm>
#include <cmath>

namespace fernleaf {
namespace {

constexpr double kShortestPieceMm = 0.05;  // crumbs go, too

// The part of a to b within a disc.
std::optional<Stretch> in_disc(Point a, Point b, Point centre, double radius) {
    const Point d = b - a, f = a - centre;
    const double dd = dot(d, d), df = dot(d, f), ff = dot(f, f) - radius * radius;
    if (dd == 0) return ff <= 0 ? std::optional(Stretch{0, 1}) : std::nullopt;
    const double under = df * df - dd * ff;
    if (under < 0) return std::nullopt;
    const double root = std::sqrt(under);
    const Stretch s{std::max(0.0, (-df - root) / dd), std::min(1.0, (-df + root) / dd)};
    return s.begin <= s.end ? std::optional(s) : std::nullopt;
}

// The part of a to b that lies beside from-to, no farther than the radius.
std::optional<Stretch> in_band(Point a, Point b, Point from, Point to, double radius) {
    const double reach = distance(from, to);
    if (reach == 0) return std::nullopt;
    const Point along = (to - from) * (1 / reach);
    const Point across{-along.y, along.x};
    Stretch s{0, 1};
    const auto clip = [&](double at_a, double at_b, double least, double most) {
        const double change = at_b - at_a;
        if (change == 0) {
            if (at_a < least || at_a > most) s.end = -1;
            return;
        }
        const double one = (least - at_a) / change, other = (most - at_a) / change;
        s.begin = std::max(s.begin, std::min(one, other));
        s.end = std::min(s.end, std::max(one, other));
    };
    clip(dot(a - from, along), dot(b - from, along), 0, reach);
    clip(dot(a - from, across), dot(b - from, across), -radius, radius);
    return s.begin <= s.end ? std::optional(s) : std::nullopt;
}

InkPoint at(const std::vector<InkPoint>& points, double place) {
    const auto i = std::min(static_cast<size_t>(place), points.size() - 1);
    const double part = place - static_cast<double>(i);
    return part <= 0 || i + 1 == points.size() ? points[i] : between(points[i], points[i + 1], part);
}

Stroke piece_of(const Stroke& stroke, Stretch kept) {
    Stroke piece;
    piece.pen = stroke.pen;
    piece.z = z_of(stroke);
    const auto first = static_cast<size_t>(std::ceil(kept.begin));
    const auto last = static_cast<size_t>(std::floor(kept.end));
    if (kept.begin < static_cast<double>(first)) piece.points.push_back(at(stroke.points, kept.begin));
    for (size_t i = first; i <= last; ++i) piece.points.push_back(stroke.points[i]);
    if (static_cast<double>(last) < kept.end) piece.points.push_back(at(stroke.points, kept.end));
    const uint32_t begin = piece.points.front().time_ms;
    piece.start_ms = stroke.start_ms != 0 ? stroke.start_ms + begin : 0;
    for (InkPoint& p : piece.points.change()) p.time_ms -= begin;
    return piece;
}

}  // namespace

std::optional<Stretch> within(Point a, Point b, Point from, Point to, double radius) {
    // The places within reach of a segment are convex, and so is what a straight path has of them: one stretch, from
    // the first entry into either end's disc or the band between to the last way out.
    std::optional<Stretch> all;
    for (const auto& part : {in_disc(a, b, from, radius), in_disc(a, b, to, radius), in_band(a, b, from, to, radius)}) {
        if (!part) continue;
        if (!all)
            all = part;
        else
            all = Stretch{std::min(all->begin, part->begin), std::max(all->end, part->end)};
    }
    return all;
}

std::vector<Stroke> erased_along(const Stroke& stroke, Point from, Point to, double radius) {
    Box passed;
    passed.include(from);
    passed.include(to);
    const auto& points = stroke.points;
    if (points.empty() || !stroke.box().meets(passed.grown(radius))) return {stroke};
    if (points.size() == 1)
        return distance_to_segment(points[0].at, from, to) <= radius ? std::vector<Stroke>{} : std::vector{stroke};

    std::vector<Stretch> kept;
    bool touched = false;
    double open = 0;  // where the piece began that is being kept
    for (size_t i = 0; i + 1 < points.size(); ++i) {
        const auto cut = within(points[i].at, points[i + 1].at, from, to, radius);
        if (!cut) continue;
        touched = true;
        const double place = static_cast<double>(i);
        if (place + cut->begin > open) kept.push_back({open, place + cut->begin});
        open = place + cut->end;
    }
    if (!touched) return {stroke};
    const double end = static_cast<double>(points.size() - 1);
    if (open < end) kept.push_back({open, end});

    std::vector<Stroke> pieces;
    for (const Stretch& stretch : kept)
        if (Stroke piece = piece_of(stroke, stretch); path_length(piece) >= kShortestPieceMm)
            pieces.push_back(std::move(piece));
    return pieces;
}

}  // namespace fernleaf
