#include "sound/track_player.h"

#include <rubberband/RubberBandStretcher.h>

#include <algorithm>
#include <cmath>

namespace fernleaf {
namespace {

using RubberBand::RubberBandStretcher;

constexpr size_t kBlock = 1024;  // frames given to the stretcher at a time
constexpr size_t kMostMarks = 4096;
constexpr int64_t kKeptOfSilenceMs = 250;  // so that sentences don't run into each other
constexpr double kFramesPerMs = kSoundRate / 1000.0;

uint64_t frames_of(int64_t ms) { return static_cast<uint64_t>(std::max<int64_t>(0, ms)) * kSoundRate / 1000; }

}  // namespace

TrackPlayer::TrackPlayer(VoiceTrack track, Opener opener) : track_(std::move(track)), opener_(std::move(opener)) {
    piece_ = track_.pieces.size();
    mark();
}

TrackPlayer::~TrackPlayer() = default;

void TrackPlayer::mark() {
    marks_.push_back({given_, static_cast<double>(position_) / kFramesPerMs, speed_});
    if (marks_.size() > kMostMarks) marks_.pop_front();
}

void TrackPlayer::seek(int64_t position_ms) {
    position_ = frames_of(std::clamp<int64_t>(position_ms, 0, length_ms(track_)));
    piece_ = track_.pieces.size();
    ended_ = false;
    if (stretcher_) {
        stretcher_->reset();
        delay_ = stretcher_->getLatency();
    }
    mark();
}

void TrackPlayer::set_speed(double speed) {
    // What the stretcher holds has been read but not given.
    const int64_t at = position_at(given_);
    speed_ = std::clamp(speed, kSlowest, kFastest);
    if (std::abs(speed_ - 1) < 1e-3) {
        speed_ = 1;
        stretcher_.reset();
    } else {
        if (!stretcher_)
            stretcher_ = std::make_unique<RubberBandStretcher>(
                kSoundRate, 1, RubberBandStretcher::OptionProcessRealTime | RubberBandStretcher::OptionThreadingNever);
        stretcher_->setMaxProcessSize(kBlock);
        stretcher_->setTimeRatio(1 / speed_);
    }
    seek(at);
}

void TrackPlayer::skip(std::vector<Silence> silences) { skipped_ = std::move(silences); }

int64_t TrackPlayer::position_at(uint64_t frame) const {
    const auto next = std::ranges::upper_bound(marks_, frame, {}, &Mark::frame);
    const Mark& m = next == marks_.begin() ? marks_.front() : *std::prev(next);
    const auto since = static_cast<double>(std::max(frame, m.frame) - m.frame) / kFramesPerMs;
    return std::min(static_cast<int64_t>(m.position_ms + since * m.speed), length_ms(track_));
}

size_t TrackPlayer::read_track(std::span<float> out) {
    size_t done = 0;
    while (done < out.size()) {
        uint64_t begin = 0;
        size_t piece = 0;
        while (piece < track_.pieces.size() && position_ >= begin + frames_of(track_.pieces[piece].length_ms))
            begin += frames_of(track_.pieces[piece++].length_ms);
        if (piece == track_.pieces.size()) break;
        const TrackPiece& p = track_.pieces[piece];
        auto& reader = readers_[p.sound];
        if (piece != piece_) {
            const bool goes_on = piece > 0 && piece == piece_ + 1 && position_ == begin &&
                                 track_.pieces[piece_].sound == p.sound &&
                                 track_.pieces[piece_].from_ms + track_.pieces[piece_].length_ms == p.from_ms;
            piece_ = piece;
            if (!reader) reader = opener_(p.sound);
            if (reader && !goes_on)
                reader->seek(p.from_ms + static_cast<int64_t>(static_cast<double>(position_ - begin) / kFramesPerMs));
        }
        const auto left = static_cast<size_t>(begin + frames_of(p.length_ms) - position_);
        const std::span<float> part = out.subspan(done, std::min(left, out.size() - done));
        const size_t got = reader ? reader->read(part) : 0;
        std::ranges::fill(part.subspan(got), 0.0F);  // a file that is gone or shorter than it was said to be
        position_ += part.size(), done += part.size();
    }
    return done;
}

size_t TrackPlayer::read(std::span<float> out) {
    size_t done = 0;
    while (done < out.size()) {
        if (!skipped_.empty()) {
            const auto now = static_cast<int64_t>(static_cast<double>(position_) / kFramesPerMs);
            for (const Silence& s : skipped_) {
                if (now < s.begin_ms + kKeptOfSilenceMs || now >= s.end_ms - kKeptOfSilenceMs) continue;
                // What the stretcher still holds is of the same silence.
                seek(s.end_ms - kKeptOfSilenceMs);
                break;
            }
        }
        const std::span<float> rest = out.subspan(done);
        size_t got = 0;
        if (!stretcher_) {
            got = read_track(rest.first(std::min(rest.size(), kBlock)));
            if (got == 0) break;
        } else {
            const int ready = stretcher_->available();
            if (ready > 0) {
                got = std::min(rest.size(), static_cast<size_t>(ready));
                const size_t late = std::min(got, delay_);
                float* to[] = {rest.data()};
                if (late > 0) got = late;
                stretcher_->retrieve(to, got);
                if (late > 0) {
                    delay_ -= late;
                    continue;
                }
            } else if (ended_ || ready < 0) {
                break;
            } else {
                input_.resize(kBlock);
                const size_t some = read_track(input_);
                ended_ = some < kBlock;
                const float* from[] = {input_.data()};
                stretcher_->process(from, some, ended_);
                continue;
            }
        }
        done += got, given_ += got;
    }
    return done;
}

namespace {

// For each piece: its number, its begin as a position, and its sound's levels.
template <typename F>
void for_pieces(const VoiceTrack& track, const std::function<std::string(SoundId)>& levels, F&& f) {
    std::map<SoundId, std::string> known;
    int64_t begin = 0;
    for (const TrackPiece& p : track.pieces) {
        const auto [found, fresh] = known.try_emplace(p.sound);
        if (fresh) found->second = levels(p.sound);
        f(p, begin, found->second);
        begin += p.length_ms;
    }
}

}  // namespace

std::string track_levels(const VoiceTrack& track, const std::function<std::string(SoundId)>& levels) {
    std::string out(static_cast<size_t>(length_ms(track) / kLoudnessMs), '\0');
    for_pieces(track, levels, [&](const TrackPiece& p, int64_t begin, const std::string& of_sound) {
        for (int64_t at = (begin + kLoudnessMs - 1) / kLoudnessMs; at * kLoudnessMs < begin + p.length_ms; ++at) {
            const auto in_sound = static_cast<size_t>((p.from_ms + at * kLoudnessMs - begin) / kLoudnessMs);
            if (in_sound < of_sound.size() && at < static_cast<int64_t>(out.size()))
                out[static_cast<size_t>(at)] = of_sound[in_sound];
        }
    });
    return out;
}

}  // namespace fernleaf
