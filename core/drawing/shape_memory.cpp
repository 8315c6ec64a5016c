#include "drawing/shape_memory.h"

#include "ink/ink_key.h"

namespace fernleaf {
namespace {

constexpr size_t kMostKnown = 20'000;  // some 60 MB

}  // namespace

const ShapeReading& ShapeMemory::read(const std::vector<const Stroke*>& strokes) {
    const auto [known, fresh] = known_.try_emplace(ink_key(strokes));
    if (fresh) known->second = read_shape(strokes);
    return known->second;
}

void ShapeMemory::make_room() {
    if (known_.size() > kMostKnown) known_.clear();
}

}  // namespace fernleaf
