// The lasso, drawn and used as a person would.
#include <QClipboard>
#include <QGuiApplication>
#include <QMimeData>
#include <QSignalSpy>
#include <algorithm>

#include "base/text.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class Lasso : public Window {
protected:
    void start() {
        page_ = start_with_page();
        write_hill(30, 60);
        write_hill(70, 60);
        session_->wait_idle();
        QTest::keyClick(ink(), Qt::Key_L);
    }
    // About the first word.
    void draw_about_first() { mouse_stroke({{26, 50}, {56, 50}, {56, 65}, {26, 65}, {26, 50}}); }
    const Selection& chosen() { return ink()->selection(); }
    const std::vector<Stroke>& strokes() { return session_->page()->strokes; }
    Box box_of_ids(size_t from, size_t to) {
        auto sorted = strokes();
        std::ranges::sort(sorted, {}, [](const Stroke& s) { return s.box().left; });
        Box box;
        for (size_t i = from; i < to; ++i) box.include(sorted[i].box());
        return box;
    }
    void drag(QPointF from, QPointF to, Qt::KeyboardModifiers keys = {}) {
        QTest::mousePress(ink(), Qt::LeftButton, keys, from.toPoint());
        for (int k = 1; k <= 5; ++k) {
            const QPointF p = from + (to - from) * (k / 5.0);
            QMouseEvent move(QEvent::MouseMove, p, ink()->mapToGlobal(p), Qt::NoButton, Qt::LeftButton, keys);
            QCoreApplication::sendEvent(ink(), &move);
        }
        QTest::mouseRelease(ink(), Qt::LeftButton, keys, to.toPoint());
    }
    PageId page_ = 0;
};

TEST_F(Lasso, TakesWhatItIsDrawnAboutAndShowsTheBar) {
    start();
    EXPECT_FALSE(window_->spread()->selection_bar()->isVisible());
    draw_about_first();
    EXPECT_EQ(chosen().chosen().strokes.size(), 6U);
    EXPECT_LT(chosen().box().right, 60);
    EXPECT_TRUE(window_->spread()->selection_bar()->isVisible());
    EXPECT_TRUE(ink()->rect().contains(window_->spread()->selection_bar()->geometry()));
    QTest::keyClick(ink(), Qt::Key_Escape);
    EXPECT_TRUE(chosen().empty());
    EXPECT_FALSE(window_->spread()->selection_bar()->isVisible());
}

TEST_F(Lasso, WhatIsGroupedIsTakenTogetherUntilItIsPartedAgain) {
    start();
    write_text(40, 100, "both words");
    take(Tool::lasso);
    ink()->choosing().select_all();
    ASSERT_EQ(chosen().chosen().count(), 13U);
    QTest::keyClick(window_.get(), Qt::Key_G, Qt::AltModifier);
    QTest::keyClick(ink(), Qt::Key_Escape);
    const Point on_ink = session_->page()->strokes.front().points.front().at;
    QTest::mouseClick(ink(), Qt::LeftButton, {}, at(on_ink.x, on_ink.y));
    EXPECT_EQ(chosen().chosen().count(), 13U) << "at once, before it is read again";
    QTest::keyClick(ink(), Qt::Key_Escape);
    session_->wait_idle();
    QTest::mouseClick(ink(), Qt::LeftButton, {}, at(37, 57));
    EXPECT_EQ(chosen().chosen().count(), 13U) << "one tap takes all of it";
    QTest::mouseClick(ink(), Qt::LeftButton, {}, at(37, 57));
    EXPECT_LT(chosen().chosen().count(), 13U) << "a second one only what is there";
    QTest::keyClick(ink(), Qt::Key_Escape);
    reopen();
    take(Tool::lasso);
    draw_about_first();
    EXPECT_EQ(chosen().chosen().count(), 13U) << "kept, and a lasso about some takes all";
    ink()->choosing().ungroup();
    QTest::keyClick(ink(), Qt::Key_Escape);
    draw_about_first();
    EXPECT_EQ(chosen().chosen().count(), 6U);
}

TEST_F(Lasso, ATapTakesTheWordAgainTheLineAndThePenLetsGo) {
    start();
    QTest::mouseClick(ink(), Qt::LeftButton, {}, at(31, 57));
    EXPECT_EQ(chosen().chosen().strokes.size(), 6U);
    QTest::mouseClick(ink(), Qt::LeftButton, {}, at(36, 57));
    EXPECT_EQ(chosen().chosen().strokes.size(), 12U);
    QTest::keyClick(ink(), Qt::Key_1);
    EXPECT_TRUE(chosen().empty());
}

TEST_F(Lasso, DraggingMovesInOneStepAndUndoBringsBack) {
    start();
    draw_about_first();
    const Box before = box_of_ids(0, 6);
    drag(at(40, 57), at(50, 97));
    const Box after = chosen().box();
    EXPECT_NEAR(after.centre().x - before.centre().x, 10, 0.4);
    EXPECT_NEAR(after.centre().y - before.centre().y, 40, 0.4);
    EXPECT_EQ(strokes().size(), 12U);
    session_->wait_idle();
    EXPECT_EQ(session_->library().load_page(page_)->strokes.size(), 12U);
    EXPECT_EQ(session_->document().undo_state().undo, "Move");
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_NEAR(box_of_ids(0, 6).left, before.left, 0.01);  // places are kept to 1/100 mm
    EXPECT_NEAR(box_of_ids(0, 6).top, before.top, 0.01);
    EXPECT_TRUE(chosen().empty());
}

TEST_F(Lasso, AWordCorrectedStaysCorrectedWhereItIsMoved) {
    start();
    ASSERT_EQ(session_->reading().lines.at(0).words.size(), 2U);
    session_->correcting().correct({0, 0}, QStringLiteral("Hallow"));
    draw_about_first();
    drag(at(40, 57), at(40, 117));
    session_->wait_idle();
    const auto texts = [&] {
        std::vector<std::string> out;
        for (const ReadLine& line : session_->reading().lines) out.push_back(line.text());
        return out;
    };
    EXPECT_EQ(texts(), (std::vector<std::string>{"Hallow", "HILL"}));
    reopen();
    EXPECT_EQ(texts(), (std::vector<std::string>{"Hallow", "HILL"}));
}

TEST_F(Lasso, ArrowsNudgeAndShiftNudgesFar) {
    start();
    draw_about_first();
    const double left = chosen().box().left;
    QTest::keyClick(ink(), Qt::Key_Right);
    EXPECT_NEAR(chosen().box().left, left + 0.5, 1e-6);
    QTest::keyClick(ink(), Qt::Key_Right, Qt::ShiftModifier);
    EXPECT_NEAR(chosen().box().left, left + 5.5, 1e-6);
}

TEST_F(Lasso, ACornerScalesEvenlyAndAShiftDragKeepsToTheAxis) {
    start();
    draw_about_first();
    const Box before = chosen().box();
    const double scale = (ink()->width() - 44.0) / session_->page()->info.width_mm;
    const auto corner = [&] {
        return QPointF(22, 22) + QPointF(chosen().box().right, chosen().box().bottom) * scale +
               QPointF(Selection::kFramePx, Selection::kFramePx);
    };
    drag(corner(), corner() + QPointF(before.width(), before.height()) * scale);
    EXPECT_NEAR(chosen().box().width() / before.width(), 2, 0.1);
    EXPECT_NEAR(chosen().box().height() / before.height(), 2, 0.1);
    EXPECT_NEAR(chosen().box().left, before.left, 0.5);
    const Box grown = chosen().box();
    const QPointF middle = at(grown.centre().x, grown.centre().y);
    QTest::keyPress(ink(), Qt::Key_Shift, Qt::ShiftModifier);
    drag(middle, middle + QPointF(90, 12), Qt::ShiftModifier);
    QTest::keyRelease(ink(), Qt::Key_Shift);
    EXPECT_NEAR(chosen().box().top, grown.top, 1e-6);
    EXPECT_GT(chosen().box().left, grown.left + 5);
}

TEST_F(Lasso, ThePageIsCopiedAsATableOfWhatItSays) {
    start();
    session_->typesetting().copy_table();
    const std::string table = fold(QGuiApplication::clipboard()->text().toStdString());
    EXPECT_NE(table.find("hill"), std::string::npos) << table;
    EXPECT_TRUE(table.ends_with('\n'));
    session_->model().add_page();
    session_->wait_idle();
    QGuiApplication::clipboard()->setText(QStringLiteral("as before"));
    session_->typesetting().copy_table();
    EXPECT_EQ(QGuiApplication::clipboard()->text(), QStringLiteral("as before")) << "an empty page says nothing";
}

TEST_F(Lasso, CutInkIsPastedOnAnotherPageAndDeletedInkIsGone) {
    start();
    draw_about_first();
    QTest::keyClick(ink(), Qt::Key_X, Qt::ControlModifier);
    EXPECT_EQ(strokes().size(), 6U);
    EXPECT_EQ(fold(QGuiApplication::clipboard()->text().toStdString()), "hill");
    session_->model().add_page();
    session_->wait_idle();
    ASSERT_TRUE(strokes().empty());
    QTest::keyClick(ink(), Qt::Key_V, Qt::ControlModifier);
    session_->wait_idle();
    ASSERT_EQ(strokes().size(), 6U);
    EXPECT_EQ(chosen().chosen().strokes.size(), 6U);
    EXPECT_EQ(ink()->tool(), Tool::lasso);
    QTest::keyClick(ink(), Qt::Key_Delete);
    EXPECT_TRUE(strokes().empty());
    session_->wait_idle();
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(strokes().size(), 6U);
}

TEST_F(Lasso, BrokenInkOnTheClipboardIsOneErrorAndChangesNothing) {
    start();
    const size_t before = strokes().size();
    QSignalSpy problems(&session_->messages(), &Messages::problem);
    for (const char* broken :
         {"<ink>", "no ink at all", "<ink xmlns='http://www.w3.org/2003/InkML'><trace>1 x</trace></ink>"}) {
        auto* data = new QMimeData;
        data->setData(QStringLiteral("application/inkml+xml"), broken);
        QGuiApplication::clipboard()->setMimeData(data);
        problems.clear();
        QTest::keyClick(ink(), Qt::Key_V, Qt::ControlModifier);
        session_->wait_idle();
        EXPECT_EQ(problems.size(), 1) << broken;
        EXPECT_EQ(strokes().size(), before);
    }
}

TEST_F(Lasso, ChosenInkTakesAnotherWidthAndItsPlaceAmongTheOther) {
    start();
    draw_about_first();
    const auto click = [&](const char* name) {
        for (auto* b : window_->spread()->selection_bar()->findChildren<QToolButton*>())
            if (b->toolTip() == QLatin1String(name)) return QTest::mouseClick(b, Qt::LeftButton);
        ADD_FAILURE() << name;
    };
    const float width = chosen().chosen().strokes[0].pen.width_mm;
    click("Thicker");
    EXPECT_NEAR(chosen().chosen().strokes[0].pen.width_mm, 1.25F * width, 1e-4F);
    const auto all_chosen = [&](size_t from) {
        for (size_t i = from; i < from + 6; ++i) EXPECT_TRUE(chosen().contains(strokes()[i].id)) << i;
    };
    ink()->choosing().reorder(true);
    all_chosen(6);
    for (int again = 0; again < 2; ++again) {
        ink()->choosing().reorder(false);
        all_chosen(0);
    }
    EXPECT_EQ(strokes().size(), 12U);
    ink()->choosing().copy_as_picture();
    EXPECT_GT(QGuiApplication::clipboard()->image().width(), 100);
}

}  // namespace
}  // namespace fernleaf
