// Plays a voice track ahead of a speaker, on a thread of its own, so that reading and stretching sound never holds up
// who hears it.
#pragma once

#include <condition_variable>
#include <deque>
#include <mutex>
#include <thread>
#include <vector>

#include "sound/track_player.h"

namespace fernleaf {

// Safe to call from any thread.
class PlayThread {
public:
    PlayThread(VoiceTrack track, TrackPlayer::Opener opener);
    ~PlayThread();
    PlayThread(const PlayThread&) = delete;
    PlayThread& operator=(const PlayThread&) = delete;

    void seek(int64_t position_ms);
    void set_speed(double speed);
    void skip(std::vector<Silence> silences);
    // As much as is ready; never waits for a disk.
    size_t pull(std::span<float> out);
    // Whether all was pulled.
    bool ended() const;
    // What is heard while so many of the frames that were pulled are still to be heard.
    int64_t position_ms(size_t waiting) const;

private:
    // What stretch of the track some frames of the player's are of.
    struct Part {
        uint64_t frame = 0;
        int64_t from_ms = 0, to_ms = 0;
        size_t frames = 0;
    };
    void run();
    int64_t position_locked(size_t waiting) const;
    template <typename F>
    void change(F&& f);

    TrackPlayer player_;  // held by player_mutex_
    mutable std::mutex player_mutex_;
    mutable std::mutex mutex_;  // of all below; taken after the player's where both are
    std::condition_variable wanted_;
    std::vector<float> ready_;  // from used_ on
    size_t used_ = 0;
    uint64_t given_ = 0;       // frames of the player's that went into ready_, ever
    uint64_t changed_at_ = 0;  // given_, when it was last sought or changed
    std::deque<Part> parts_;   // the last that were given, and at least one
    bool ended_ = false, stop_ = false;
    std::thread thread_;
};

}  // namespace fernleaf
