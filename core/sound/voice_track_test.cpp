#include "sound/voice_track.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

// Two minutes, a pause of ten, and one minute more; recorded into one file.
VoiceTrack paused() {
    return {7, "Walk", {{1, 0, 120'000, 1'000'000}, {1, 120'000, 60'000, 1'720'000}}, {{1'730'000, "pump"}}};
}

TEST(VoiceTrack, EveryPositionWasHeardAtATimeAndTheOtherWayRound) {
    const VoiceTrack track = paused();
    EXPECT_EQ(length_ms(track), 180'000);
    for (const int64_t position : {0, 1, 119'999, 120'000, 150'123, 179'999})
        EXPECT_EQ(position_of(track, when_at(track, position)), position);
    EXPECT_EQ(when_at(track, -5), 1'000'000);
    EXPECT_EQ(when_at(track, 999'999), 1'780'000);
    EXPECT_EQ(when_at({}, 3), 0);
}

TEST(VoiceTrack, WhatWasWrittenInAPauseHasNoSound) {
    const VoiceTrack track = paused();
    EXPECT_FALSE(position_of(track, 1'400'000));
    EXPECT_FALSE(position_of(track, 999'000));
    EXPECT_EQ(position_of(track, 999'700), 0) << "begun a moment before";
    EXPECT_EQ(position_of(track, 1'719'900), 120'000) << "nearer to what follows";
    EXPECT_EQ(position_after(track, 1'400'000), 120'000);
    EXPECT_EQ(position_after(track, 5), 0);
    EXPECT_EQ(position_after(track, 9'000'000), 180'000);
}

TEST(VoiceTrack, TrimmedItKeepsItsTimes) {
    const VoiceTrack part = trimmed(paused(), 110'000, 130'000);
    EXPECT_EQ(part.pieces, (std::vector<TrackPiece>{{1, 110'000, 10'000, 1'110'000}, {1, 120'000, 10'000, 1'720'000}}));
    EXPECT_EQ(part.bookmarks.size(), 1U);
    EXPECT_TRUE(trimmed(paused(), 0, 1000).bookmarks.empty());
    EXPECT_TRUE(trimmed(paused(), 5000, 5000).pieces.empty());
}

TEST(VoiceTrack, JoinedTheEarlierComesFirst) {
    const VoiceTrack later = shifted(paused(), 5'000'000);
    const VoiceTrack both = joined(later, paused());
    EXPECT_EQ(both.pieces.front().began_ms, 1'000'000);
    EXPECT_EQ(both.pieces.size(), 4U);
    EXPECT_EQ(both.bookmarks.size(), 2U);
    EXPECT_EQ(position_of(both, 6'000'000), 180'000);
}

}  // namespace
}  // namespace fernleaf
