// Points and boxes. On a page the unit is the millimetre, x to the right and y down; in pictures it is the pixel.
#pragma once

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace fernleaf {

constexpr double kMmPerInch = 25.4;
constexpr double kPointsPerInch = 72.0;

struct Point {
    double x = 0;
    double y = 0;
    friend bool operator==(const Point&, const Point&) = default;
};

inline Point operator+(Point a, Point b) { return {a.x + b.x, a.y + b.y}; }
inline Point operator-(Point a, Point b) { return {a.x - b.x, a.y - b.y}; }
inline Point operator*(Point a, double k) { return {a.x * k, a.y * k}; }
inline double dot(Point a, Point b) { return a.x * b.x + a.y * b.y; }
// Not std::hypot, which guards against overflow that no page can bring about and takes several times as long.
inline double length(Point a) { return std::sqrt(dot(a, a)); }
inline double distance(Point a, Point b) { return length(a - b); }

// Distance from p to the segment a-b, and its square.
inline double squared_distance_to_segment(Point p, Point a, Point b) {
    const Point d = b - a;
    const double squared = dot(d, d);
    const double t = squared > 0 ? std::clamp(dot(p - a, d) / squared, 0.0, 1.0) : 0.0;
    const Point off = p - (a + d * t);
    return dot(off, off);
}
inline double distance_to_segment(Point p, Point a, Point b) { return std::sqrt(squared_distance_to_segment(p, a, b)); }

// An axis-parallel box; empty (nothing included yet) as long as right < left.
struct Box {
    double left = std::numeric_limits<double>::infinity();
    double top = std::numeric_limits<double>::infinity();
    double right = -std::numeric_limits<double>::infinity();
    double bottom = -std::numeric_limits<double>::infinity();

    static Box of(double x, double y, double width, double height) { return {x, y, x + width, y + height}; }

    bool empty() const { return right < left || bottom < top; }
    double width() const { return empty() ? 0 : right - left; }
    double height() const { return empty() ? 0 : bottom - top; }
    Point centre() const { return {(left + right) / 2, (top + bottom) / 2}; }
    bool contains(Point p) const { return p.x >= left && p.x <= right && p.y >= top && p.y <= bottom; }
    bool meets(const Box& other) const {
        return left <= other.right && other.left <= right && top <= other.bottom && other.top <= bottom;
    }
    void include(Point p) {
        left = std::min(left, p.x), right = std::max(right, p.x);
        top = std::min(top, p.y), bottom = std::max(bottom, p.y);
    }
    void include(const Box& other) {
        left = std::min(left, other.left), right = std::max(right, other.right);
        top = std::min(top, other.top), bottom = std::max(bottom, other.bottom);
    }
    Box grown(double by) const { return {left - by, top - by, right + by, bottom + by}; }
    // Shared area divided by joint area, 0 to 1.
    double overlap(const Box& other) const {
        const double w = std::min(right, other.right) - std::max(left, other.left);
        const double h = std::min(bottom, other.bottom) - std::max(top, other.top);
        if (w <= 0 || h <= 0) return 0;
        return w * h / (width() * height() + other.width() * other.height() - w * h);
    }
    friend bool operator==(const Box&, const Box&) = default;
};

inline Box shifted(const Box& box, Point by) {
    return {box.left + by.x, box.top + by.y, box.right + by.x, box.bottom + by.y};
}

// A point turned about another, degrees clockwise.
inline Point turned(Point p, double degrees, Point about) {
    const double radians = degrees * std::numbers::pi / 180, c = std::cos(radians), s = std::sin(radians);
    const Point d = p - about;
    return about + Point{c * d.x - s * d.y, s * d.x + c * d.y};
}

// The box about a box turned so.
inline Box turned(const Box& box, double degrees, Point about) {
    if (degrees == 0 || box.empty()) return box;
    Box out;
    for (const Point p : {Point{box.left, box.top}, Point{box.right, box.top}, Point{box.left, box.bottom},
                          Point{box.right, box.bottom}})
        out.include(turned(p, degrees, about));
    return out;
}

}  // namespace fernleaf
