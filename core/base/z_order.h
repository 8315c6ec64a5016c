// Ids that no other device gives, and the order in which things lie upon one another.
//
// The upper bits of an id are the device's number, the lower ones a counter: libraries that were written on two devices
// can be brought together. What was made later has a higher counter and lies above, unless it was given a place (z).
#pragma once

#include <cstdint>
#include <utility>

namespace fernleaf {

using ElementId = int64_t;  // 0: not yet in a library

constexpr int kCounterBits = 40;
constexpr int64_t kMostCounted = (int64_t{1} << kCounterBits) - 1;
constexpr int64_t kMostDevices = int64_t{1} << 22;

constexpr int64_t counter_of(ElementId id) { return id & kMostCounted; }
constexpr int64_t device_of(ElementId id) { return id >> kCounterBits; }
constexpr ElementId element_id(int64_t device, int64_t counter) { return device << kCounterBits | counter; }

// The place of an element among others of its layer.
template <typename Element>
int64_t z_of(const Element& element) {
    return element.z != 0 ? element.z : counter_of(element.id);
}

template <typename A, typename B>
bool z_less(const A& a, const B& b) {
    return std::pair(z_of(a), a.id) < std::pair(z_of(b), b.id);
}

}  // namespace fernleaf
