#include <gtest/gtest.h>

#include "base/local_day.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

constexpr int64_t kNoon = 1'790'000'000'000, kDayMs = 86'400'000;

Stroke written_at(int64_t ms, double y = 20) {
    Stroke s = test_stroke(20, y);
    s.start_ms = ms;
    return s;
}

void write(TemporaryLibrary& library, PageId page, const std::vector<Stroke>& strokes) {
    Edit edit{"Write", {{strokes}}};
    ASSERT_TRUE(library->commit(page, edit));
}

TEST(Days, TellWhatWasWrittenWhenTheNewestFirst) {
    TemporaryLibrary library;
    const PageId first = library.page(), second = library.page("Frost watch");
    write(library, first, {written_at(kNoon), written_at(kNoon + 5000)});
    write(library, first, {written_at(kNoon + kDayMs)});
    write(library, second, {written_at(kNoon + kDayMs + 9000)});
    const auto days = library->days();
    ASSERT_TRUE(days) << days.error().message;
    ASSERT_EQ(days->size(), 2U);
    EXPECT_EQ((*days)[0].day, local_day(kNoon + kDayMs));
    EXPECT_EQ((*days)[0].pages, 2U);
    EXPECT_EQ((*days)[1].strokes, 2U);
    const auto pages = library->written_on((*days)[0].day);
    ASSERT_EQ(pages->size(), 2U);
    EXPECT_EQ((*pages)[0].page, second) << "what was written last";
    EXPECT_EQ((*pages)[0].notebook_title, "Frost watch");
    EXPECT_EQ((*pages)[1].first_ms, kNoon + kDayMs);
    const DayFilter one{library->load_page(first)->info.notebook, false};
    EXPECT_EQ(library->written_on((*days)[0].day, one)->size(), 1U);
}

TEST(Days, InkThatIsOnlyChangedIsNotWrittenAgain) {
    TemporaryLibrary library;
    const PageId page = library.page();
    Edit edit{"Write", {{written_at(kNoon)}}};
    ASSERT_TRUE(library->commit(page, edit));
    Stroke moved = edit.added.strokes[0];
    moved.id = 0;
    for (InkPoint& p : moved.points.change()) p.at.x += 10;
    Edit move{"Move", {{moved}}, {{edit.added.strokes[0]}}};
    ASSERT_TRUE(library->commit(page, move));
    EXPECT_EQ(library->days()->front().strokes, 1U);
}

TEST(Days, LeaveOutWhatIsInTheBinAndInkWithoutATime) {
    TemporaryLibrary library;
    const PageId page = library.page();
    write(library, page, {written_at(kNoon), written_at(0)});
    EXPECT_EQ(library->days()->front().strokes, 1U);
    ASSERT_TRUE(library->bin_page(page));
    EXPECT_TRUE(library->days()->empty());
    ASSERT_TRUE(library->empty_bin());
    EXPECT_TRUE(library->check()->empty());
}

TEST(Days, KnowWhatAPenCaptured) {
    TemporaryLibrary library;
    write(library, library.page(), {written_at(kNoon)});
    ASSERT_TRUE(library->keep_captures("FL-1", {{1, {2, 5, 1}, kNoon + kDayMs, {{100, 100}, {200, 200}}}}));
    DayFilter captured;
    captured.by_pen = true;
    const auto days = library->days(captured);
    ASSERT_EQ(days->size(), 1U);
    EXPECT_TRUE(library->written_on(days->front().day)->front().by_pen);
    EXPECT_EQ(library->days()->size(), 2U);
}

TEST(Days, TellsWhatWasRecordedMeanwhile) {
    TemporaryLibrary library;
    const PageId first = library.page(), second = library.page("Frost watch");
    write(library, first, {written_at(kNoon), written_at(kNoon + 60'000)});
    write(library, second, {written_at(kNoon + 3'600'000)});
    const auto recording = library->begin_recording("Noon");
    ASSERT_TRUE(recording);
    ASSERT_TRUE(library->keep_recording(*recording, {{recording->sound, 0, 20'000, kNoon + 30'000}}, "x", true));
    const auto days = library->days();
    ASSERT_EQ(days->size(), 1U);
    EXPECT_EQ((*days)[0].pages, 2U);
    EXPECT_EQ((*days)[0].recorded_ms, 20'000);
    DayFilter with_sound;
    with_sound.sound = true;
    EXPECT_EQ((*library->days(with_sound))[0].pages, 1U);
    const auto pages = library->written_on(local_day(kNoon), with_sound);
    ASSERT_EQ(pages->size(), 1U);
    EXPECT_EQ((*pages)[0].page, first);
    EXPECT_TRUE((*pages)[0].sound);
    ASSERT_TRUE(library->bin_track(recording->track));
    EXPECT_TRUE(library->days(with_sound)->empty());
}

}  // namespace
}  // namespace fernleaf
