// Plays a voice track ahead of a speaker, on a thread of its own: opening, reading and stretching sound never holds up
// who hears it, nor who seeks in it.
#pragma once

#include <condition_variable>
#include <deque>
#include <mutex>
#include <optional>
#include <thread>
#include <vector>

#include "sound/track_player.h"

namespace fernleaf {

// Safe to call from any thread; nothing here waits for a disk.
class PlayThread {
public:
    PlayThread(VoiceTrack track, TrackPlayer::Opener opener);
    ~PlayThread();
    PlayThread(const PlayThread&) = delete;
    PlayThread& operator=(const PlayThread&) = delete;

    void seek(int64_t position_ms);
    void set_speed(double speed);
    void skip(std::vector<Silence> silences);
    // As much as is ready.
    size_t pull(std::span<float> out);
    // Whether all was pulled.
    bool ended() const;
    // What is heard while so many of the frames that were pulled are still to be heard.
    int64_t position_ms(size_t waiting) const;

private:
    // What the player is to do before it goes on.
    struct Wish {
        std::optional<int64_t> seek;
        std::optional<double> speed;
        std::optional<std::vector<Silence>> skip;
    };
    // What stretch of the track some frames are of.
    struct Part {
        uint64_t frame = 0;
        int64_t from_ms = 0, to_ms = 0;
        size_t frames = 0;
    };
    void run(TrackPlayer player);
    void sought(int64_t position_ms);
    int64_t position_locked(size_t waiting) const;

    mutable std::mutex mutex_;  // of all below
    std::condition_variable wanted_;
    Wish wish_;
    std::vector<float> ready_;  // from used_ on
    size_t used_ = 0;
    uint64_t given_ = 0;       // frames that went into ready_, ever
    uint64_t changed_at_ = 0;  // given_, when it was last sought
    std::deque<Part> parts_;   // the last that were given, and at least one
    bool ended_ = false, stop_ = false;
    std::thread thread_;
};

}  // namespace fernleaf
