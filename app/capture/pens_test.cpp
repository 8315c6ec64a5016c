// Pens and the window's parts: found, paired, their ink on pages as it is written.
#include <gtest/gtest.h>

#include <QSignalSpy>
#include <QTest>
#include <thread>

#include "capture/pens_dialog.h"
#include "desk/parts_fixture.h"
#include "pen_stand_in/running_pen.h"
#include "wait_until.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class Pens : public Parts {
protected:
    // With one page open that no pen writes on.
    void begin() {
        start();
        session_->pens().begin();
    }
    void pair(const RunningPen&, const QString& passcode = "4711") {
        WAIT_UNTIL(!pens().empty() && pens()[0].stage == LinkStage::locked);
        session_->pens().pair(pens()[0].pen.serial, passcode);
        WAIT_UNTIL(!pens().empty() && pens()[0].linked() && pens()[0].drained);
    }
    const std::vector<ShownPen>& pens() { return session_->pens().pens(); }
    size_t strokes_of_pens() {
        size_t out = 0;
        for (const Notebook& n : *session_->library().notebooks())
            if (n.id != notebook_)
                for (const PageInfo& p : *session_->library().pages(n.id))
                    out += session_->library().load_page(p.id)->strokes.size();
        return out;
    }
    const PenSetup walnut_{.name = "Walnut", .passcode = "4711"};
};

TEST_F(Pens, AreFoundPairedAndBringWhatIsInTheirMemory) {
    RunningPen pen(walnut_);
    for (int line = 0; line < 10; ++line) pen.write({2, 5, 1}, line);
    begin();
    ASSERT_NO_FATAL_FAILURE(pair(pen));
    WAIT_UNTIL(pen.empty());
    EXPECT_EQ(strokes_of_pens(), 10U);
    EXPECT_EQ(pens()[0].pen.name, "Walnut");
    EXPECT_TRUE(pens()[0].paired);
    session_->wait_idle();
    EXPECT_EQ(session_->page()->info.id, ids_[0]) << "what was written before turns no page";
    EXPECT_TRUE(session_->library().unread()->empty()) << "it is read as any ink";
}

TEST_F(Pens, TurnToThePageThatIsWrittenOnAndShowItsInkAsItComes) {
    RunningPen pen(walnut_);
    begin();
    ASSERT_NO_FATAL_FAILURE(pair(pen));
    pen.write({2, 5, 7}, 0);
    WAIT_UNTIL(session_->page()->info.id != ids_[0]);
    EXPECT_EQ(session_->page()->strokes.size(), 1U);
    const PageId page = session_->page()->info.id;
    pen.write({2, 5, 7}, 1);
    WAIT_UNTIL(session_->page()->strokes.size() == 2);
    EXPECT_EQ(session_->page()->info.id, page);
    EXPECT_FALSE(session_->document().undo_state().undo);
    // Off, the page stays.
    PenDesk::set_follows(false);
    pen.write({2, 5, 8}, 0);
    WAIT_UNTIL(pen.empty());
    session_->wait_idle();
    EXPECT_EQ(session_->page()->info.id, page);
}

// A smart pen that writes in the window.
class PenInWindow : public Window {};

TEST_F(PenInWindow, InkIsSeenBeforeThePenIsLifted) {
    RunningPen pen({.name = "Walnut", .passcode = "4711"});
    const PageId first = start_with_page();
    const auto& pens = session_->pens().pens();
    WAIT_UNTIL(!pens.empty() && pens[0].stage == LinkStage::locked);
    session_->pens().pair(pens[0].pen.serial, "4711");
    WAIT_UNTIL(pens[0].linked() && pens[0].drained);
    pen.write({2, 5, 7}, 0);
    WAIT_UNTIL(session_->page()->info.id != first);
    const auto dark = [&](double x_mm) {  // on the second line, about there
        const QImage image = ink()->grab().toImage();
        const QPoint from = at(x_mm - 2, 25), to = at(x_mm + 2, 31);
        for (int x = from.x(); x < to.x(); ++x)
            for (int y = from.y(); y < to.y(); ++y)
                if (qGray(image.pixel(x, y)) < 100) return true;
        return false;
    };
    EXPECT_FALSE(dark(30));
    pen.write_half({2, 5, 7}, 1);
    WAIT_UNTIL(dark(30));
    EXPECT_FALSE(dark(90)) << "it is not there yet";
    EXPECT_EQ(session_->page()->strokes.size(), 1U) << "nothing is kept of it";
    pen.write_rest();
    WAIT_UNTIL(session_->page()->strokes.size() == 2);
    WAIT_UNTIL(dark(90));
}

TEST_F(PenInWindow, WhatWasUnderAPenThatVanishesGoesWithIt) {
    auto pen = std::make_unique<RunningPen>(PenSetup{.name = "Walnut", .passcode = "4711"});
    const PageId first = start_with_page();
    const auto& pens = session_->pens().pens();
    WAIT_UNTIL(!pens.empty() && pens[0].stage == LinkStage::locked);
    session_->pens().pair(pens[0].pen.serial, "4711");
    WAIT_UNTIL(pens[0].linked() && pens[0].drained);
    pen->write({2, 5, 7}, 0);
    WAIT_UNTIL(session_->page()->info.id != first);
    QSignalSpy writing(&session_->pens(), &PenDesk::writing);
    const auto points = [&] { return writing.empty() ? size_t{0} : writing.last()[0].value<Stroke>().points.size(); };
    pen->write_half({2, 5, 7}, 1);
    WAIT_UNTIL(points() > 0);
    pen.reset();
    WAIT_UNTIL(points() == 0);
    EXPECT_EQ(session_->page()->strokes.size(), 1U);
}

TEST_F(PenInWindow, ANotebookIsArchivedAndTakenBackWhateverIsOpen) {
    const PageId other = start_with_page();
    ASSERT_NO_FATAL_FAILURE(close());
    library_.reopen();
    const auto kept = library_->keep_captures("FL-1", {{1, {2, 5, 7}, 1'790'000'000'000, RunningPen::waves(0)}});
    ASSERT_TRUE(kept);
    open();
    const PageId page = kept->pages[0].page;
    session_->open_page(page);
    session_->wait_idle();
    ASSERT_TRUE(session_->document().book());
    EXPECT_EQ(session_->document().address(), (PageAddress{2, 5, 7}));
    std::function<void()> take_back;
    QObject::connect(&session_->messages(), &Messages::undoable, window_.get(),
                     [&](const QString&, const std::function<void()>& back) { take_back = back; });
    auto* archive = window_->findChild<QAction*>("archive");
    ASSERT_TRUE(archive);
    archive->trigger();
    session_->wait_idle();
    EXPECT_TRUE(session_->document().book()->archived);
    EXPECT_FALSE(session_->document().address()) << "its addresses are free";
    EXPECT_TRUE((*session_->library().addressed_books())[0].archived);
    // Taken back from another notebook, it is this one that comes back.
    session_->open_page(other);
    session_->wait_idle();
    take_back();
    session_->wait_idle();
    EXPECT_FALSE((*session_->library().addressed_books())[0].archived);
    EXPECT_TRUE(session_->document().is_open(other));
}

TEST_F(Pens, CapturedInkIsChangedAndErasedAsAnyInk) {
    RunningPen pen(walnut_);
    begin();
    ASSERT_NO_FATAL_FAILURE(pair(pen));
    pen.write({2, 5, 7}, 0);
    WAIT_UNTIL(session_->page()->info.id != ids_[0]);
    const Stroke stroke = session_->page()->strokes[0];
    session_->editing().change({"Erase", {}, {{stroke}}});
    pen.write({2, 5, 7}, 1);
    WAIT_UNTIL(session_->page()->strokes.size() == 1 && session_->page()->strokes[0].id != stroke.id);
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(session_->page()->strokes.size(), 2U);
    EXPECT_EQ(session_->library().load_page(session_->page()->info.id)->strokes.size(), 2U);
}

TEST_F(Pens, ThatArePairedAreLinkedAgainByThemselves) {
    begin();
    {
        RunningPen pen(walnut_);
        ASSERT_NO_FATAL_FAILURE(pair(pen));
    }
    WAIT_UNTIL(!pens()[0].near);
    EXPECT_TRUE(pens()[0].paired);
    RunningPen pen(walnut_);
    WAIT_UNTIL(pens()[0].linked());
}

TEST_F(Pens, ThatAreForgottenAskForTheirPasscodeAgain) {
    RunningPen pen(walnut_);
    begin();
    ASSERT_NO_FATAL_FAILURE(pair(pen));
    session_->pens().forget(pens()[0].pen.serial);
    WAIT_UNTIL(!pens().empty() && pens()[0].stage == LinkStage::locked);
    EXPECT_FALSE(pens()[0].paired);
    EXPECT_TRUE(session_->library().pens()->empty());
}

TEST_F(Pens, InkOfAPenThatIsForgottenMeanwhileIsShownAndKept) {
    RunningPen pen(walnut_);
    begin();
    ASSERT_NO_FATAL_FAILURE(pair(pen));
    pen.write({2, 5, 7}, 0);
    WAIT_UNTIL(session_->page()->info.id != ids_[0]);
    const PageId page = session_->page()->info.id;
    pen.write({2, 5, 7}, 1);
    while (!pen.empty()) std::this_thread::yield();  // on disk, and not told yet
    session_->pens().forget("FL-0001");
    WAIT_UNTIL(!pens().empty() && pens()[0].stage == LinkStage::locked);
    EXPECT_EQ(session_->page()->info.id, page);
    EXPECT_EQ(session_->page()->strokes.size(), 2U);
    EXPECT_TRUE(session_->library().pens()->empty()) << "its link remembered it no more";
}

TEST_F(Pens, WritingAcrossEarlierInkAsksWhetherItIsAnotherNotebook) {
    start();
    // What the pen wrote a day ago is kept already.
    std::vector<CapturedStroke> before;
    for (int line = 0; line < 12; ++line)
        before.push_back({before.size() + 1, {1, 3, 5}, now_ms() - 86'400'000, RunningPen::waves(line)});
    Library& library = const_cast<Library&>(session_->library());
    ASSERT_TRUE(library.keep_captures("FL-0001", before));
    RunningPen pen(walnut_);
    for (const CapturedStroke& s : before) pen.write(s.address, static_cast<int>(s.number));
    session_->pens().begin();
    ASSERT_NO_FATAL_FAILURE(pair(pen));
    std::function<void()> do_it, take_back;
    QObject::connect(&session_->messages(), &Messages::offer,
                     [&](const QString&, const QString&, const auto& f) { do_it = f; });
    QObject::connect(&session_->messages(), &Messages::undoable, [&](const QString&, const auto& f) { take_back = f; });
    for (int line = 0; line < 4; ++line) pen.write({1, 3, 5}, line);
    WAIT_UNTIL(do_it != nullptr);
    WAIT_UNTIL(pen.empty());
    const auto books = [&] { return library.addressed_books()->size(); };
    EXPECT_EQ(books(), 1U);
    do_it();
    WAIT_UNTIL(take_back != nullptr);
    EXPECT_EQ(books(), 2U);
    session_->wait_idle();
    EXPECT_EQ(strokes_of_pens(), 16U);
    take_back();
    WAIT_UNTIL(books() == 1);
    session_->wait_idle();
    EXPECT_EQ(strokes_of_pens(), 16U);
}

TEST_F(Pens, DialogAsksForThePasscodeTellsAWrongOneAndShowsThePen) {
    RunningPen pen(walnut_);
    begin();
    PensDialog dialog(session_->pens(), false);
    dialog.show();
    EXPECT_EQ(dialog.shown(), PensDialog::Shown::none);
    WAIT_UNTIL(dialog.shown() == PensDialog::Shown::pairing);
    EXPECT_FALSE(dialog.pair_button()->isEnabled());
    QTest::keyClicks(dialog.passcode(), "0815");
    QTest::keyClick(dialog.passcode(), Qt::Key_Return);
    WAIT_UNTIL(!pens().empty() && pens()[0].wrong_passcode);
    EXPECT_EQ(dialog.shown(), PensDialog::Shown::pairing);
    EXPECT_EQ(dialog.passcode()->selectedText(), "0815") << "to be typed over";
    QTest::keyClicks(dialog.passcode(), "4711");
    QTest::mouseClick(dialog.pair_button(), Qt::LeftButton);
    WAIT_UNTIL(dialog.shown() == PensDialog::Shown::pen);
    WAIT_UNTIL(pens()[0].drained);
    dialog.sound()->setChecked(false);
    WAIT_UNTIL(!pen.settings().sound);
    WAIT_UNTIL(!pens()[0].pen.state.settings.sound);
    EXPECT_FALSE(dialog.sound()->isChecked());
}

}  // namespace
}  // namespace fernleaf
