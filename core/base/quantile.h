// Quantiles of unordered numbers; a default value where there are none.
#pragma once

#include <algorithm>
#include <vector>

namespace fernleaf {

// The number that would stand at this place if they were in order.
template <typename T>
T in_order_at(std::vector<T> values, size_t place) {
    if (values.empty()) return T{};
    const auto at = values.begin() + static_cast<std::ptrdiff_t>(std::min(place, values.size() - 1));
    std::ranges::nth_element(values, at);
    return *at;
}

// Of two in the middle the higher.
template <typename T>
T median(std::vector<T> values) {
    const size_t middle = values.size() / 2;
    return in_order_at(std::move(values), middle);
}

// The highest that at most this part of the others (0 to 1) lies below.
template <typename T>
T quantile(std::vector<T> values, double part) {
    if (values.empty()) return T{};
    const auto place = static_cast<size_t>(part * static_cast<double>(values.size() - 1));
    return in_order_at(std::move(values), place);
}

}  // namespace fernleaf
