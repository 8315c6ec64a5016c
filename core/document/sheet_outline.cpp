#include "document/sheet_outline.h"

namespace fernleaf {

Point SheetOutline::on_side(size_t side, double t) const {
    const Point a = corners[side], b = corners[(side + 1) % 4];
    const Point way = b - a;
    return a + way * t + Point{way.y, -way.x} * bows[side].at(t);
}

std::vector<Point> polygon(const SheetOutline& outline, int steps) {
    std::vector<Point> out;
    for (size_t side = 0; side < 4; ++side)
        for (int i = 0; i < steps; ++i) out.push_back(outline.on_side(side, static_cast<double>(i) / steps));
    return out;
}

bool is_valid(const SheetOutline& outline) {
    for (size_t i = 0; i < 4; ++i) {
        const Point a = outline.corners[(i + 1) % 4] - outline.corners[i];
        const Point b = outline.corners[(i + 2) % 4] - outline.corners[(i + 1) % 4];
        // Not: a number that is none fails, too.
        if (!(a.x * b.y - a.y * b.x > 1e-6 * length(a) * length(b)) || !(length(a) > 1)) return false;
        if (!(std::abs(outline.bows[i].even) < 1) || !(std::abs(outline.bows[i].odd) < 1)) return false;
    }
    return true;
}

SheetOutline scaled(SheetOutline outline, double by) {
    for (Point& corner : outline.corners) corner = corner * by;
    return outline;
}

}  // namespace fernleaf
