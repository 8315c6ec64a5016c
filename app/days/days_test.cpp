// The screen of days over a library of its own.
#include <gtest/gtest.h>

#include <QClipboard>
#include <QGuiApplication>
#include <QPlainTextEdit>
#include <QSignalSpy>
#include <QTest>

#include "base/local_day.h"
#include "days/days_view.h"
#include "desk/parts_fixture.h"
#include "wait_until.h"

namespace fernleaf {
namespace {

constexpr int64_t kNoon = 1'790'000'000'000, kDay = 86'400'000;

class Days : public Parts {
protected:
    // Three days: two pages on the first, one of them again on the second, a captured one on the third.
    void begin() {
        const PageId first = library_.page(), second = library_.page("Frost watch");
        write(first, kNoon), write(second, kNoon + 9000), write(first, kNoon + kDay);
        ASSERT_TRUE(library_->keep_captures("FL-1", {{1, {2, 5, 1}, kNoon + 3 * kDay, {{1000, 1000}, {4000, 1500}}}}));
        first_ = first;
        second_ = second;
        session_ = std::make_unique<Session>(std::move(library_.library), models_directory());
        view_ = std::make_unique<DaysView>(*session_);
        view_->resize(1000, 760);
        view_->set_notebooks(*session_->library().notebooks());
        view_->show();
        refresh();
    }
    void refresh() {
        QSignalSpy refreshed(&view_->days(), &DaysModel::refreshed);
        view_->refresh();
        WAIT_UNTIL(refreshed.count() > 0);
    }
    void write(PageId page, int64_t when) {
        Stroke s = test_stroke(20, 30);
        s.start_ms = when;
        Edit edit{"Write", {{s}}};
        ASSERT_TRUE(library_->commit(page, edit));
    }
    QModelIndex row(int row) { return view_->days().index(row); }
    const DayPage* page_at(int at) {
        EXPECT_TRUE(wait_until([&] { return view_->days().page_at(row(at)) != nullptr; }));
        return view_->days().page_at(row(at));
    }

    PageId first_ = 0, second_ = 0;
    std::unique_ptr<DaysView> view_;
};

TEST_F(Days, ListWhatWasWrittenTheNewestFirst) {
    ASSERT_NO_FATAL_FAILURE(begin());
    ASSERT_EQ(view_->days().rowCount(), 7) << "three days and four pages";
    EXPECT_TRUE(view_->days().is_day(row(0)));
    EXPECT_TRUE(page_at(1)->by_pen);
    EXPECT_EQ(page_at(3)->page, first_);
    EXPECT_EQ(page_at(5)->page, second_) << "written last on that day";
    EXPECT_EQ(page_at(6)->page, first_);
    WAIT_UNTIL(view_->days().snippet_at(row(3)) && !view_->days().snippet_at(row(3))->picture.isNull());
}

TEST_F(Days, AreNarrowedToANotebookAndToPens) {
    ASSERT_NO_FATAL_FAILURE(begin());
    view_->notebook_choice()->setCurrentIndex(2);
    ASSERT_NO_FATAL_FAILURE(refresh());
    EXPECT_EQ(view_->days().rowCount(), 2);
    view_->notebook_choice()->setCurrentIndex(0);
    QSignalSpy refreshed(&view_->days(), &DaysModel::refreshed);
    view_->pens_only()->setChecked(true);
    WAIT_UNTIL(refreshed.count() > 0);
    EXPECT_EQ(view_->days().rowCount(), 2);
    EXPECT_TRUE(page_at(1)->by_pen);
}

TEST_F(Days, WhatWasLookedUpForTheOldFilterIsNotShownUnderTheNew) {
    ASSERT_NO_FATAL_FAILURE(begin());
    DaysModel days(*session_);
    QSignalSpy refreshed(&days, &DaysModel::refreshed);
    DayFilter filter;
    filter.notebook = session_->library().load_page(second_)->info.notebook;
    days.refresh(filter);
    WAIT_UNTIL(refreshed.count() == 1);
    filter = {};
    filter.by_pen = true;
    days.refresh(filter);
    EXPECT_EQ(days.page_at(days.index(1)), nullptr) << "asked while the new days are on their way";
    WAIT_UNTIL(refreshed.count() == 2);
    WAIT_UNTIL(days.page_at(days.index(1)) != nullptr);
    EXPECT_TRUE(days.page_at(days.index(1))->by_pen);
}

TEST_F(Days, AreNarrowedToWhatHasSoundAndPlayIt) {
    ASSERT_NO_FATAL_FAILURE(begin());
    const auto recording = session_->library().tracks();
    ASSERT_TRUE(recording && recording->empty());
    view_->sound_only()->setChecked(true);
    WAIT_UNTIL(view_->days().rowCount() == 0);
    view_.reset(), session_.reset();
    library_.reopen();
    const auto made = library_->begin_recording("Noon");
    ASSERT_TRUE(made);
    ASSERT_TRUE(library_->keep_recording(*made, {{made->sound, 0, 5000, kNoon - 1000}}, "x", true));
    session_ = std::make_unique<Session>(std::move(library_.library), models_directory());
    session_->wait_idle();
    view_ = std::make_unique<DaysView>(*session_);
    view_->set_notebooks(*session_->library().notebooks());
    view_->show();
    view_->sound_only()->setChecked(true);
    WAIT_UNTIL(view_->days().rowCount() == 2);
    ASSERT_TRUE(page_at(1)->sound);
    EXPECT_EQ(page_at(1)->page, first_);
    EXPECT_TRUE(view_->strip()->model()->index(1, 0).data(Qt::ToolTipRole).toString().contains("0:05 recorded"));
    view_->list()->setCurrentIndex(row(1));
    QTest::keyClick(view_->list(), Qt::Key_P);
    ASSERT_TRUE(session_->listening().track());
    EXPECT_EQ(session_->listening().position_ms(), 0) << "a second before it, as far as there is any";
    session_->listening().close();
}

TEST_F(Days, AreNarrowedToATag) {
    ASSERT_NO_FATAL_FAILURE(begin());
    EXPECT_FALSE(view_->tag_choice()->isVisible()) << "there is none";
    QSignalSpy changed(&session_->keeping(), &KeepingDesk::changed);
    session_->keeping().tag({second_}, "cold");
    WAIT_UNTIL(view_->tag_choice()->count() == 2);
    EXPECT_TRUE(view_->tag_choice()->isVisible());
    view_->tag_choice()->setCurrentIndex(1);
    refresh();
    ASSERT_EQ(view_->days().rowCount(), 2);
    EXPECT_EQ(page_at(1)->page, second_);
}

TEST_F(Days, KnowNumbersAndDatesInWhatWasWritten) {
    const PageId page = library_.page();
    Stroke stroke = test_stroke(20, 30);
    stroke.start_ms = kNoon;
    Edit edit{"Write", {{stroke}}};
    ASSERT_TRUE(library_->commit(page, edit));
    Reading reading = sure_reading({"Ines", "555-0142", "on", "14", "May", "2026"});
    for (ReadWord& word : reading.lines[0].words) word.strokes = {edit.added.strokes[0].id};
    ASSERT_TRUE(library_->save_reading(page, reading));
    session_ = std::make_unique<Session>(std::move(library_.library), models_directory());
    view_ = std::make_unique<DaysView>(*session_);
    view_->resize(1000, 760);
    view_->show();
    refresh();
    ASSERT_TRUE(page_at(1));
    ASSERT_TRUE(wait_until([&] { return view_->days().snippet_at(row(1)) != nullptr; }));
    const Snippet& snippet = *view_->days().snippet_at(row(1));
    ASSERT_EQ(snippet.useful.size(), 2U);
    EXPECT_EQ(snippet.useful[0].kind, UsefulKind::telephone);
    EXPECT_EQ(snippet.useful[1].date, (Date{2026, 5, 14}));
}

TEST_F(Days, AreCorrectedWhereTheyAre) {
    const PageId page = library_.page();
    Stroke one = test_stroke(20, 30), two = test_stroke(60, 30);
    one.start_ms = two.start_ms = kNoon;
    Edit edit{"Write", {{one, two}}};
    ASSERT_TRUE(library_->commit(page, edit));
    Reading reading = sure_reading({"Dump", "house"});
    for (size_t i = 0; i < 2; ++i) reading.lines[0].words[i].strokes = {edit.added.strokes[i].id};
    ASSERT_TRUE(library_->save_reading(page, reading));
    session_ = std::make_unique<Session>(std::move(library_.library), models_directory());
    view_ = std::make_unique<DaysView>(*session_);
    view_->resize(1000, 760);
    view_->show();
    refresh();
    ASSERT_TRUE(page_at(1));
    ASSERT_TRUE(wait_until([&] { return view_->days().snippet_at(row(1)) != nullptr; }));
    view_->list()->setFocus();
    view_->list()->setCurrentIndex(row(1));
    const auto editor = [&] { return view_->list()->viewport()->findChild<QPlainTextEdit*>(); };
    QTest::keyClick(view_->list(), Qt::Key_F2);
    ASSERT_TRUE(editor());
    EXPECT_EQ(editor()->toPlainText(), "Dump house");
    QTest::keyClick(editor(), Qt::Key_Escape);
    WAIT_UNTIL(!editor());
    QTest::keyClick(view_->list(), Qt::Key_F2);
    ASSERT_TRUE(editor());
    editor()->setPlainText("Dump\nhouse");
    QSignalSpy problems(&session_->messages(), &Messages::problem);
    QTest::keyClick(editor(), Qt::Key_Return);
    EXPECT_EQ(problems.count(), 1) << "there is one line";
    WAIT_UNTIL(!editor());
    QTest::keyClick(view_->list(), Qt::Key_F2);
    editor()->setPlainText("Pump house");
    emit view_->days().dataChanged(row(1), row(1));  // as when it is read anew
    EXPECT_EQ(editor()->toPlainText(), "Pump house") << "what is typed stays";
    QSignalSpy corrected(&session_->correcting(), &CorrectionDesk::corrected);
    QTest::keyClick(editor(), Qt::Key_Return);
    WAIT_UNTIL(corrected.count() == 1);
    WAIT_UNTIL(view_->days().snippet_at(row(1))->text == "Pump house");
    const auto kept = session_->library().corrections(page);
    ASSERT_TRUE(kept);
    ASSERT_EQ(kept->size(), 1U);
    EXPECT_EQ(kept->front().text, "Pump");
    EXPECT_EQ(kept->front().strokes, (std::vector<StrokeId>{edit.added.strokes[0].id}));
}

TEST_F(Days, KeysTurnCopyOpenAndLeave) {
    ASSERT_NO_FATAL_FAILURE(begin());
    page_at(1);
    WAIT_UNTIL(view_->days().snippet_at(row(1)));
    view_->list()->setFocus();
    view_->list()->setCurrentIndex(row(1));
    QTest::keyClick(view_->list(), Qt::Key_Space);
    EXPECT_TRUE(view_->days().turned(row(1)));
    QTest::keyClick(view_->list(), Qt::Key_Space);
    EXPECT_FALSE(view_->days().turned(row(1)));
    QTest::keyClick(view_->list(), Qt::Key_C, Qt::ControlModifier);
    EXPECT_FALSE(QGuiApplication::clipboard()->image().isNull());
    QSignalSpy wanted(view_.get(), &DaysView::page_wanted), left(view_.get(), &DaysView::left);
    QTest::keyClick(view_->list(), Qt::Key_Return);
    ASSERT_EQ(wanted.count(), 1);
    EXPECT_EQ(wanted[0][0].value<PageId>(), page_at(1)->page);
    QTest::keyClick(view_->list(), Qt::Key_Escape);
    EXPECT_EQ(left.count(), 1);
}

TEST_F(Days, TheStripLeadsToADay) {
    ASSERT_NO_FATAL_FAILURE(begin());
    // A month's name, then its days.
    QAbstractItemModel* strip = view_->strip()->model();
    view_->strip()->setFocus();
    view_->strip()->setCurrentIndex(strip->index(strip->rowCount() - 1, 0));
    EXPECT_EQ(view_->list()->currentIndex().row(), 5);
}

}  // namespace
}  // namespace fernleaf
