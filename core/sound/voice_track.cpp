#include "sound/voice_track.h"

#include <algorithm>
#include <cstdlib>
#include <limits>

namespace fernleaf {

int64_t length_ms(const VoiceTrack& track) {
    int64_t out = 0;
    for (const TrackPiece& p : track.pieces) out += p.length_ms;
    return out;
}

int64_t when_at(const VoiceTrack& track, int64_t position_ms) {
    if (track.pieces.empty()) return 0;
    int64_t left = std::max<int64_t>(0, position_ms);
    for (const TrackPiece& p : track.pieces) {
        if (left < p.length_ms) return p.began_ms + left;
        left -= p.length_ms;
    }
    return track.pieces.back().began_ms + track.pieces.back().length_ms;
}

std::optional<int64_t> position_of(const VoiceTrack& track, int64_t when_ms) {
    std::optional<int64_t> nearest;
    int64_t off = kTieSlackMs, begin = 0;
    for (const TrackPiece& p : track.pieces) {
        const int64_t within = std::clamp<int64_t>(when_ms - p.began_ms, 0, p.length_ms);
        const int64_t away = std::abs(when_ms - (p.began_ms + within));
        if (away < off || (away == off && !nearest)) {
            off = away;
            nearest = begin + within;
        }
        begin += p.length_ms;
    }
    return nearest;
}

int64_t position_after(const VoiceTrack& track, int64_t when_ms) {
    int64_t begin = 0;
    for (const TrackPiece& p : track.pieces) {
        if (when_ms < p.began_ms + p.length_ms) return begin + std::max<int64_t>(0, when_ms - p.began_ms);
        begin += p.length_ms;
    }
    return begin;
}

VoiceTrack trimmed(const VoiceTrack& track, int64_t from_ms, int64_t to_ms) {
    VoiceTrack out = track;
    out.pieces.clear();
    int64_t begin = 0;
    int64_t earliest = std::numeric_limits<int64_t>::max(), latest = std::numeric_limits<int64_t>::min();
    for (TrackPiece p : track.pieces) {
        const int64_t first = std::max(from_ms, begin), last = std::min(to_ms, begin + p.length_ms),
                      skipped = first - begin;
        begin += p.length_ms;
        if (first >= last) continue;
        p.from_ms += skipped, p.began_ms += skipped, p.length_ms = last - first;
        earliest = std::min(earliest, p.began_ms), latest = std::max(latest, p.began_ms + p.length_ms);
        out.pieces.push_back(p);
    }
    std::erase_if(out.bookmarks, [&](const Bookmark& b) { return b.at_ms < earliest || b.at_ms > latest; });
    return out;
}

VoiceTrack joined(const VoiceTrack& one, const VoiceTrack& other) {
    const auto begins = [](const VoiceTrack& t) { return t.pieces.empty() ? 0 : t.pieces.front().began_ms; };
    const bool in_order = begins(one) <= begins(other);
    VoiceTrack out = in_order ? one : other;
    const VoiceTrack& later = in_order ? other : one;
    out.pieces.insert(out.pieces.end(), later.pieces.begin(), later.pieces.end());
    out.bookmarks.insert(out.bookmarks.end(), later.bookmarks.begin(), later.bookmarks.end());
    return out;
}

VoiceTrack shifted(VoiceTrack track, int64_t by_ms) {
    for (TrackPiece& p : track.pieces) p.began_ms += by_ms;
    for (Bookmark& b : track.bookmarks) b.at_ms += by_ms;
    return track;
}

}  // namespace fernleaf
