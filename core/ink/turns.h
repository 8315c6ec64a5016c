// How often a course of values runs forth and back: what scribbles, waves and zigzags are told by.
//
//   int runs = runs_of(heights, 0.35 * swing);   // 4: down, up, down, up
#pragma once

#include <cmath>
#include <span>

namespace fernleaf {

// A run in one direction counts when it goes at least as far as enough, and is over when the values have come back that
// far from where they turned (hysteresis, so that tremor does not count).
inline int runs_of(std::span<const double> values, double enough) {
    int runs = 0, direction = 0;
    double turned = values.empty() ? 0 : values.front();  // farthest place in the direction of the run
    for (const double at : values) {
        if (direction == 0 ? std::abs(at - turned) >= enough : direction * (turned - at) >= enough) {
            direction = at > turned ? 1 : -1;
            turned = at;
            ++runs;
        } else if (direction * (at - turned) > 0) {
            turned = at;
        }
    }
    return runs;
}

}  // namespace fernleaf
