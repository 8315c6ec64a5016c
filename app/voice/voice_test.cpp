// Recording and listening, with a file for a microphone and time for a speaker.
#include <QSignalSpy>

#include "base/now.h"
#include "sound/test_sound.h"
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
    EXPECT_TRUE(problems[0][0].toString().contains("microphone"));
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

}  // namespace
}  // namespace fernleaf
