#include "sound/recorder.h"

#include <gtest/gtest.h>

#include <cmath>
#include <filesystem>
#include <numbers>

#include "sound/test_sound.h"

namespace fernleaf {
namespace {

TEST(Recorder, WritesWhatItHearsWithItsTimesAndLeavesPausesOut) {
    const SoundDirectory directory;
    auto recorder = Recorder::begin(directory / "walk.opus", 3);
    ASSERT_TRUE(recorder);
    const std::vector<float> tone = test_tone(440, 100);
    int64_t now = kHeardMs;
    for (int i = 0; i < 30; ++i) ASSERT_TRUE((*recorder)->take(tone, now += 100));
    (*recorder)->pause(true);
    for (int i = 0; i < 30; ++i) ASSERT_TRUE((*recorder)->take(tone, now += 100));
    (*recorder)->pause(false);
    for (int i = 0; i < 10; ++i) ASSERT_TRUE((*recorder)->take(tone, now += 100));
    EXPECT_EQ((*recorder)->length_ms(), 4000);
    EXPECT_EQ((*recorder)->pieces(),
              (std::vector<TrackPiece>{{3, 0, 3000, kHeardMs}, {3, 3000, 1000, kHeardMs + 6000}}));
    EXPECT_EQ((*recorder)->levels().size(), 40U);
    EXPECT_EQ((*recorder)->synced(), 8);
    ASSERT_TRUE((*recorder)->finish());
    const auto sound = heard(directory / "walk.opus");
    ASSERT_TRUE(sound) << sound.error().message;
    EXPECT_NEAR(static_cast<double>(sound->length_ms), 4000, 30);
    EXPECT_NEAR(static_cast<uint8_t>(sound->levels[20]), static_cast<uint8_t>((*recorder)->levels()[20]), 6);
}

// What a kill leaves is what was on disk then.
TEST(Recorder, AKillLosesLessThanASecond) {
    const SoundDirectory directory;
    auto recorder = Recorder::begin(directory / "walk.opus", 3);
    ASSERT_TRUE(recorder);
    const std::vector<float> tone = test_tone(440, 50);
    for (int i = 1; i <= 400; ++i) ASSERT_TRUE((*recorder)->take(tone, kHeardMs + 50 * i));
    std::filesystem::copy_file(directory / "walk.opus", directory / "left.opus");
    const auto left = heard(directory / "left.opus");
    ASSERT_TRUE(left) << left.error().message;
    EXPECT_GT(left->length_ms, 19'000);
    EXPECT_LE(left->length_ms, 20'000);
    // Cut within a page: what stands before is there.
    std::filesystem::resize_file(directory / "left.opus", std::filesystem::file_size(directory / "left.opus") - 777);
    const auto cut = heard(directory / "left.opus");
    ASSERT_TRUE(cut) << cut.error().message;
    EXPECT_GT(cut->length_ms, 18'000);
}

TEST(Recorder, WhereNothingCanBeWrittenItSaysSo) {
    EXPECT_FALSE(Recorder::begin("/nowhere/at/all.opus", 1));
    if (!std::filesystem::exists("/dev/full")) return;
    auto recorder = Recorder::begin("/dev/full", 1);
    if (!recorder) return;  // told at once
    bool told = false;
    const std::vector<float> tone = test_tone(440, 1000);
    for (int i = 0; i < 20 && !told; ++i) told = !(*recorder)->take(tone, kHeardMs + i * 1000);
    EXPECT_TRUE(told);
}

}  // namespace
}  // namespace fernleaf
