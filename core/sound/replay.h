// Writing played again: when, on a clock of its own, each stroke of a page is begun and ended. The clock is that of a
// voice track, or one on which pauses are cut.
//
//   const Replay replay = replay_of(strokes);
//   for (const ReplayStroke& s : replay.strokes) draw(strokes[s.index], part_written(strokes[s.index], s, now));
#pragma once

#include <cstdint>
#include <span>
#include <vector>

#include "ink/stroke.h"
#include "sound/voice_track.h"

namespace fernleaf {

constexpr int64_t kAlwaysThere = -1;

struct ReplayStroke {
    size_t index = 0;                  // among the strokes it was made of
    int64_t begin_ms = 0, end_ms = 0;  // kAlwaysThere: there before it begins; beyond the length: not yet at its end
    friend bool operator==(const ReplayStroke&, const ReplayStroke&) = default;
};

struct Replay {
    std::vector<ReplayStroke> strokes;  // in the order of writing
    int64_t length_ms = 0;
};

// In the order and at the speed of writing, with no pause longer than that. Strokes whose times are not known are
// written in the order of their ids at an even speed.
Replay replay_of(std::span<const Stroke* const> strokes, int64_t most_pause_ms = 400);

// On a voice track's clock: what was written before it began is there, what was written after it never comes. Strokes
// without times are there.
Replay replay_of(std::span<const Stroke* const> strokes, const VoiceTrack& track);

// How many of its points are written by then: all, none, or those until that moment.
size_t points_written(const Stroke& stroke, const ReplayStroke& when, int64_t now_ms);

}  // namespace fernleaf
