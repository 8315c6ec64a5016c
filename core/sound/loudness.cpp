#include "sound/loudness.h"

#include <algorithm>
#include <cmath>

namespace fernleaf {
namespace {

constexpr double kFloorDb = 60;
constexpr size_t kPerLevel = static_cast<size_t>(kSoundRate) * kLoudnessMs / 1000;
constexpr double kQuietShare = 0.1, kLoudShare = 0.95;  // of the levels: the room's own noise, and speech
constexpr double kAboveNoise = 0.3;                     // of the way from the one to the other

}  // namespace

uint8_t loudness(std::span<const float> samples) {
    double sum = 0;
    for (const float s : samples) sum += static_cast<double>(s) * static_cast<double>(s);
    if (samples.empty() || !(sum > 0)) return 0;
    const double db = 10 * std::log10(sum / static_cast<double>(samples.size()));
    return static_cast<uint8_t>(std::clamp((db + kFloorDb) / kFloorDb, 0.0, 1.0) * 255);
}

void LoudnessMeter::add(std::span<const float> samples) {
    while (!samples.empty()) {
        const size_t some = std::min(samples.size(), kPerLevel - pending_.size());
        pending_.insert(pending_.end(), samples.begin(), samples.begin() + static_cast<std::ptrdiff_t>(some));
        samples = samples.subspan(some);
        if (pending_.size() < kPerLevel) return;
        levels_.push_back(static_cast<char>(loudness(pending_)));
        pending_.clear();
    }
}

std::vector<Silence> silences(const std::string& levels, int64_t least_ms) {
    if (levels.empty()) return {};
    std::vector<uint8_t> sorted(levels.begin(), levels.end());
    std::ranges::sort(sorted);
    const auto share = [&](double part) {
        return static_cast<double>(sorted[static_cast<size_t>(part * static_cast<double>(sorted.size() - 1))]);
    };
    const double quiet = share(kQuietShare), loud = share(kLoudShare);
    const double most = quiet + kAboveNoise * (loud - quiet);
    std::vector<Silence> out;
    const auto end = static_cast<int64_t>(levels.size());
    for (int64_t i = 0; i < end;) {
        int64_t k = i;
        while (k < end && static_cast<double>(static_cast<uint8_t>(levels[static_cast<size_t>(k)])) <= most) ++k;
        if ((k - i) * kLoudnessMs >= least_ms && loud > quiet) out.push_back({i * kLoudnessMs, k * kLoudnessMs});
        i = std::max(k, i + 1);
    }
    return out;
}

}  // namespace fernleaf
