#include "desk/play_thread.h"

#include <gtest/gtest.h>

#include "sound/test_sound.h"
#include "wait_until.h"

namespace fernleaf {
namespace {

// Ten seconds whose pitch rises a hundred a second: from it a position can be heard.
class PlayAhead : public ::testing::Test {
protected:
    PlayAhead() {
        auto writer = SoundWriter::create(directory_ / "rising.wav", SoundFormat::wav);
        for (int second = 0; second < 10; ++second) EXPECT_TRUE((*writer)->write(test_tone(500 + 100 * second, 1000)));
        EXPECT_TRUE((*writer)->finish());
    }
    TrackPlayer::Opener opener() {
        return [this](SoundId) {
            auto reader = SoundReader::open(directory_ / "rising.wav");
            return reader ? *std::move(reader) : nullptr;
        };
    }
    // So much as it comes; less: the end.
    static std::vector<float> pulled(PlayThread& thread, int64_t ms) {
        std::vector<float> out(static_cast<size_t>(ms * kSoundRate / 1000));
        size_t got = 0;
        EXPECT_TRUE(wait_until([&] {
            got += thread.pull(std::span(out).subspan(got));
            return got == out.size() || thread.ended();
        }));
        out.resize(got);
        return out;
    }

    SoundDirectory directory_;
    const VoiceTrack track_{1, "", {{1, 0, 10'000, 0}}, {}};
};

TEST_F(PlayAhead, OnItsThreadItIsAheadOfWhoHearsIt) {
    PlayThread thread(track_, opener());
    EXPECT_NEAR(pitch_of(pulled(thread, 900)), 500, 10);
    EXPECT_NEAR(static_cast<double>(thread.position_ms(0)), 900, 2);
    EXPECT_NEAR(static_cast<double>(thread.position_ms(kSoundRate / 10)), 800, 2) << "a tenth of a second still waits";
    pulled(thread, 9000);
    EXPECT_FALSE(thread.ended());
    EXPECT_NEAR(static_cast<double>(pulled(thread, 1000).size()), kSoundRate / 10.0, 10);
    EXPECT_TRUE(thread.ended());
    EXPECT_EQ(thread.position_ms(0), 10'000);
}

TEST_F(PlayAhead, SoughtItIsThereAtOnceAndNothingOfBeforeIsHeard) {
    PlayThread thread(track_, opener());
    pulled(thread, 500);
    for (const int64_t to : {7000, 2000, 9000, 4000}) {
        thread.seek(to);
        EXPECT_EQ(thread.position_ms(0), to);
        EXPECT_EQ(thread.position_ms(kSoundRate), to) << "what a speaker still holds is of before";
        EXPECT_NEAR(pitch_of(pulled(thread, 900)), 500 + static_cast<double>(to) / 10, 10) << to;
    }
    // Past the end, and back from there.
    thread.seek(10'000);
    EXPECT_TRUE(pulled(thread, 100).empty());
    thread.seek(3000);
    EXPECT_FALSE(thread.ended());
    EXPECT_NEAR(pitch_of(pulled(thread, 900)), 800, 10);
}

TEST_F(PlayAhead, AnotherSpeedGoesOnWhereItWas) {
    PlayThread thread(track_, opener());
    pulled(thread, 2000);
    thread.set_speed(2);
    EXPECT_NEAR(static_cast<double>(thread.position_ms(0)), 2000, 2);
    pulled(thread, 1000);
    EXPECT_NEAR(static_cast<double>(thread.position_ms(0)), 4000, 60);
    thread.set_speed(1);
    thread.seek(5000);
    EXPECT_NEAR(pitch_of(pulled(thread, 900)), 1000, 10);
}

TEST_F(PlayAhead, SilenceIsLeftOutFromNowOn) {
    PlayThread thread(track_, opener());
    thread.skip({{1000, 9000}});
    thread.seek(0);
    size_t all = 0;
    while (const size_t got = pulled(thread, 500).size()) all += got;
    EXPECT_NEAR(static_cast<double>(all) / kSoundRate, 2.5, 0.1) << "a second before, one behind, and a moment";
}

TEST_F(PlayAhead, EndsWhileNobodyPulls) {
    for (int i = 0; i < 20; ++i) PlayThread(track_, opener()).seek(i * 400);
}

}  // namespace
}  // namespace fernleaf
