// The time now, as the library keeps it.
#pragma once

#include <chrono>
#include <cstdint>

namespace fernleaf {

// ms since 1970, UTC.
inline int64_t now_ms() {
    using namespace std::chrono;
    return duration_cast<milliseconds>(system_clock::now().time_since_epoch()).count();
}

}  // namespace fernleaf
