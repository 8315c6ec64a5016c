#include "capture/pen_clock.h"

#include <algorithm>
#include <cmath>

namespace fernleaf {
namespace {

constexpr double kMostDrift = 0.01;         // of the time since it was set; quartzes are within a tenth of it
constexpr int64_t kLeastPassedMs = 10'000;  // to tell drift from the link's own delays

}  // namespace

int64_t true_time(const PenClock& clock, int64_t pen_ms, int64_t now_ms) {
    if (clock.reset_ms > 0 && pen_ms >= clock.reset_ms) return std::min(pen_ms, now_ms);
    const double off = static_cast<double>(clock.now_ms) - static_cast<double>(clock.shows_ms);
    const double passed = static_cast<double>(clock.now_ms) - static_cast<double>(clock.set_ms);
    const double shown = static_cast<double>(clock.shows_ms) - static_cast<double>(clock.set_ms);
    double corrected = static_cast<double>(pen_ms) + off;
    if (clock.set_ms > 0 && passed > kLeastPassedMs && shown > 0 && std::abs(shown / passed - 1) < kMostDrift &&
        pen_ms >= clock.set_ms)
        corrected = static_cast<double>(clock.set_ms) +
                    (static_cast<double>(pen_ms) - static_cast<double>(clock.set_ms)) * passed / shown;
    return static_cast<int64_t>(std::clamp(corrected, 0.0, static_cast<double>(now_ms)));
}

}  // namespace fernleaf
