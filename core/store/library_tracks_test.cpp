#include <gtest/gtest.h>

#include <fstream>

#include "sound/recorder.h"
#include "sound/test_sound.h"
#include "store/library.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

class Tracks : public ::testing::Test {
protected:
    // A second of sound a call, kept as the window keeps it.
    NewRecording recorded(int seconds, int64_t began_ms = kHeardMs) {
        const auto recording = library_->begin_recording("Walk");
        EXPECT_TRUE(recording);
        auto recorder = Recorder::begin(recording->path, recording->sound);
        EXPECT_TRUE(recorder);
        for (int i = 1; i <= seconds; ++i) {
            EXPECT_TRUE((*recorder)->take(test_tone(300, 1000), began_ms + 1000 * i));
            EXPECT_TRUE(library_->keep_recording(*recording, (*recorder)->pieces(), (*recorder)->levels(), false));
        }
        EXPECT_TRUE((*recorder)->finish());
        EXPECT_TRUE(library_->keep_recording(*recording, (*recorder)->pieces(), (*recorder)->levels(), true));
        return *recording;
    }

    void change(const std::string& sql) {
        library_.library.reset();
        {
            auto db = Database::open(library_.directory / "library.db", Database::Mode::change);
            ASSERT_TRUE(db);
            (*db)->execute(sql);
            ASSERT_TRUE((*db)->take_status());
        }
        library_.reopen();
    }

    TemporaryLibrary library_;
};

TEST_F(Tracks, ARecordingIsThereAfterOpeningAgain) {
    const NewRecording recording = recorded(3);
    library_.reopen();
    const auto tracks = library_->tracks();
    ASSERT_TRUE(tracks);
    ASSERT_EQ(tracks->size(), 1U);
    EXPECT_EQ((*tracks)[0], (VoiceTrack{recording.track, "Walk", {{recording.sound, 0, 3000, kHeardMs}}, {}}));
    EXPECT_EQ(library_->sound_levels(recording.sound)->size(), 30U);
    EXPECT_TRUE(SoundReader::open(*library_->sound_file(recording.sound)));
    EXPECT_TRUE(library_->check()->empty());
}

TEST_F(Tracks, ARecordingOfNothingLeavesNothing) {
    const NewRecording recording = recorded(0);
    EXPECT_TRUE(library_->tracks()->empty());
    EXPECT_FALSE(std::filesystem::exists(recording.path));
}

TEST_F(Tracks, TrimmedJoinedAndNamedTheSoundStays) {
    const NewRecording one = recorded(4), two = recorded(2, kHeardMs + 60'000);
    VoiceTrack track = trimmed((*library_->tracks())[1], 1000, 3000);
    track.name = "Gauges";
    track.bookmarks = {{kHeardMs + 1500, "pump"}};
    ASSERT_TRUE(library_->change_track(track));
    ASSERT_TRUE(library_->join_tracks(one.track, two.track));
    auto tracks = *library_->tracks();
    ASSERT_EQ(tracks.size(), 1U);
    EXPECT_EQ(tracks[0].name, "Gauges");
    EXPECT_EQ(tracks[0].pieces, (std::vector<TrackPiece>{{one.sound, 1000, 2000, kHeardMs + 1000},
                                                         {two.sound, 0, 2000, kHeardMs + 60'000}}));
    EXPECT_EQ(tracks[0].bookmarks.size(), 1U);
    // The one that was joined lies in the bin; emptied, its sound is still needed.
    ASSERT_EQ(library_->bin()->size(), 1U);
    ASSERT_TRUE(library_->empty_bin());
    EXPECT_TRUE(std::filesystem::exists(two.path));
    EXPECT_FALSE(library_->join_tracks(one.track, one.track));
    EXPECT_FALSE(library_->change_track({999, "nowhere", {}, {}}));
}

TEST_F(Tracks, FromTheBinTheyComeBackAndEmptiedTheirFilesGo) {
    const NewRecording one = recorded(1);
    ASSERT_TRUE(library_->bin_track(one.track));
    EXPECT_TRUE(library_->tracks()->empty());
    EXPECT_EQ((*library_->bin())[0].track, one.track);
    ASSERT_TRUE(library_->restore_track(one.track));
    EXPECT_EQ(library_->tracks()->size(), 1U);
    ASSERT_TRUE(library_->bin_track(one.track));
    ASSERT_TRUE(library_->empty_bin());
    EXPECT_FALSE(std::filesystem::exists(one.path));
    EXPECT_FALSE(library_->sound_file(one.sound));
}

TEST_F(Tracks, ASoundFromElsewhereIsCopied) {
    const SoundDirectory directory;
    auto writer = SoundWriter::create(directory / "Gauges.WAV", SoundFormat::wav);
    ASSERT_TRUE((*writer)->write(test_tone(300, 2000)));
    ASSERT_TRUE((*writer)->finish());
    const auto track = library_->add_track("Gauges", directory / "Gauges.WAV", "abc", 2000, kHeardMs);
    ASSERT_TRUE(track) << track.error().message;
    EXPECT_TRUE(std::filesystem::exists(directory / "Gauges.WAV"));
    EXPECT_TRUE(SoundReader::open(*library_->sound_file((*library_->tracks())[0].pieces[0].sound)));
    EXPECT_FALSE(library_->add_track("None", directory / "missing.wav", "", 1, 1));
    EXPECT_EQ(library_->tracks()->size(), 1U);
}

TEST_F(Tracks, DamagedOnesAreToldAndLeftOut) {
    const NewRecording one = recorded(1), two = recorded(1);
    std::filesystem::remove(two.path);
    change("UPDATE track SET pieces = '[[1,2]]' WHERE id = " + std::to_string(one.track));
    EXPECT_EQ(library_->tracks()->size(), 1U);
    const auto wrong = library_->check();
    ASSERT_TRUE(wrong);
    EXPECT_EQ(wrong->size(), 2U);
    change("UPDATE sound SET file = '../library.db' WHERE id = " + std::to_string(two.sound));
    EXPECT_FALSE(library_->sound_file(two.sound));
}

}  // namespace
}  // namespace fernleaf
