#include "sound/track_clock.h"

#include <algorithm>
#include <cstdlib>

namespace fernleaf {
namespace {

constexpr int64_t kWindowMs = 5000;
constexpr int64_t kCorrectedMs = 6;  // smaller errors are left
constexpr int64_t kTornMs = 800;     // later than that, sound is missing; earlier, the computer's clock was set

}  // namespace

void TrackClock::begin_piece(int64_t from_ms, int64_t offset) {
    offset_ = offset;
    pieces_.push_back({sound_, from_ms, 0, from_ms + offset});
}

void TrackClock::arrived(int64_t length_ms, int64_t end_ms, int64_t now_ms) {
    const int64_t offset = now_ms - end_ms, from = end_ms - length_ms;
    const bool torn = !pieces_.empty() && std::abs(offset - offset_) > kTornMs;
    if (paused_ || torn) {
        paused_ = false;
        begin_piece(from, offset);
        first_window_ = true;
        window_began_ = from;
        earliest_ = offset;
    }
    earliest_ = std::min(earliest_, offset);
    TrackPiece& piece = pieces_.back();
    piece.length_ms = end_ms - piece.from_ms;
    if (first_window_ && earliest_ < offset_) {
        offset_ = earliest_;
        piece.began_ms = piece.from_ms + offset_;
    }
    if (end_ms - window_began_ < kWindowMs) return;
    if (!first_window_ && std::abs(earliest_ - offset_) >= kCorrectedMs) begin_piece(end_ms, earliest_);
    first_window_ = false;
    window_began_ = end_ms;
    earliest_ = std::numeric_limits<int64_t>::max();
}

}  // namespace fernleaf
