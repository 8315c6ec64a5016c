#include "sound/track_clock.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

namespace fernleaf {
namespace {

constexpr int64_t kBegan = 1'790'000'000'000;

// Two hours from a device that runs a little fast and hands chunks over 0 to 60 ms late.
TEST(TrackClock, AFastQuartzAndLateChunksAreOffByLessThanTwentyMillisecondsInTwoHours) {
    std::mt19937 random(3);
    std::exponential_distribution<double> late(1 / 12.0);
    for (const double fast : {1 + 60e-6, 1 - 60e-6}) {
        TrackClock clock(1);
        for (int64_t end = 40; end <= 7'200'000; end += 40)
            clock.arrived(40, end,
                          kBegan + std::llround(static_cast<double>(end) / fast + std::min(60.0, late(random))));
        const VoiceTrack track{1, "", clock.pieces(), {}};
        EXPECT_LT(track.pieces.size(), 200U);
        EXPECT_EQ(length_ms(track), 7'200'000);
        for (int64_t position = 0; position < 7'200'000; position += 777) {
            const double heard = static_cast<double>(kBegan) + static_cast<double>(position) / fast;
            ASSERT_NEAR(static_cast<double>(when_at(track, position)), heard, 20) << position;
        }
    }
}

TEST(TrackClock, APauseIsABreak) {
    TrackClock clock(4);
    for (int64_t end = 100; end <= 10'000; end += 100) clock.arrived(100, end, kBegan + end);
    clock.pause();
    for (int64_t end = 10'100; end <= 20'000; end += 100) clock.arrived(100, end, kBegan + 300'000 + end);
    ASSERT_EQ(clock.pieces().size(), 2U);
    EXPECT_EQ(clock.pieces()[0], (TrackPiece{4, 0, 10'000, kBegan}));
    EXPECT_EQ(clock.pieces()[1], (TrackPiece{4, 10'000, 10'000, kBegan + 310'000}));
}

TEST(TrackClock, SoundThatWentMissingAndAClockThatWasSetAreBreaks) {
    TrackClock clock(4);
    for (int64_t end = 100; end <= 3000; end += 100) clock.arrived(100, end, kBegan + end);
    for (int64_t end = 3100; end <= 6000; end += 100) clock.arrived(100, end, kBegan + 60'000 + end);
    for (int64_t end = 6100; end <= 9000; end += 100) clock.arrived(100, end, kBegan - 3'600'000 + end);
    const VoiceTrack track{1, "", clock.pieces(), {}};
    ASSERT_EQ(track.pieces.size(), 3U);
    EXPECT_EQ(when_at(track, 4000), kBegan + 64'000);
    EXPECT_EQ(when_at(track, 7000), kBegan - 3'593'000);
}

}  // namespace
}  // namespace fernleaf
