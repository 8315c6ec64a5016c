// Numbers that stand for what they were mixed from: no secrets, and the same on every machine.
#pragma once

#include <cstdint>

namespace fernleaf {

constexpr uint64_t kFnvBasis = 0xCBF29CE484222325U;  // of nothing mixed yet

// Mixes a value into a hash (FNV-1a, by bytes).
inline uint64_t mixed(uint64_t hash, uint64_t value) {
    for (int i = 0; i < 8; ++i) {
        hash ^= value >> 8 * i & 0xFF;
        hash *= 0x100000001B3U;
    }
    return hash;
}

}  // namespace fernleaf
