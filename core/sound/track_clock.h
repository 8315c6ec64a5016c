// When sound was heard that arrives in chunks: a device counts samples by a quartz of its own and hands them over late,
// by a little or a lot. What is never late is the earliest of many: over some seconds, the chunk that arrived earliest
// for its count tells the device's clock (the lower envelope of one-way delays; Moon, Skelly, Towsley 1999).
#pragma once

#include <cstdint>
#include <limits>
#include <vector>

#include "sound/voice_track.h"

namespace fernleaf {

class TrackClock {
public:
    explicit TrackClock(SoundId sound) : sound_(sound) {}

    // A chunk of sound that ends at so many ms of the file had arrived then.
    void arrived(int64_t length_ms, int64_t end_ms, int64_t now_ms);
    // What is heard next follows a pause.
    void pause() { paused_ = true; }
    const std::vector<TrackPiece>& pieces() const { return pieces_; }

private:
    void begin_piece(int64_t from_ms, int64_t offset);

    SoundId sound_;
    std::vector<TrackPiece> pieces_;
    bool paused_ = true;
    bool first_window_ = true;  // of a piece after a pause: its time is not yet known well
    int64_t offset_ = 0;        // of the piece: time heard less time in the file
    int64_t window_began_ = 0;  // in the file
    int64_t earliest_ = std::numeric_limits<int64_t>::max();  // offset in this window
};

}  // namespace fernleaf
