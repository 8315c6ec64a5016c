#include "sound/loudness.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <limits>

#include "sound/test_sound.h"

namespace fernleaf {
namespace {

TEST(Loudness, IsToldInDecibels) {
    EXPECT_EQ(loudness({}), 0);
    EXPECT_EQ(loudness(std::vector<float>(100, 0)), 0);
    EXPECT_EQ(loudness(std::vector<float>(100, 1)), 255);
    // A tenth is 20 dB less, a third of the range of sixty.
    EXPECT_NEAR(loudness(std::vector<float>(100, 0.1F)), 170, 1);
    EXPECT_NEAR(loudness(std::vector<float>(100, 0.01F)), 85, 1);
    EXPECT_EQ(loudness(std::vector<float>(100, 0.0005F)), 0) << "quieter than -60 dB";
    EXPECT_EQ(loudness(std::vector<float>(10, std::numeric_limits<float>::quiet_NaN())), 0);
}

TEST(Loudness, TheMeterCountsTenthsOfASecondHoweverSamplesArrive) {
    std::vector<float> sound = test_tone(300, 1000, 0.5);
    const std::vector<float> quiet = test_tone(300, 1000, 0.01);
    sound.insert(sound.end(), quiet.begin(), quiet.end());
    LoudnessMeter whole, pieces;
    whole.add(sound);
    for (size_t at = 0; at < sound.size(); at += 777)
        pieces.add(std::span(sound).subspan(at, std::min<size_t>(777, sound.size() - at)));
    EXPECT_EQ(whole.levels().size(), 20U);
    EXPECT_EQ(whole.levels(), pieces.levels());
    EXPECT_GT(static_cast<uint8_t>(whole.levels()[5]), static_cast<uint8_t>(whole.levels()[15]) + 60);
}

TEST(Loudness, ShortSilencesAreNone) {
    std::string levels(100, '\xC8');
    std::fill_n(levels.begin() + 10, 8, '\x08');
    std::fill_n(levels.begin() + 40, 30, '\x08');
    const auto found = silences(levels, 1500);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].begin_ms, 4000);
    EXPECT_EQ(found[0].end_ms, 7000);
    EXPECT_EQ(silences(levels, 500).size(), 2U);
    EXPECT_TRUE(silences("", 500).empty());
}

}  // namespace
}  // namespace fernleaf
