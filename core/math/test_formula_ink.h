// Formulas for tests, in straight strokes.
#pragma once

#include <vector>

#include "ink/test_stroke.h"

namespace fernleaf {

// Signs of straight strokes, 6 mm high, from the left end of their baseline.
class DrawnSigns {
public:
    void seven(double x, double y, double size = 6) {
        add({{x, y - size}, {x + 0.6 * size, y - size}, {x + 0.2 * size, y}});
    }
    void plus(double x, double y) {
        add({{x, y - 2.5}, {x + 4, y - 2.5}});
        add({{x + 2, y - 4.5}, {x + 2, y - 0.5}});
    }
    void equals(double x, double y) {
        add({{x, y - 3.2}, {x + 4, y - 3.2}});
        add({{x, y - 1.7}, {x + 4, y - 1.7}});
    }
    void add(const std::vector<Point>& corners) {
        strokes.push_back(stroke_along(static_cast<StrokeId>(strokes.size() + 1), corners));
    }
    std::vector<Stroke> strokes;
};

}  // namespace fernleaf
