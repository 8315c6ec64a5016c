// For tests: strokes along corners, sampled as a pen does.
#pragma once

#include "ink/stroke.h"

namespace fernleaf {

inline Stroke stroke_along(StrokeId id, const std::vector<Point>& corners) {
    Stroke s;
    s.id = id;
    for (size_t i = 1; i < corners.size(); ++i)
        for (int k = 0; k < 10; ++k) s.points.push_back({corners[i - 1] + (corners[i] - corners[i - 1]) * (k / 10.0)});
    s.points.push_back({corners.back()});
    return s;
}

}  // namespace fernleaf
