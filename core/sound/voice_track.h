// A voice track: recorded sound with the time at which every part of it was heard, which ties it to whatever was
// written meanwhile. A track names parts of sound files one after the other; trimmed, joined and shifted, it names
// others, and the files stay as they are.
//
//   const auto position = position_of(track, stroke.start_ms);   // where to listen, if there is sound to it
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

namespace fernleaf {

using TrackId = int64_t;
using SoundId = int64_t;

// A part of a sound file, and when its beginning was heard (ms since 1970, UTC).
struct TrackPiece {
    SoundId sound = 0;
    int64_t from_ms = 0, length_ms = 0;
    int64_t began_ms = 0;
    friend bool operator==(const TrackPiece&, const TrackPiece&) = default;
};

// A place in a track, kept by the time that was heard there, so that it stays when the track is trimmed or joined.
struct Bookmark {
    int64_t at_ms = 0;
    std::string name;
    friend bool operator==(const Bookmark&, const Bookmark&) = default;
};

struct VoiceTrack {
    TrackId id = 0;
    std::string name;
    std::vector<TrackPiece> pieces;  // in the order of playing
    std::vector<Bookmark> bookmarks;
    friend bool operator==(const VoiceTrack&, const VoiceTrack&) = default;
};

// How far from the sound's own times something still counts as written while it was heard: strokes begun just before
// the recording, and the breaks of a few milliseconds that correcting the clock makes.
constexpr int64_t kTieSlackMs = 500;

int64_t length_ms(const VoiceTrack& track);

// When what is heard at a position was said. Positions are brought within the track; 0 for one without sound.
int64_t when_at(const VoiceTrack& track, int64_t position_ms);

// Where that time is heard; nothing when there is no sound to it.
std::optional<int64_t> position_of(const VoiceTrack& track, int64_t when_ms);

// Where playing is when everything before that time has been heard: in breaks, their end.
int64_t position_after(const VoiceTrack& track, int64_t when_ms);

// The part between two positions.
VoiceTrack trimmed(const VoiceTrack& track, int64_t from_ms, int64_t to_ms);

// Both, the one that was heard first before the other; it keeps the first one's id and name.
VoiceTrack joined(const VoiceTrack& one, const VoiceTrack& other);

// Heard earlier or later by so many ms.
VoiceTrack shifted(VoiceTrack track, int64_t by_ms);

}  // namespace fernleaf
