// Strokes for tests of drawings: paths with points a millimetre apart.
#pragma once

#include "ink/stroke.h"

namespace fernleaf {

inline Stroke drawn(const std::vector<Point>& path, StrokeId id = 0) {
    Stroke out;
    out.id = id;
    uint32_t time = 0;
    for (size_t i = 0; i + 1 < path.size(); ++i) {
        const int steps = std::max(1, static_cast<int>(distance(path[i], path[i + 1])));
        for (int k = 0; k < steps; ++k)
            out.points.push_back(
                {path[i] + (path[i + 1] - path[i]) * (static_cast<double>(k) / steps), 0.5F, 0, 0, time += 8});
    }
    out.points.push_back({path.back(), 0.5F, 0, 0, time + 8});
    return out;
}

inline std::vector<const Stroke*> pointers(const std::vector<Stroke>& strokes) {
    std::vector<const Stroke*> out;
    for (const Stroke& s : strokes) out.push_back(&s);
    return out;
}

}  // namespace fernleaf
