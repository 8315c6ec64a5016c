#include "drawing/shape_memory.h"

#include <bit>

#include "base/hash.h"

namespace fernleaf {
namespace {

constexpr size_t kMostKnown = 20'000;  // some 60 MB

uint64_t key_of(const std::vector<const Stroke*>& strokes) {
    uint64_t hash = mixed(kFnvBasis, strokes.size());
    for (const Stroke* stroke : strokes) {
        hash = mixed(hash, stroke->points.size());
        for (const InkPoint& p : stroke->points)
            hash = mixed(mixed(hash, std::bit_cast<uint64_t>(p.at.x)), std::bit_cast<uint64_t>(p.at.y));
    }
    return hash;
}

}  // namespace

const ShapeReading& ShapeMemory::read(const std::vector<const Stroke*>& strokes) {
    const auto [known, fresh] = known_.try_emplace(key_of(strokes));
    if (fresh) known->second = read_shape(strokes);
    return known->second;
}

void ShapeMemory::make_room() {
    if (known_.size() > kMostKnown) known_.clear();
}

}  // namespace fernleaf
