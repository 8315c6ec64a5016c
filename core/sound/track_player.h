// Plays a voice track into buffers: its pieces one after the other, faster or slower at the same pitch (Rubber Band),
// with silence left out where that is asked for. Knows no device: what it gives is heard later, so it tells which
// position of the track each frame of its output is of. Holds a few seconds of sound at most. One thread at a time.
//
//   player.seek(12'000);
//   size_t got = player.read(buffer);                        // fewer than asked: the end
//   int64_t heard = player.position_at(frames_heard);        // counted since the beginning
#pragma once

#include <deque>
#include <functional>
#include <map>
#include <memory>
#include <span>
#include <vector>

#include "sound/sound_file.h"
#include "sound/voice_track.h"

namespace RubberBand {
class RubberBandStretcher;
}

namespace fernleaf {

constexpr double kSlowest = 0.5, kFastest = 2;

class TrackPlayer {
public:
    // Gives a sound file's reader, or nothing where it is gone: then there is silence.
    using Opener = std::function<std::unique_ptr<SoundReader>(SoundId)>;

    TrackPlayer(VoiceTrack track, Opener opener);
    ~TrackPlayer();

    const VoiceTrack& track() const { return track_; }
    void seek(int64_t position_ms);
    void set_speed(double speed);  // brought within kSlowest and kFastest
    // Silences of the track, in positions; they are left out but for a moment. Empty: nothing is left out.
    void skip(std::vector<Silence> silences);
    size_t read(std::span<float> out);
    // Of a frame of the output, counted from the first that read() ever gave.
    int64_t position_at(uint64_t frame) const;

private:
    struct Mark {
        uint64_t frame = 0;
        double position_ms = 0, speed = 1;
    };
    size_t read_track(std::span<float> out);  // at the track's own speed
    void mark();

    VoiceTrack track_;
    Opener opener_;
    std::map<SoundId, std::unique_ptr<SoundReader>> readers_;
    std::vector<Silence> skipped_;
    std::unique_ptr<RubberBand::RubberBandStretcher> stretcher_;  // none: at the track's own speed
    size_t delay_ = 0;                                            // frames that the stretcher gives first
    double speed_ = 1;
    uint64_t position_ = 0;  // frames of the track that were read
    size_t piece_ = 0;       // whose reader stands at position_; the number of pieces: none
    uint64_t given_ = 0;
    bool ended_ = false;
    std::deque<Mark> marks_;
    std::vector<float> input_;
};

// A track's loudness from its beginning to its end.
std::string track_levels(const VoiceTrack& track, const std::function<std::string(SoundId)>& levels);

}  // namespace fernleaf
