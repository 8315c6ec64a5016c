// When anything was recorded, over all tracks: what tells quickly of ink whether there is sound to it.
//
//   const HeardTimes heard(tracks);
//   if (heard.at(stroke.start_ms)) ...
#pragma once

#include <optional>
#include <utility>
#include <vector>

#include "sound/voice_track.h"

namespace fernleaf {

// All times in ms since 1970; each track's are taken with kTieSlackMs before and behind.
class HeardTimes {
public:
    HeardTimes() = default;
    explicit HeardTimes(const std::vector<VoiceTrack>& tracks);

    bool at(int64_t when_ms) const { return meets(when_ms, when_ms); }
    // Whether anything was heard between two times, both included.
    bool meets(int64_t from_ms, int64_t to_ms) const { return first_between(from_ms, to_ms).has_value(); }
    // The first moment between them at which something was heard.
    std::optional<int64_t> first_between(int64_t from_ms, int64_t to_ms) const;

private:
    std::vector<std::pair<int64_t, int64_t>> times_;  // apart from one another, in order
};

}  // namespace fernleaf
