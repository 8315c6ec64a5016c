#include "sound/heard_times.h"

#include <gtest/gtest.h>

#include <random>

namespace fernleaf {
namespace {

TEST(HeardTimes, TellWhatWasHeardOverAllTracks) {
    const HeardTimes heard(
        {{1, "", {{1, 0, 10'000, 100'000}, {1, 10'000, 5000, 200'000}}, {}}, {2, "", {{2, 0, 10'000, 105'000}}, {}}});
    for (const int64_t when : {99'500, 100'000, 112'000, 115'500, 200'000, 205'500})
        EXPECT_TRUE(heard.at(when)) << when;
    for (const int64_t when : {0, 99'499, 115'501, 150'000, 199'499, 205'501}) EXPECT_FALSE(heard.at(when)) << when;
    EXPECT_TRUE(heard.meets(0, 99'500));
    EXPECT_FALSE(heard.meets(116'000, 199'000)) << "between two recordings";
    EXPECT_EQ(heard.first_between(0, 300'000), 99'500);
    EXPECT_EQ(heard.first_between(110'000, 300'000), 110'000);
    EXPECT_EQ(heard.first_between(116'000, 300'000), 199'500);
    EXPECT_FALSE(heard.first_between(206'000, 300'000));
    EXPECT_FALSE(HeardTimes().at(0));
}

// What is told quickly is what every track by itself says.
TEST(HeardTimes, AgreeWithTheTracks) {
    std::mt19937 random(4);
    std::vector<VoiceTrack> tracks;
    for (int t = 0; t < 12; ++t) {
        VoiceTrack track;
        for (int p = 0; p < 5; ++p)
            track.pieces.push_back(
                {1, 0, static_cast<int64_t>(random() % 20'000), static_cast<int64_t>(random() % 1'000'000)});
        tracks.push_back(track);
    }
    const HeardTimes heard(tracks);
    for (int i = 0; i < 5000; ++i) {
        const auto when = static_cast<int64_t>(random() % 1'050'000);
        bool any = false;
        for (const VoiceTrack& t : tracks) any = any || position_of(t, when);
        ASSERT_EQ(heard.at(when), any) << when;
    }
}

}  // namespace
}  // namespace fernleaf
