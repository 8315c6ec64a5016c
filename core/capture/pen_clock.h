// When captured strokes were written: a pen's clock is set at every link, and runs fast or slow until the next.
#pragma once

#include <cstdint>

namespace fernleaf {

// What is known of a pen's clock, ms since 1970.
struct PenClock {
    int64_t set_ms = 0;    // when it was set last, by the computer's clock; 0: not known
    int64_t now_ms = 0;    // the computer's clock,
    int64_t shows_ms = 0;  // and what the pen's showed then
    int64_t reset_ms = 0;  // when it was set since; 0: not yet
};

// The time by the computer's clock of what the pen says was then. Between the last setting and now the error grows
// evenly; a clock that is off by more than running can explain (one that began at 1970 again) is taken to be off by the
// same all the time. Never later than now.
int64_t true_time(const PenClock& clock, int64_t pen_ms, int64_t now_ms);

}  // namespace fernleaf
