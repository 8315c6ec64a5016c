#include "sound/replay.h"

#include <gtest/gtest.h>

#include "ink/test_stroke.h"

namespace fernleaf {
namespace {

// Two seconds of writing at a time.
Stroke written(StrokeId id, int64_t start_ms) {
    Stroke s;
    s.id = id;
    s.start_ms = start_ms;
    for (uint32_t i = 0; i <= 20; ++i) s.points.push_back({{static_cast<double>(i), 0}, 0.5F, 0, 0, i * 100});
    return s;
}

std::vector<const Stroke*> pointers_to(const std::vector<Stroke>& strokes) {
    std::vector<const Stroke*> out;
    for (const Stroke& s : strokes) out.push_back(&s);
    return out;
}

TEST(Replay, GoesInTheOrderOfWritingWithPausesCut) {
    const std::vector<Stroke> strokes{written(1, 500'000), written(2, 100'000), written(3, 102'300)};
    const Replay replay = replay_of(pointers_to(strokes), 400);
    ASSERT_EQ(replay.strokes.size(), 3U);
    EXPECT_EQ(replay.strokes[0], (ReplayStroke{1, 0, 2000}));
    EXPECT_EQ(replay.strokes[1], (ReplayStroke{2, 2300, 4300})) << "a short pause stays as it was";
    EXPECT_EQ(replay.strokes[2], (ReplayStroke{0, 4700, 6700}));
    EXPECT_EQ(replay.length_ms, 6700);
}

TEST(Replay, InkWithoutTimesIsWrittenEvenlyInTheOrderOfItsIds) {
    std::vector<Stroke> strokes{written(9, 0), written(4, 0)};
    for (Stroke& s : strokes)
        for (InkPoint& p : s.points.change()) p.time_ms = 0;
    const Replay replay = replay_of(pointers_to(strokes));
    EXPECT_EQ(replay.strokes[0].index, 1U);
    EXPECT_GT(replay.strokes[0].end_ms, 200);
    EXPECT_GT(replay.strokes[1].begin_ms, replay.strokes[0].end_ms);
    const ReplayStroke& first = replay.strokes[0];
    EXPECT_NEAR(static_cast<double>(points_written(strokes[1], first, first.end_ms / 2)), 10, 1);
}

TEST(Replay, OnATracksClockWhatWasThereBeforeIsThereAndWhatCameAfterNeverComes) {
    const VoiceTrack track{1, "", {{1, 0, 60'000, 1'000'000}, {1, 60'000, 60'000, 2'000'000}}, {}};
    const std::vector<Stroke> strokes{written(1, 10'000),    written(2, 1'030'000), written(3, 1'500'000),
                                      written(4, 2'010'000), written(5, 3'000'000), written(6, 0)};
    const Replay replay = replay_of(pointers_to(strokes), track);
    EXPECT_EQ(replay.length_ms, 120'000);
    EXPECT_EQ(replay.strokes[0], (ReplayStroke{5, kAlwaysThere, kAlwaysThere}));
    EXPECT_EQ(replay.strokes[1], (ReplayStroke{0, kAlwaysThere, kAlwaysThere}));
    EXPECT_EQ(replay.strokes[2], (ReplayStroke{1, 30'000, 32'000}));
    EXPECT_EQ(replay.strokes[3], (ReplayStroke{2, 60'000, 60'000})) << "written in the pause, there when it goes on";
    EXPECT_EQ(replay.strokes[4], (ReplayStroke{3, 70'000, 72'000}));
    EXPECT_GT(replay.strokes[5].begin_ms, replay.length_ms);
}

TEST(Replay, AStrokeGrowsWhileItIsWritten) {
    const Stroke s = written(1, 5);
    const ReplayStroke when{0, 1000, 3000};
    EXPECT_EQ(points_written(s, when, 999), 0U);
    EXPECT_EQ(points_written(s, when, 1000), 1U);
    EXPECT_EQ(points_written(s, when, 2000), 11U);
    EXPECT_EQ(points_written(s, when, 3000), 21U);
}

}  // namespace
}  // namespace fernleaf
