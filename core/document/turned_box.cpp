#include "document/turned_box.h"

#include <cmath>
#include <numbers>

namespace fernleaf {
namespace {

constexpr int kProbes = 6;  // a side, to tell how much of a box a lasso encloses

}  // namespace

bool lies_on(const Box& box, double angle, Point p) { return box.contains(turned(p, -angle, box.centre())); }

bool mostly_inside(const Box& box, double angle, const std::vector<Point>& polygon) {
    int in = 0;
    for (int i = 0; i < kProbes; ++i)
        for (int k = 0; k < kProbes; ++k) {
            const Point p{box.left + box.width() * (i + 0.5) / kProbes, box.top + box.height() * (k + 0.5) / kProbes};
            in += inside(polygon, turned(p, angle, box.centre()));
        }
    return in >= kLassoShare * kProbes * kProbes;
}

double turned_by(double angle, const Affine& by) {
    const double d = std::fmod(angle + std::atan2(by.yx, by.xx) * 180 / std::numbers::pi, 360);
    return d > 180 ? d - 360 : d <= -180 ? d + 360 : d;
}

}  // namespace fernleaf
