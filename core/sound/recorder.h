// Recording: samples from a device, as they arrive, into a sound file, with the times at which they were heard. Knows
// no device and no clock; one thread at a time.
//
//   auto recorder = Recorder::begin(path, sound);
//   (*recorder)->take(samples, now_ms());        // written; every half second on disk
//   (*recorder)->finish();
#pragma once

#include <filesystem>
#include <memory>
#include <span>

#include "sound/sound_file.h"
#include "sound/track_clock.h"

namespace fernleaf {

class Recorder {
public:
    static Result<std::unique_ptr<Recorder>> begin(const std::filesystem::path& path, SoundId sound);

    // The last of these had arrived then (ms since 1970). While it is paused they are dropped. After an error nothing
    // more is written; what was, stays.
    Status take(std::span<const float> samples, int64_t now_ms);
    void pause(bool paused);
    bool paused() const { return paused_; }
    Status finish();

    int64_t length_ms() const;
    const std::vector<TrackPiece>& pieces() const { return clock_.pieces(); }
    const std::string& levels() const { return meter_.levels(); }
    // Counts how often something got onto the disk: when it changes, the library should know.
    int synced() const { return synced_; }

private:
    Recorder(std::unique_ptr<SoundWriter> writer, SoundId sound) : writer_(std::move(writer)), clock_(sound) {}

    std::unique_ptr<SoundWriter> writer_;
    TrackClock clock_;
    LoudnessMeter meter_;
    uint64_t frames_ = 0, unsynced_ = 0;
    bool paused_ = false;
    int synced_ = 0;
};

}  // namespace fernleaf
