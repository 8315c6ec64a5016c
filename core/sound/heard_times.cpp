#include "sound/heard_times.h"

#include <algorithm>

namespace fernleaf {

HeardTimes::HeardTimes(const std::vector<VoiceTrack>& tracks) {
    std::vector<std::pair<int64_t, int64_t>> all;
    for (const VoiceTrack& t : tracks)
        for (const TrackPiece& p : t.pieces)
            all.emplace_back(p.began_ms - kTieSlackMs, p.began_ms + p.length_ms + kTieSlackMs);
    std::ranges::sort(all);
    for (const auto& [from, to] : all) {
        if (!times_.empty() && from <= times_.back().second)
            times_.back().second = std::max(times_.back().second, to);
        else
            times_.emplace_back(from, to);
    }
}

std::optional<int64_t> HeardTimes::first_between(int64_t from_ms, int64_t to_ms) const {
    const auto next = std::ranges::lower_bound(times_, from_ms, {}, &std::pair<int64_t, int64_t>::second);
    if (next == times_.end() || next->first > to_ms) return {};
    return std::max(from_ms, next->first);
}

}  // namespace fernleaf
