#include "paper/quadrilateral.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace fernleaf {

double area(const std::array<Point, 4>& corners) {
    double sum = 0;
    for (size_t i = 0; i < 4; ++i) sum += corners[i].x * corners[(i + 1) % 4].y - corners[(i + 1) % 4].x * corners[i].y;
    return sum / 2;
}

Point place_in(const std::array<Point, 4>& c, double u, double v) {
    return (c[0] * (1 - u) + c[1] * u) * (1 - v) + (c[3] * (1 - u) + c[2] * u) * v;
}

bool lies_in(const std::array<Point, 4>& c, Point p) {
    for (size_t i = 0; i < 4; ++i) {
        const Point side = c[(i + 1) % 4] - c[i], there = p - c[i];
        if (side.x * there.y - side.y * there.x < 0) return false;
    }
    return true;
}

void set_clockwise(std::array<Point, 4>& corners) {
    if (area(corners) < 0) std::swap(corners[1], corners[3]);
    const auto first = std::ranges::min_element(corners, {}, [](Point p) { return p.x + p.y; });
    std::rotate(corners.begin(), first, corners.end());
}

// One is cut along the other's sides (Sutherland and Hodgman 1974). OpenCV's own gives far too much now and then where
// sides lie on one another.
double shared_area(const std::array<Point, 4>& a, const std::array<Point, 4>& b) {
    std::vector<Point> left(a.begin(), a.end()), kept;
    for (size_t i = 0; i < 4 && !left.empty(); ++i) {
        const Point from = b[i], side = b[(i + 1) % 4] - from;
        const auto inside = [&](Point p) { return side.x * (p.y - from.y) - side.y * (p.x - from.x); };
        kept.clear();
        for (size_t k = 0; k < left.size(); ++k) {
            const Point p = left[k], q = left[(k + 1) % left.size()];
            const double at_p = inside(p), at_q = inside(q);
            if (at_p >= 0) kept.push_back(p);
            if ((at_p >= 0) != (at_q >= 0)) kept.push_back(p + (q - p) * (at_p / (at_p - at_q)));
        }
        left.swap(kept);
    }
    double twice = 0;
    for (size_t k = 0; k < left.size(); ++k) {
        const Point p = left[k], q = left[(k + 1) % left.size()];
        twice += p.x * q.y - p.y * q.x;
    }
    return std::abs(twice) / 2;
}

}  // namespace fernleaf
