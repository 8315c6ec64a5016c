#include "sound/track_player.h"

#include <gtest/gtest.h>

#include "sound/test_sound.h"

namespace fernleaf {
namespace {

// A sound of ten seconds whose pitch rises a hundred a second: from it a position can be heard.
class Played : public ::testing::Test {
protected:
    Played() {
        auto writer = SoundWriter::create(directory_ / "rising.wav", SoundFormat::wav);
        for (int second = 0; second < 10; ++second) EXPECT_TRUE((*writer)->write(test_tone(500 + 100 * second, 1000)));
        EXPECT_TRUE((*writer)->finish());
    }
    std::unique_ptr<SoundReader> open(SoundId sound) {
        if (sound != 1) return nullptr;
        auto reader = SoundReader::open(directory_ / "rising.wav");
        return reader ? *std::move(reader) : nullptr;
    }
    TrackPlayer player(std::vector<TrackPiece> pieces) {
        return {{1, "", std::move(pieces), {}}, [this](SoundId sound) { return open(sound); }};
    }
    static std::vector<float> some(TrackPlayer& player, int64_t ms) {
        std::vector<float> out(static_cast<size_t>(ms * kSoundRate / 1000));
        out.resize(player.read(out));
        return out;
    }

    SoundDirectory directory_;
};

TEST_F(Played, PiecesFollowOneAnother) {
    // Its last two seconds, a sound that is gone, and its third.
    TrackPlayer p = player({{1, 8000, 2000, 0}, {2, 0, 1000, 9000}, {1, 2000, 1000, 50'000}});
    EXPECT_NEAR(pitch_of(some(p, 1000)), 1300, 10);
    EXPECT_NEAR(pitch_of(some(p, 1000)), 1400, 10);
    EXPECT_NEAR(pitch_of(some(p, 1000)), 0, 1);
    EXPECT_NEAR(pitch_of(some(p, 1000)), 700, 10);
    EXPECT_TRUE(some(p, 1000).empty());
    p.seek(3000);
    EXPECT_NEAR(pitch_of(some(p, 900)), 700, 10);
    EXPECT_EQ(p.position_at(4 * kSoundRate), 3000);
}

TEST_F(Played, FasterAndSlowerKeepThePitchAndSayWhatIsHeard) {
    for (const double speed : {0.5, 1.5, 2.0}) {
        TrackPlayer p = player({{1, 0, 10'000, 0}});
        p.set_speed(speed);
        p.seek(4000);
        const auto second = static_cast<int64_t>(1000 / speed);
        const auto sound = some(p, second * 8 / 10);
        EXPECT_NEAR(pitch_of(sound), 900, 40) << speed;
        EXPECT_NEAR(static_cast<double>(p.position_at(sound.size())), 4800, 5) << speed;
        size_t left = 0;
        while (const size_t got = some(p, 1000).size()) left += got;
        EXPECT_NEAR(static_cast<double>(left), 5200 / speed * kSoundRate / 1000, kSoundRate / 10.0) << speed;
    }
}

TEST_F(Played, ChangingTheSpeedGoesOnWhereItWas) {
    TrackPlayer p = player({{1, 0, 10'000, 0}});
    uint64_t frames = some(p, 2000).size();
    p.set_speed(2);
    frames += some(p, 1000).size();
    EXPECT_NEAR(static_cast<double>(p.position_at(frames)), 4000, 5);
    p.set_speed(1);
    EXPECT_NEAR(pitch_of(some(p, 900)), 900, 20);
}

TEST_F(Played, SilenceIsLeftOutButForAMoment) {
    TrackPlayer p = player({{1, 0, 10'000, 0}});
    p.skip({{2000, 7000}});
    EXPECT_NEAR(pitch_of(some(p, 2000)), 550, 10);
    EXPECT_NEAR(pitch_of(some(p, 200)), 700, 20);
    some(p, 300);
    EXPECT_NEAR(static_cast<double>(p.position_at(kSoundRate * 5 / 2)), 7000, 25) << "a block at a time";
    EXPECT_NEAR(pitch_of(some(p, 900)), 1200, 20);
}

TEST_F(Played, ATracksLevelsAreThoseOfItsPieces) {
    const std::string levels{"\1\2\3\4\5\6\7\10\11\12", 10};
    const VoiceTrack track{1, "", {{1, 800, 200, 0}, {1, 0, 300, 5000}}, {}};
    EXPECT_EQ(track_levels(track, [&](SoundId) { return levels; }), (std::string{"\11\12\1\2\3", 5}));
}

}  // namespace
}  // namespace fernleaf
