// A number that stands for where the points of some strokes are: what was made of them is found again by it.
#pragma once

#include <bit>
#include <span>

#include "base/hash.h"
#include "ink/stroke.h"

namespace fernleaf {

inline uint64_t ink_key(std::span<const Stroke* const> strokes) {
    uint64_t hash = mixed(kFnvBasis, strokes.size());
    for (const Stroke* stroke : strokes) {
        hash = mixed(hash, stroke->points.size());
        for (const InkPoint& p : stroke->points)
            hash = mixed(mixed(hash, std::bit_cast<uint64_t>(p.at.x)), std::bit_cast<uint64_t>(p.at.y));
    }
    return hash;
}

}  // namespace fernleaf
