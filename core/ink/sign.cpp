#include "ink/sign.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <span>

#include "ink/turns.h"

namespace fernleaf {
namespace {

constexpr size_t kSamples = 49;
using Path = std::array<Point, kSamples>;

constexpr double kSignStraight = 1.1;  // length of a straight path to its chord, at most
constexpr double kLegStraight = 1.14;
constexpr double kLevelDegrees = 15, kWaveDegrees = 20, kUprightDegrees = 25, kArcDegrees = 25;
constexpr double kShortestLegMm = 0.8;
constexpr double kRun = 0.35;       // of a wave's swing, run through in one direction
constexpr int kWaveRuns = 4;        // two full waves
constexpr double kTremorMm = 0.45;  // from crest to trough; less is an unsteady line

// The path at equal steps; none when it has no length.
std::optional<Path> sampled(const Stroke& stroke) {
    const double length = path_length(stroke);
    if (stroke.points.size() < 2 || length <= 0) return {};
    Path path;
    path.fill(stroke.points.back().at);
    const double step = length / static_cast<double>(kSamples - 1);
    double gone = 0, next = 0;
    size_t n = 0;
    for (size_t i = 1; i < stroke.points.size() && n < kSamples; ++i) {
        const Point a = stroke.points[i - 1].at, b = stroke.points[i].at;
        const double part = distance(a, b);
        while (n < kSamples && part > 0 && next <= gone + part) {
            path[n++] = a + (b - a) * ((next - gone) / part);
            next = step * static_cast<double>(n);
        }
        gone += part;
    }
    return path;
}

double length_of(std::span<const Point> path) {
    double length = 0;
    for (size_t i = 1; i < path.size(); ++i) length += distance(path[i - 1], path[i]);
    return length;
}

bool straight(std::span<const Point> path, double most) {
    return length_of(path) <= most * distance(path.front(), path.back());
}

// Degrees between a line, in either direction, and the horizontal.
double slope_of(Point a, Point b) {
    return std::atan2(std::abs(b.y - a.y), std::abs(b.x - a.x)) * 180 / std::numbers::pi;
}

// How far p lies from the line through a and b; positive to its left as it is walked (above it, from left to right).
double off_line(Point p, Point a, Point b) {
    const Point d = b - a;
    const double chord = length(d);
    return chord > 0 ? (d.y * (p.x - a.x) - d.x * (p.y - a.y)) / chord : distance(p, a);
}

double angle_between(Point a, Point b) {
    return std::acos(std::clamp(dot(a, b) / (length(a) * length(b)), -1.0, 1.0)) * 180 / std::numbers::pi;
}

// From left to right, whichever way it was drawn.
Path rightwards(Path path) {
    if (path.front().x > path.back().x) std::ranges::reverse(path);
    return path;
}

}  // namespace

bool is_level(const Stroke& stroke) {
    const auto path = sampled(stroke);
    return path && straight(*path, kSignStraight) && slope_of(path->front(), path->back()) <= kLevelDegrees;
}

bool is_upright(const Stroke& stroke) {
    const auto path = sampled(stroke);
    return path && straight(*path, kSignStraight) && slope_of(path->front(), path->back()) >= 90 - kUprightDegrees;
}

bool is_wave(const Stroke& stroke) {
    const auto sampled_path = sampled(stroke);
    if (!sampled_path) return false;
    const Path path = rightwards(*sampled_path);
    const double chord = distance(path.front(), path.back());
    if (chord <= 0 || slope_of(path.front(), path.back()) > kWaveDegrees) return false;
    double back = 0;  // travelled against the direction
    for (size_t i = 1; i < kSamples; ++i) back += std::max(0.0, path[i - 1].x - path[i].x);
    if (back > 0.1 * chord) return false;
    std::array<double, kSamples> off{};
    for (size_t i = 0; i < kSamples; ++i) off[i] = off_line(path[i], path.front(), path.back());
    const auto [least, most] = std::ranges::minmax(off);
    const double swing = most - least;
    if (swing > 0.4 * chord || swing < kTremorMm) return false;
    return runs_of(off, kRun * swing) >= kWaveRuns;
}

std::optional<Caret> caret_of(const Stroke& stroke) {
    const auto sampled_path = sampled(stroke);
    if (!sampled_path) return {};
    const Path path = rightwards(*sampled_path);
    const auto top = static_cast<size_t>(std::ranges::min_element(path, {}, &Point::y) - path.begin());
    if (top < kSamples / 4 || top > kSamples * 3 / 4) return {};
    const std::span<const Point> up(path.data(), top + 1), down(path.data() + top, kSamples - top);
    if (!straight(up, kLegStraight) || !straight(down, kLegStraight)) return {};
    const Caret caret{path[top], path.front(), path.back()};
    const Point l = caret.left - caret.apex, r = caret.right - caret.apex;
    const double a = length(l), b = length(r);
    if (std::min(a, b) < kShortestLegMm || std::min(a, b) < 0.45 * std::max(a, b)) return {};
    if (l.x >= 0 || r.x <= 0 || l.y < 0.3 * a || r.y < 0.3 * b) return {};
    const double angle = angle_between(l, r);
    if (angle < 20 || angle > 110) return {};
    // A bow is flat at its top, a caret is not.
    constexpr size_t kNear = 8;
    if (angle_between(path[top - kNear] - caret.apex, path[top + kNear] - caret.apex) > angle + 35) return {};
    return caret;
}

std::optional<Arc> arc_of(const Stroke& stroke) {
    const auto sampled_path = sampled(stroke);
    if (!sampled_path) return {};
    const Path path = rightwards(*sampled_path);
    const Point a = path.front(), b = path.back();
    const double chord = distance(a, b);
    if (chord < 2 * kShortestLegMm || slope_of(a, b) > kArcDegrees) return {};
    double sagitta = 0;
    size_t at = 0;
    for (size_t i = 0; i < kSamples; ++i)
        if (const double off = off_line(path[i], a, b); std::abs(off) > std::abs(sagitta)) sagitta = off, at = i;
    if (std::abs(sagitta) < 0.12 * chord || std::abs(sagitta) > 0.75 * chord) return {};
    if (at < kSamples * 3 / 10 || at > kSamples * 7 / 10) return {};
    for (const Point p : path)
        if (off_line(p, a, b) * sagitta < -0.06 * chord * std::abs(sagitta)) return {};  // an S
    // Two straight legs are halfway out at a quarter of the way, a bow three quarters.
    const double quarters = off_line(path[kSamples / 4], a, b) + off_line(path[kSamples * 3 / 4], a, b);
    if (quarters / (2 * sagitta) < 0.58) return {};
    // A bow turns one way, gently.
    if (length_of(path) > 2.2 * chord) return {};
    return Arc{a, b, sagitta > 0};
}

std::optional<Corner> corner_of(const Stroke& stroke) {
    const auto sampled_path = sampled(stroke);
    if (!sampled_path) return {};
    Path path = *sampled_path;
    if (path.front().y < path.back().y) std::ranges::reverse(path);  // from the foot
    size_t at = 0;
    double farthest = 0;
    for (size_t i = 0; i < kSamples; ++i)
        if (const double off = std::abs(off_line(path[i], path.front(), path.back())); off > farthest)
            farthest = off, at = i;
    if (at < kSamples / 6 || at > kSamples * 5 / 6) return {};
    const std::span<const Point> upright(path.data(), at + 1), level(path.data() + at, kSamples - at);
    if (!straight(upright, kLegStraight) || !straight(level, kLegStraight)) return {};
    const Corner corner{path[at], path.front(), path.back()};
    if (slope_of(corner.foot, corner.at) < 90 - kUprightDegrees || corner.foot.y <= corner.at.y) return {};
    if (slope_of(corner.at, corner.right) > kArcDegrees || corner.right.x <= corner.at.x) return {};
    if (std::min(distance(corner.at, corner.foot), distance(corner.at, corner.right)) < 2 * kShortestLegMm) return {};
    return corner;
}

bool is_ring(const Stroke& stroke) {
    const auto path = sampled(stroke);
    if (!path) return false;
    Point middle{};
    for (const Point p : *path) middle = middle + p * (1.0 / kSamples);
    double turned = 0, near = std::numeric_limits<double>::infinity(), far = 0;
    for (size_t i = 0; i < kSamples; ++i) {
        const Point d = (*path)[i] - middle;
        near = std::min(near, length(d));
        far = std::max(far, length(d));
        if (i == 0) continue;
        const Point c = (*path)[i - 1] - middle;
        turned += std::atan2(c.x * d.y - c.y * d.x, dot(c, d));
    }
    // Once round, about its middle, never near to it.
    return near > 0.4 * far && std::abs(turned) > 0.85 * 2 * std::numbers::pi &&
           std::abs(turned) < 1.6 * 2 * std::numbers::pi;
}

}  // namespace fernleaf
