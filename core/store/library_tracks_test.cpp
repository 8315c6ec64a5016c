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

TEST_F(Tracks, ANameGivenWhileItIsRecordedStays) {
    const auto recording = library_->begin_recording("Walk");
    ASSERT_TRUE(recording);
    VoiceTrack named = *library_->track(recording->track);
    named.name = "Gauges";
    named.bookmarks = {{kHeardMs + 200, "pump"}};
    ASSERT_TRUE(library_->change_track(named));
    ASSERT_TRUE(library_->keep_recording(*recording, {{recording->sound, 0, 1000, kHeardMs}}, "abc", true));
    const VoiceTrack after = *library_->track(recording->track);
    EXPECT_EQ(after.name, "Gauges");
    EXPECT_EQ(after.bookmarks, named.bookmarks);
    EXPECT_EQ(after.pieces.size(), 1U);
    EXPECT_FALSE(library_->track(4711));
}

TEST_F(Tracks, WhatWasWrittenMeanwhileIsToldInItsOrder) {
    const PageId first = library_.page(), second = library_.page("Frost watch"), gone = library_.page("Press house");
    const auto write = [&](PageId page, int64_t when) {
        Edit edit{"Write"};
        Stroke s = test_stroke(20, 30);
        s.start_ms = when;
        edit.added.strokes = {s};
        EXPECT_TRUE(library_->commit(page, edit));
        return edit.added.strokes[0].id;
    };
    write(first, kHeardMs - 1);
    const StrokeId late = write(first, kHeardMs + 5000), early = write(second, kHeardMs + 1000);
    write(second, kHeardMs + 10'001);
    write(gone, kHeardMs + 2000);
    ASSERT_TRUE(library_->bin_page(gone));
    const auto written = library_->written_between(kHeardMs, kHeardMs + 10'000);
    ASSERT_TRUE(written);
    ASSERT_EQ(written->size(), 2U);
    EXPECT_EQ((*written)[0].stroke, early);
    EXPECT_EQ((*written)[0].page, second);
    EXPECT_EQ((*written)[1].stroke, late);
    EXPECT_TRUE(library_->undo(first));
    EXPECT_EQ(library_->written_between(kHeardMs, kHeardMs + 10'000)->size(), 1U) << "what is not on the page is not";
}

TEST_F(Tracks, AMendedLibraryKeepsThem) {
    const NewRecording one = recorded(1);
    library_.library.reset();
    ASSERT_TRUE(Library::repair(library_.directory));
    library_.reopen();
    ASSERT_EQ(library_->tracks()->size(), 1U);
    EXPECT_EQ((*library_->tracks())[0].id, one.track);
    EXPECT_EQ(library_->sound_levels(one.sound)->size(), 10U);
    EXPECT_TRUE(SoundReader::open(*library_->sound_file(one.sound)));
}

TEST_F(Tracks, AReaderChangesNothing) {
    const NewRecording one = recorded(1);
    auto reader = Library::open(library_.directory);
    ASSERT_TRUE(reader && (*reader)->why_read_only());
    EXPECT_EQ((*reader)->tracks()->size(), 1U);
    EXPECT_FALSE((*reader)->begin_recording("Walk"));
    EXPECT_FALSE((*reader)->change_track((*(*reader)->tracks())[0]));
    EXPECT_FALSE((*reader)->join_tracks(one.track, 2));
    EXPECT_FALSE((*reader)->bin_track(one.track));
    EXPECT_FALSE((*reader)->restore_track(one.track));
    EXPECT_FALSE((*reader)->add_track("Walk", one.path, "", 1, 1));
    size_t files = 0;
    for ([[maybe_unused]] const auto& f : std::filesystem::directory_iterator(library_.directory / "sound")) ++files;
    EXPECT_EQ(files, 1U);
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
