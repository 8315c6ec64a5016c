#include "exchange/track_file.h"

#include <gtest/gtest.h>

#include <fstream>

#include "base/now.h"
#include "sound/test_sound.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

class TrackFile : public ::testing::Test {
protected:
    TrackFile() {
        auto writer = SoundWriter::create(directory_ / "gauges.wav", SoundFormat::wav);
        EXPECT_TRUE((*writer)->write(test_tone(400, 2000)));
        EXPECT_TRUE((*writer)->write(test_tone(800, 2000)));
        EXPECT_TRUE((*writer)->finish());
    }
    VoiceTrack imported() {
        const auto id = import_sound(*library_.library, directory_ / "gauges.wav");
        EXPECT_TRUE(id);
        return (*library_->tracks())[0];
    }

    SoundDirectory directory_;
    TemporaryLibrary library_;
};

TEST_F(TrackFile, ImportedItWasHeardUntilTheFileWasWritten) {
    const VoiceTrack track = imported();
    EXPECT_EQ(track.name, "gauges");
    ASSERT_EQ(track.pieces.size(), 1U);
    EXPECT_EQ(track.pieces[0].length_ms, 4000);
    EXPECT_EQ(library_->sound_levels(track.pieces[0].sound)->size(), 40U);
    EXPECT_NEAR(static_cast<double>(when_at(track, 4000)), static_cast<double>(now_ms()), 60'000);
}

TEST_F(TrackFile, ExportedItIsHeardAsItIsPlayed) {
    const VoiceTrack track = trimmed(imported(), 2000, 3500);
    for (const char* name : {"a.opus", "a.wav", "a.flac"}) {
        ASSERT_TRUE(export_sound(*library_.library, track, directory_ / name)) << name;
        auto reader = SoundReader::open(directory_ / name);
        ASSERT_TRUE(reader);
        EXPECT_NEAR(static_cast<double>(*(*reader)->length_ms()), 1500, 30);
        std::vector<float> samples(kSoundRate);
        ASSERT_EQ((*reader)->read(samples), samples.size());
        EXPECT_NEAR(pitch_of(samples), 800, 10) << name;
    }
}

TEST_F(TrackFile, WhatGoesWrongLeavesNothingBehind) {
    const VoiceTrack track = imported();
    EXPECT_FALSE(export_sound(*library_.library, track, directory_ / "a.txt"));
    EXPECT_FALSE(export_sound(*library_.library, track, "/nowhere/a.wav"));
    std::ofstream(directory_ / "a.wav") << "stays";
    CancelSource cancel;
    cancel.cancel();
    EXPECT_FALSE(export_sound(*library_.library, track, directory_ / "a.wav", {}, cancel.token()));
    std::string stays;
    std::ifstream(directory_ / "a.wav") >> stays;
    EXPECT_EQ(stays, "stays");
    size_t files = 0;
    for ([[maybe_unused]] const auto& f : std::filesystem::directory_iterator(directory_ / ".")) ++files;
    EXPECT_EQ(files, 2U) << "gauges.wav and a.wav";
    EXPECT_FALSE(import_sound(*library_.library, directory_ / "a.wav"));
}

}  // namespace
}  // namespace fernleaf
