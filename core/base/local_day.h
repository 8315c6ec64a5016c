// Days as people count them: by the clock on the wall.
#pragma once

#include <cstdint>
#include <ctime>

namespace fernleaf {

// The day of a moment (ms since 1970, UTC) where this computer is, as the number of days from 1 January 1970 to it.
inline int64_t local_day(int64_t ms) {
    constexpr int64_t kSecondsADay = 86'400;
    const auto seconds = static_cast<std::time_t>(ms / 1000);
    std::tm there{};
    if (!localtime_r(&seconds, &there)) return ms / 1000 / kSecondsADay;
    there.tm_hour = there.tm_min = there.tm_sec = 0;
    there.tm_isdst = 0;
    return static_cast<int64_t>(timegm(&there)) / kSecondsADay;
}

}  // namespace fernleaf
