// Values in JSON from anywhere. All of them throw what is no such value, as the JSON library does; who decodes catches.
#pragma once

#include <algorithm>
#include <cstdint>
#include <nlohmann/json.hpp>
#include <stdexcept>
#include <string>
#include <vector>

#include "base/geometry.h"

namespace fernleaf {

using Json = nlohmann::json;

// A whole number within its bounds.
inline int64_t whole(const Json& j, int64_t least, int64_t most) {
    if (!j.is_number_integer()) throw std::out_of_range("no whole number");
    if (j.is_number_unsigned() && j.get<uint64_t>() > static_cast<uint64_t>(INT64_MAX))
        throw std::out_of_range("number");
    const auto value = j.get<int64_t>();
    if (value < least || value > most) throw std::out_of_range("number out of bounds");
    return value;
}

inline int small(const Json& j, int least = 0, int most = 1'000'000'000) {
    return static_cast<int>(whole(j, least, most));
}

inline int small_or(const Json& j, const char* name, int otherwise) {
    return j.contains(name) ? small(j[name], -1'000'000'000) : otherwise;
}

inline uint32_t colour_in(const Json& j) { return static_cast<uint32_t>(whole(j, 0, UINT32_MAX)); }

inline double share(const Json& j) { return std::clamp(j.get<double>(), 0.0, 1.0); }

inline std::vector<int64_t> ids_in(const Json& j) {
    std::vector<int64_t> out;
    for (const Json& id : j) out.push_back(whole(id, INT64_MIN, INT64_MAX));
    return out;
}

// Of an element: the number of its group, 0 where it is in none.
inline int64_t group_in(const Json& j) {
    const auto group = j.find("group");
    return group == j.end() ? 0 : whole(*group, INT64_MIN, INT64_MAX);
}

inline Json json_of(const Box& box) { return {box.left, box.top, box.right, box.bottom}; }
inline Box box_from(const Json& j) { return {j.at(0), j.at(1), j.at(2), j.at(3)}; }

inline std::string text_of(const Json& j) { return j.dump(-1, ' ', false, Json::error_handler_t::replace); }

constexpr double kFarthestMm = 1e5;  // coordinates are within 100 m

inline bool is_place(double mm) { return mm >= -kFarthestMm && mm <= kFarthestMm; }  // false for NaN
inline bool is_place(const Box& box) {
    return is_place(box.left) && is_place(box.top) && is_place(box.right) && is_place(box.bottom);
}

}  // namespace fernleaf
