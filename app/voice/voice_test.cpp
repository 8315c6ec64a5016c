// Recording and listening, with a file for a microphone and time for a speaker.
#include <QSignalSpy>

#include "base/now.h"
#include "render/text_look.h"
#include "sound/test_sound.h"
#include "voice/tracks_dialog.h"
#include "wait_until.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

// A microphone that is unplugged when it is told to be.
class LoosePlug : public SoundInput {
public:
    bool start() override {
        last = this;
        return true;
    }
    void stop() override { last = nullptr; }
    void hear(int64_t ms, int64_t arrived_ms) {
        emit heard(std::make_shared<std::vector<float>>(test_tone(300, ms)), arrived_ms);
    }
    void unplug() { emit lost(); }
    inline static LoosePlug* last = nullptr;
};

class LoosePlugs : public SoundDevices {
public:
    std::vector<SoundDevice> inputs() const override { return {{"loose", "Loose plug"}}; }
    std::unique_ptr<SoundInput> input(const QByteArray&) const override { return std::make_unique<LoosePlug>(); }
    std::unique_ptr<SoundOutput> output() const override { return stand_in_sound({})->output(); }
};

class Voice : public Window {
protected:
    void start() {
        page_ = start_with_page();
        devices_ = std::make_shared<LoosePlugs>();
        session_->recording().set_devices(devices_);
        session_->listening().set_devices(devices_);
    }
    RecordingDesk& recording() { return session_->recording(); }
    ListeningDesk& listening() { return session_->listening(); }
    void hear_until(int64_t ms) {
        for (; heard_ms_ < ms; heard_ms_ += 100) LoosePlug::last->hear(100, began_ms_ + heard_ms_ + 100);
    }
    void begin_recording(int64_t began_ms = now_ms()) {
        began_ms_ = began_ms, heard_ms_ = 0;
        LoosePlug::last = nullptr;
        recording().begin();
        WAIT_UNTIL(LoosePlug::last != nullptr);
    }
    void end_recording() {
        recording().end();
        session_->wait_idle();
    }
    Stroke stroke_at(double y, int64_t start_ms) {
        Stroke s;
        s.id = session_->editing().new_id();
        s.start_ms = start_ms;
        for (uint32_t i = 0; i <= 20; ++i) s.points.push_back({{30.0 + i, y + (i % 2) * 4}, 0.5F, 0, 0, 20 * i});
        return s;
    }
    // Ten seconds of sound; something written after two and after eight, and a line of long ago.
    void record_and_write() {
        begin_recording(kHeardMs);
        hear_until(10'000);
        end_recording();
        Elements ink;
        ink.strokes = {stroke_at(40, 1000), stroke_at(80, kHeardMs + 2000), stroke_at(120, kHeardMs + 8000)};
        written_ = ink.strokes;
        session_->editing().add(ink, "Write");
        session_->wait_idle();
        ASSERT_EQ(session_->tracks().tracks().size(), 1U);
        track_ = session_->tracks().tracks()[0].id;
    }

    PageId page_ = 0;
    std::shared_ptr<SoundDevices> devices_;
    int64_t began_ms_ = 0, heard_ms_ = 0;
    std::vector<Stroke> written_;
    TrackId track_ = 0;
};

TEST_F(Voice, WhatIsHeardIsKeptAndTheBarSaysSo) {
    ASSERT_NO_FATAL_FAILURE(start());
    QTest::keyClick(window_.get(), Qt::Key_R, Qt::ControlModifier | Qt::ShiftModifier);
    WAIT_UNTIL(LoosePlug::last != nullptr);
    EXPECT_TRUE(window_->recording_bar()->isVisible());
    began_ms_ = kHeardMs;
    hear_until(3000);
    EXPECT_EQ(window_->recording_bar()->time()->text(), "0:03");
    EXPECT_GT(recording().level(), 0.5);
    QTest::mouseClick(window_->recording_bar()->pause_button(), Qt::LeftButton);
    hear_until(5000);
    EXPECT_EQ(window_->recording_bar()->time()->text(), "0:03");
    QTest::mouseClick(window_->recording_bar()->pause_button(), Qt::LeftButton);
    hear_until(6000);
    QTest::mouseClick(window_->recording_bar()->end_button(), Qt::LeftButton);
    EXPECT_FALSE(window_->recording_bar()->isVisible());
    session_->wait_idle();
    const auto tracks = *session_->library().tracks();
    ASSERT_EQ(tracks.size(), 1U);
    ASSERT_EQ(tracks[0].pieces.size(), 2U);
    EXPECT_EQ(tracks[0].pieces[0].length_ms, 3000);
    EXPECT_EQ(tracks[0].pieces[1].began_ms, kHeardMs + 5000);
    EXPECT_TRUE(tracks[0].name.starts_with("Grafting trials"));
}

TEST_F(Voice, GoesOnAcrossPagesAndNotebooks) {
    ASSERT_NO_FATAL_FAILURE(start());
    begin_recording();
    hear_until(1000);
    session_->model().add_page();
    session_->wait_idle();
    hear_until(2000);
    end_recording();
    EXPECT_EQ(length_ms((*session_->library().tracks())[0]), 2000);
}

TEST_F(Voice, AMicrophoneThatIsUnpluggedIsToldAndWhatWasHeardIsKept) {
    ASSERT_NO_FATAL_FAILURE(start());
    QSignalSpy problems(&session_->messages(), &Messages::problem);
    begin_recording();
    hear_until(2000);
    LoosePlug::last->unplug();
    EXPECT_FALSE(recording().recording());
    session_->wait_idle();
    ASSERT_EQ(problems.count(), 1);
    EXPECT_TRUE(problems[0][0].toString().contains("disconnected"));
    EXPECT_EQ(length_ms((*session_->library().tracks())[0]), 2000);
}

TEST_F(Voice, WithoutAMicrophoneItSaysWhatToDo) {
    ASSERT_NO_FATAL_FAILURE(start());
    session_->recording().set_devices(stand_in_sound({}));
    QSignalSpy problems(&session_->messages(), &Messages::problem);
    recording().begin();
    EXPECT_FALSE(recording().recording());
    EXPECT_EQ(problems.count(), 1);
    EXPECT_TRUE(session_->library().tracks()->empty());
}

TEST_F(Voice, ClosingTheWindowKeepsWhatWasHeard) {
    ASSERT_NO_FATAL_FAILURE(start());
    begin_recording();
    hear_until(1500);
    ASSERT_NO_FATAL_FAILURE(reopen());
    EXPECT_EQ(length_ms((*session_->library().tracks())[0]), 1500);
}

TEST_F(Voice, TheStandInHearsItsFile) {
    ASSERT_NO_FATAL_FAILURE(start());
    const SoundDirectory directory;
    auto writer = SoundWriter::create(directory / "spoken.wav", SoundFormat::wav);
    ASSERT_TRUE((*writer)->write(test_tone(300, 300)));
    ASSERT_TRUE((*writer)->finish());
    recording().set_devices(stand_in_sound(directory / "spoken.wav"));
    recording().begin();
    WAIT_UNTIL(recording().length_ms() >= 700);
    end_recording();
    EXPECT_GE(length_ms((*session_->library().tracks())[0]), 700);
}

TEST_F(Voice, ASignStandsBesideWhatWasWrittenMeanwhileAndPlaysIt) {
    ASSERT_NO_FATAL_FAILURE(start());
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    const SoundSigns& signs = ink()->sound_signs();
    ASSERT_EQ(signs.count(), 2U);
    size_t lower = signs.box_px(0).top() > signs.box_px(1).top() ? 0 : 1;
    QTest::mouseClick(ink(), Qt::LeftButton, {}, signs.box_px(lower).center().toPoint());
    EXPECT_TRUE(listening().playing());
    EXPECT_NEAR(static_cast<double>(listening().position_ms()), 6000, 50) << "two seconds before it";
    EXPECT_EQ(session_->page()->strokes.size(), 3U) << "no dot was written";
    WAIT_UNTIL(listening().position_ms() > 6200);
    EXPECT_TRUE(window_->voice_strip()->isVisible());
}

TEST_F(Voice, AStrokeBegunOnASignIsWritten) {
    ASSERT_NO_FATAL_FAILURE(start());
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    Tools tools = window_->spread()->tray()->tools();
    tools.gestures = false;  // what is drawn beside words could be a proof mark
    window_->spread()->tray()->set_tools(tools);
    take(Tool::pen);
    const QPointF sign = ink()->sound_signs().box_px(0).center();
    const double scale = (ink()->width() - 44.0) / session_->page()->info.width_mm;
    const QPointF mm = (sign - QPointF(22, 22)) / scale;
    mouse_stroke({{mm.x(), mm.y()}, {mm.x() - 3, mm.y() + 14}, {mm.x() + 3, mm.y() + 16}});
    session_->wait_idle();
    EXPECT_EQ(session_->page()->strokes.size(), 4U);
    EXPECT_FALSE(listening().open());
}

TEST_F(Voice, WhatWasNotThereYetIsFaint) {
    ASSERT_NO_FATAL_FAILURE(start());
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    take(Tool::choose);
    WAIT_UNTIL(!ink()->grab().isNull());
    const auto darkness = [&](double y) {
        const QImage image = ink()->grab().toImage();
        int darkest = 255;
        for (int px = at(30, y).x(); px < at(50, y).x(); ++px)
            for (int dy = at(0, y).y(); dy < at(0, y + 4).y(); ++dy)
                darkest = std::min(darkest, qGray(image.pixel(px, dy)));
        return 255 - darkest;
    };
    listening().play_track(track_, 0);
    listening().set_playing(false);
    session_->wait_idle();
    listening().seek(5000);
    EXPECT_GT(darkness(40), 150) << "was there before";
    EXPECT_GT(darkness(80), 150) << "written by then";
    EXPECT_LT(darkness(120), 90) << "not there yet";
    listening().seek(9000);
    EXPECT_GT(darkness(120), 150);
    listening().seek(1000);
    EXPECT_LT(darkness(80), 90) << "back again";
    // Tapped, a stroke is where it goes on.
    QTest::mouseClick(ink(), Qt::LeftButton, {}, at(30, 120));
    EXPECT_NEAR(static_cast<double>(listening().position_ms()), 6000, 100);
    listening().close();
    EXPECT_GT(darkness(120), 150);
    EXPECT_FALSE(window_->voice_strip()->isVisible());
}

TEST_F(Voice, ThePageOnWhichIsWrittenIsTurnedTo) {
    ASSERT_NO_FATAL_FAILURE(start());
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    session_->model().add_page();
    session_->wait_idle();
    const PageId second = session_->page()->info.id;
    ASSERT_NE(second, page_);
    Elements ink;
    ink.strokes = {stroke_at(40, kHeardMs + 5000)};
    session_->editing().add(ink, "Write");
    session_->wait_idle();
    listening().play_track(track_, 0);
    listening().set_playing(false);
    session_->wait_idle();
    EXPECT_TRUE(session_->document().is_open(page_)) << "where the first stroke is";
    EXPECT_EQ(listening().written_at(), (std::vector<int64_t>{2000, 5000, 8000}));
    listening().seek(5500);
    session_->wait_idle();
    EXPECT_TRUE(session_->document().is_open(second));
    listening().seek(8500);
    session_->wait_idle();
    EXPECT_TRUE(session_->document().is_open(page_));
}

TEST_F(Voice, TheStripGoesFasterAndSkipsAndEnds) {
    ASSERT_NO_FATAL_FAILURE(start());
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    listening().play_track(track_, 9000);
    listening().set_speed(9);
    EXPECT_EQ(listening().speed(), 2);
    WAIT_UNTIL(!listening().playing());
    EXPECT_EQ(listening().position_ms(), 10'000);
    SoundBand* band = window_->voice_strip()->band();
    EXPECT_EQ(band->position_at(band->width() + 50), 10'000);
    QTest::mouseClick(band, Qt::LeftButton, {}, QPoint(band->width() / 2, 10));
    EXPECT_NEAR(static_cast<double>(listening().position_ms()), 5000, 60);
    QTest::keyClick(band, Qt::Key_Left);
    EXPECT_LT(listening().position_ms(), 200);
    QTest::keyClick(band, Qt::Key_Space);
    EXPECT_TRUE(listening().playing());
    QTest::keyClick(band, Qt::Key_Escape);
    EXPECT_FALSE(listening().open());
}

TEST_F(Voice, APageIsReplayedWithoutSound) {
    ASSERT_NO_FATAL_FAILURE(start());
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    QTest::keyClick(window_.get(), Qt::Key_R, Qt::AltModifier);
    ASSERT_TRUE(listening().open());
    EXPECT_EQ(listening().track(), nullptr);
    listening().set_speed(1000);
    EXPECT_EQ(listening().speed(), 64);
    EXPECT_EQ(listening().length_ms(), 2000) << "three strokes of 400 ms, pauses cut to as much";
    WAIT_UNTIL(!listening().playing());
    listening().go_to(kHeardMs + 8000);
    EXPECT_GE(listening().position_ms(), 1600);
    // What is written now is there at once, and no part of it.
    Elements ink;
    ink.strokes = {stroke_at(160, now_ms() + 1000)};
    session_->editing().add(ink, "Write");
    EXPECT_EQ(listening().replay()->strokes.front().begin_ms, kAlwaysThere);
    EXPECT_EQ(listening().length_ms(), 2000);
    // Another page is another replay.
    session_->model().add_page();
    session_->wait_idle();
    EXPECT_FALSE(listening().open());
}

TEST_F(Voice, ChangesOfATrackAreTakenBack) {
    ASSERT_NO_FATAL_FAILURE(start());
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    std::function<void()> take_back;
    QObject::connect(&session_->messages(), &Messages::undoable, window_.get(),
                     [&](const QString&, const std::function<void()>& back) { take_back = back; });
    TracksDesk& tracks = session_->tracks();
    listening().play_track(track_, 7000);
    listening().set_playing(false);
    tracks.trim(track_, 4000, 10'000);
    session_->wait_idle();
    EXPECT_EQ(listening().length_ms(), 6000);
    EXPECT_EQ(listening().position_ms(), 3000) << "what was heard last";
    take_back();
    session_->wait_idle();
    EXPECT_EQ(listening().length_ms(), 10'000);
    tracks.rename(track_, "  Gauges ");
    tracks.add_bookmark(track_, 2500, "pump");
    tracks.add_bookmark(track_, 1500, "gate");
    session_->wait_idle();
    ASSERT_EQ(tracks.tracks()[0].bookmarks.size(), 2U);
    EXPECT_EQ(tracks.tracks()[0].bookmarks[0].name, "gate");
    EXPECT_EQ(window_->voice_strip()->name()->text(), "Gauges");
    tracks.bin(track_);
    session_->wait_idle();
    EXPECT_TRUE(tracks.tracks().empty());
    EXPECT_FALSE(listening().open());
    take_back();
    session_->wait_idle();
    EXPECT_EQ(tracks.tracks().size(), 1U);
}

TEST_F(Voice, ThePersonMayTurnElsewhereUntilSomethingIsWrittenOnAnotherPage) {
    ASSERT_NO_FATAL_FAILURE(start());
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    session_->model().add_page();
    session_->wait_idle();
    const PageId second = session_->page()->info.id;
    listening().play_track(track_, 0);
    listening().set_playing(false);
    session_->wait_idle();
    EXPECT_TRUE(session_->document().is_open(page_));
    session_->open_page(second);
    session_->wait_idle();
    listening().seek(3000);
    session_->wait_idle();
    EXPECT_TRUE(session_->document().is_open(second)) << "all was written on the first, which was turned to once";
    EXPECT_EQ(listening().replay(), nullptr) << "nothing was written here meanwhile";
}

TEST_F(Voice, InkWithoutSoundHasNoSignAndASignGoesWithItsInk) {
    ASSERT_NO_FATAL_FAILURE(start());
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    EXPECT_EQ(ink()->sound_signs().count(), 2U);
    Elements more;
    more.strokes = {stroke_at(160, now_ms())};
    session_->editing().add(more, "Write");
    EXPECT_EQ(ink()->sound_signs().count(), 2U);
    Edit erase{"Erase"};
    erase.removed.strokes = {written_[2]};
    for (const Stroke& s : session_->page()->strokes)
        if (s.start_ms == written_[2].start_ms) erase.removed.strokes = {s};
    session_->editing().change(erase);
    EXPECT_EQ(ink()->sound_signs().count(), 1U);
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(ink()->sound_signs().count(), 2U);
    session_->tracks().bin(track_);
    session_->wait_idle();
    EXPECT_EQ(ink()->sound_signs().count(), 0U);
}

TEST_F(Voice, TheDialogListsTracksAndPlaysThem) {
    ASSERT_NO_FATAL_FAILURE(start());
    {
        TracksDialog empty(*session_);
        EXPECT_EQ(empty.list()->count(), 0);
        EXPECT_FALSE(empty.play_button()->isEnabled());
        EXPECT_TRUE(empty.record_button()->isEnabled());
    }
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    TracksDialog dialog(*session_);
    dialog.show();
    ASSERT_EQ(dialog.list()->count(), 1);
    EXPECT_TRUE(dialog.list()->item(0)->text().contains("0:10"));
    // Recorded while it is open, another is listed, and the one that was chosen stays chosen.
    begin_recording(kHeardMs + 3'600'000);
    hear_until(2000);
    end_recording();
    ASSERT_EQ(dialog.list()->count(), 2);
    EXPECT_EQ(dialog.list()->currentRow(), 1) << "the newest stands first";
    QTest::mouseClick(dialog.play_button(), Qt::LeftButton);
    ASSERT_TRUE(listening().track());
    EXPECT_EQ(listening().track()->id, track_);
    EXPECT_FALSE(dialog.isVisible());
}

TEST_F(Voice, TracksAreJoinedShiftedAndTakenApartAgain) {
    ASSERT_NO_FATAL_FAILURE(start());
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    begin_recording(kHeardMs + 60'000);
    hear_until(4000);
    end_recording();
    TracksDesk& tracks = session_->tracks();
    ASSERT_EQ(tracks.tracks().size(), 2U);
    const TrackId later = tracks.tracks()[0].id;
    std::function<void()> take_back;
    QObject::connect(&session_->messages(), &Messages::undoable, window_.get(),
                     [&](const QString&, const std::function<void()>& back) { take_back = back; });
    tracks.join(track_, later);
    session_->wait_idle();
    ASSERT_EQ(tracks.tracks().size(), 1U);
    EXPECT_EQ(length_ms(tracks.tracks()[0]), 14'000);
    EXPECT_EQ(tracks.tracks()[0].id, track_);
    take_back();
    session_->wait_idle();
    ASSERT_EQ(tracks.tracks().size(), 2U);
    EXPECT_EQ(length_ms(*tracks.track(track_)), 10'000);
    tracks.shift(track_, -5000);
    session_->wait_idle();
    EXPECT_EQ(when_at(*tracks.track(track_), 0), kHeardMs - 5000);
    EXPECT_EQ(ink()->sound_signs().count(), 1U) << "what was written after eight seconds is not within it now";
    take_back();
    session_->wait_idle();
    EXPECT_EQ(ink()->sound_signs().count(), 2U);
    tracks.add_bookmark(track_, 3000, "gate");
    session_->wait_idle();
    tracks.remove_bookmark(track_, tracks.track(track_)->bookmarks.front());
    session_->wait_idle();
    EXPECT_TRUE(tracks.track(track_)->bookmarks.empty());
    take_back();
    session_->wait_idle();
    EXPECT_EQ(tracks.track(track_)->bookmarks.size(), 1U);
    // What is not there can't be changed.
    QSignalSpy problems(&session_->messages(), &Messages::problem);
    tracks.rename(4711, "nowhere");
    session_->wait_idle();
    EXPECT_EQ(problems.count(), 1);
}

TEST_F(Voice, SoundIsMatchedToInkByEar) {
    ASSERT_NO_FATAL_FAILURE(start());
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    VoiceStrip* strip = window_->voice_strip();
    listening().play_track(track_, 4000);
    listening().set_playing(false);
    session_->wait_idle();
    EXPECT_FALSE(strip->match_row()->isVisible());
    choose_in_menu(strip->more_button(), "Match sound to ink …");
    ASSERT_TRUE(strip->match_row()->isVisible());
    EXPECT_FALSE(strip->keep_button()->isEnabled());
    // What was written two seconds after the sound's beginning is said to be heard after four.
    QTest::mouseClick(ink(), Qt::LeftButton, {}, at(40, 82));
    EXPECT_EQ(listening().tried_shift_ms(), -2000);
    EXPECT_TRUE(strip->shift()->text().contains("earlier")) << strip->shift()->text().toStdString();
    session_->wait_idle();
    EXPECT_EQ(listening().position_ms(), 4000) << "what is heard stays";
    EXPECT_EQ(listening().written_at(), (std::vector<int64_t>{4000, 10'000}));
    EXPECT_EQ(when_at(*session_->tracks().track(track_), 0), kHeardMs) << "nothing is kept yet";
    QTest::mouseClick(strip->cancel_button(), Qt::LeftButton);
    session_->wait_idle();
    EXPECT_EQ(listening().written_at(), (std::vector<int64_t>{2000, 8000}));
    EXPECT_FALSE(strip->match_row()->isVisible());
    choose_in_menu(strip->more_button(), "Match sound to ink …");
    for (QPushButton* b : strip->match_row()->findChildren<QPushButton*>())
        if (b->text().startsWith("+1")) QTest::mouseClick(b, Qt::LeftButton);
    QTest::mouseClick(strip->keep_button(), Qt::LeftButton);
    session_->wait_idle();
    EXPECT_EQ(when_at(*session_->tracks().track(track_), 0), kHeardMs + 1000);
    EXPECT_TRUE(listening().open());
    EXPECT_FALSE(listening().matching());
    EXPECT_EQ(listening().position_ms(), 4000);
}

TEST_F(Voice, WhatIsSetInTypeFromInkWithSoundHasItsSign) {
    ASSERT_NO_FATAL_FAILURE(start());
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    Edit set{"Set in type"};
    set.removed.strokes = {written_[1]};
    TextBlock block;
    block.id = session_->editing().new_id();
    block.at = {30, 80};
    block.width_mm = 60;
    block.paragraphs = {{}};
    block.ink = {written_[1].id};
    set.added.texts = {block};
    session_->editing().change(set);
    EXPECT_EQ(ink()->sound_signs().count(), 2U);
    // The same on a page that is opened.
    const PageId page = session_->page()->info.id;
    session_->wait_idle();
    session_->model().add_page();
    session_->wait_idle();
    EXPECT_EQ(ink()->sound_signs().count(), 0U);
    session_->open_page(page);
    session_->wait_idle();
    WAIT_UNTIL(ink()->sound_signs().count() == 2);
}

TEST_F(Voice, WhatIsSetInTypeIsPlayedAsItsInkAndIsThereAfterwards) {
    ASSERT_NO_FATAL_FAILURE(start());
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    take(Tool::choose);
    WAIT_UNTIL(!ink()->grab().isNull());
    Edit set{"Set in type"};
    set.removed.strokes = {written_[1]};
    TextBlock block;
    block.id = session_->editing().new_id();
    block.at = {30, 78};
    block.width_mm = 60;
    block.paragraphs = {{}};
    block.paragraphs[0].runs = {{"MMMMM"}};
    block.ink = {written_[1].id};
    lay_out(block);
    set.added.texts = {block};
    session_->editing().change(set);
    session_->wait_idle();
    listening().play_track(track_, 0);
    listening().set_playing(false);
    session_->wait_idle();
    ASSERT_EQ(listening().made().size(), 1U);
    EXPECT_EQ(listening().made()[0].element, block.id);
    const auto picture = [&] { return ink()->grab(QRect(at(28, 76), at(60, 88))).toImage(); };
    listening().seek(1000);
    const QImage before = picture();
    listening().seek(2200);
    const QImage while_written = picture();
    EXPECT_NE(before, while_written) << "its ink grows";
    listening().seek(5000);
    const QImage set_in_type = picture();
    EXPECT_NE(while_written, set_in_type);
    listening().seek(1000);
    EXPECT_EQ(picture(), before);
    listening().close();
    EXPECT_NE(picture(), before);
}

TEST_F(Voice, SoundGoesOutAndComesInAsFiles) {
    ASSERT_NO_FATAL_FAILURE(start());
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    const SoundDirectory directory;
    TracksDesk& tracks = session_->tracks();
    QSignalSpy notices(&session_->messages(), &Messages::notice);
    QSignalSpy problems(&session_->messages(), &Messages::problem);
    tracks.export_track(track_, QString::fromStdString((directory / "walk.flac").string()));
    session_->wait_idle();
    ASSERT_EQ(notices.count(), 1);
    EXPECT_TRUE(notices[0][0].toString().contains("walk.flac"));
    tracks.export_page(track_, page_, QString::fromStdString((directory / "walk.html").string()));
    session_->wait_idle();
    EXPECT_TRUE(std::filesystem::exists(directory / "walk.html"));
    tracks.import_sound(QString::fromStdString((directory / "walk.flac").string()));
    session_->wait_idle();
    ASSERT_EQ(tracks.tracks().size(), 2U);
    EXPECT_EQ(problems.count(), 0);
    tracks.import_sound(QString::fromStdString((directory / "walk.html").string()));
    session_->wait_idle();
    EXPECT_EQ(problems.count(), 1) << "a page is no sound";
    EXPECT_EQ(tracks.tracks().size(), 2U);
    tracks.export_track(track_, "/nowhere/walk.opus");
    session_->wait_idle();
    EXPECT_EQ(problems.count(), 2);
}

TEST_F(Voice, TheStripsMenusDoWhatTheySay) {
    ASSERT_NO_FATAL_FAILURE(start());
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    VoiceStrip* strip = window_->voice_strip();
    listening().play_track(track_, 4000);
    listening().set_playing(false);
    session_->wait_idle();
    choose_in_menu(strip->speed_button(), QLocale().toString(1.5) + " ×");
    EXPECT_EQ(listening().speed(), 1.5);
    EXPECT_FALSE(listening().skips_silence());
    QTest::mouseClick(strip->skip_button(), Qt::LeftButton);
    EXPECT_TRUE(listening().skips_silence());
    QTest::mouseClick(strip->play_button(), Qt::LeftButton);
    EXPECT_TRUE(listening().playing());
    QTest::mouseClick(strip->play_button(), Qt::LeftButton);
    EXPECT_FALSE(listening().playing());
    listening().seek(4000);
    choose_in_menu(strip->more_button(), "Trim everything before this moment");
    session_->wait_idle();
    EXPECT_EQ(listening().length_ms(), 6000);
    EXPECT_EQ(listening().position_ms(), 0);
    choose_in_menu(strip->more_button(), "Move to the bin");
    session_->wait_idle();
    EXPECT_FALSE(strip->isVisible());
    // From the bin it comes back as pages do.
    session_->model().restore(*session_->library().bin());
    session_->wait_idle();
    EXPECT_EQ(session_->tracks().tracks().size(), 1U);
}

TEST_F(Voice, TheDarkSchemeReachesTheBars) {
    ASSERT_NO_FATAL_FAILURE(start());
    ASSERT_NO_FATAL_FAILURE(record_and_write());
    listening().play_track(track_, 0);
    listening().set_playing(false);
    begin_recording();
    hear_until(200);
    const auto ground = [&](QWidget* bar) { return bar->grab().toImage().pixelColor(3, bar->height() / 2); };
    const QColor strip = ground(window_->voice_strip()), bar = ground(window_->recording_bar());
    EXPECT_EQ(bar, theme().unsure);
    window_->set_dark(true);
    EXPECT_NE(ground(window_->voice_strip()), strip);
    EXPECT_EQ(ground(window_->recording_bar()), theme().unsure);
    end_recording();
}

TEST_F(Voice, InALibraryThatIsReadOnlyNothingIsRecorded) {
    ASSERT_NO_FATAL_FAILURE(start());
    auto other = Library::open(library_.directory);
    ASSERT_TRUE(other);
    Session reader(*std::move(other), models_directory());
    ASSERT_TRUE(reader.read_only());
    reader.recording().set_devices(devices_);
    QSignalSpy problems(&reader.messages(), &Messages::problem);
    reader.recording().begin();
    EXPECT_FALSE(reader.recording().recording());
    EXPECT_EQ(problems.count(), 1);
    TracksDialog dialog(reader);
    EXPECT_FALSE(dialog.record_button()->isEnabled());
    reader.wait_idle();
}

}  // namespace
}  // namespace fernleaf
