// Pictures of paper on a page: their ink lifted and put back, and other looks, in the real window.
#include <QPainter>

#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class Lifting : public Window {
protected:
    void SetUp() override {
        Window::SetUp();
        start_with_page();
    }
    // A slip of paper with two bold zigzags, no letters of any typeface.
    void bring_slip() {
        QImage slip(800, 500, QImage::Format_RGB32);
        slip.fill(QColor(246, 244, 238));
        QPainter painter(&slip);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(QPen(QColor(20, 60, 150), 7, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPolyline(QPolygonF{{100, 120}, {160, 190}, {210, 110}, {270, 200}, {330, 130}});
        painter.drawPolyline(QPolygonF{{480, 330}, {520, 400}, {590, 320}, {640, 410}});
        painter.end();
        session_->pictures().add_picture(slip, {70, 80});
        session_->wait_idle();
    }
    const Page& page() { return *session_->page(); }
    const Picture& picture() { return page().pictures.at(0); }
    void lift() {
        session_->pictures().lift_ink(picture().id);
        session_->wait_idle();
    }
};

TEST_F(Lifting, InkComesOffThePictureInOneStepOfUndo) {
    bring_slip();
    const Picture before = picture();
    lift();
    ASSERT_EQ(page().strokes.size(), 2U);
    EXPECT_FALSE(picture().treatment.lifted.empty());
    EXPECT_EQ(picture().box, before.box);
    EXPECT_EQ(session_->document().undo_state().undo, "Lift ink");
    for (const Stroke& s : page().strokes) EXPECT_TRUE(before.box.meets(s.box()));
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_TRUE(page().strokes.empty());
    EXPECT_EQ(picture(), before);
    session_->editing().redo();
    session_->wait_idle();
    EXPECT_EQ(page().strokes.size(), 2U);
}

TEST_F(Lifting, ALassoOverPartOfAPictureLiftsWhatItHolds) {
    bring_slip();
    take(Tool::lasso);
    ink()->choosing().clear();  // the picture that came
    const Box all = picture().box;
    const double right = all.left + 0.5 * all.width(), bottom = all.top + 0.55 * all.height();
    mouse_stroke({{all.left + 1, all.top + 1}, {right, all.top + 1}, {right, bottom}, {all.left + 1, bottom}});
    ASSERT_TRUE(ink()->selection().area());
    EXPECT_TRUE(ink()->selection().empty()) << "nothing that Delete would take";
    QToolButton* lift_off = button("Lift ink …");
    ASSERT_TRUE(lift_off->isVisible());
    EXPECT_FALSE(button("Delete  (Del)")->isVisible());
    choose_in_menu(lift_off, "Lift handwriting");
    session_->wait_idle();
    ASSERT_EQ(page().strokes.size(), 1U);
    EXPECT_LT(page().strokes[0].box().right, right);
    EXPECT_FALSE(ink()->selection().area());
    lift();  // and the rest, afterwards
    EXPECT_EQ(page().strokes.size(), 2U);
    mouse_stroke({{all.left + 1, all.top + 1}, {right, all.top + 1}, {right, bottom}, {all.left + 1, bottom}});
    EXPECT_FALSE(ink()->selection().area()) << "it holds a stroke now";
}

TEST_F(Lifting, EscapeLetsGoOfPartOfAPicture) {
    bring_slip();
    take(Tool::lasso);
    ink()->choosing().clear();
    const Point at = picture().box.centre();
    mouse_stroke({at, at + Point{8, 0}, at + Point{8, 8}, at + Point{0, 8}});
    ASSERT_TRUE(ink()->selection().area());
    QTest::keyClick(ink(), Qt::Key_Escape);
    EXPECT_FALSE(ink()->selection().area());
    EXPECT_FALSE(button("Lift ink …")->isVisible());
}

TEST_F(Lifting, PutBackItIsAsBeforeAndWhatWasMovedStays) {
    bring_slip();
    lift();
    ASSERT_EQ(page().strokes.size(), 2U);
    take(Tool::lasso);
    ink()->choosing().select({page().strokes[0].id});
    ink()->choosing().move(Affine::shift({5, 5}), "Move");
    session_->wait_idle();
    session_->pictures().put_ink_back(picture().id);
    session_->wait_idle();
    EXPECT_TRUE(picture().treatment.lifted.empty());
    ASSERT_EQ(page().strokes.size(), 1U) << "the one that was moved";
    EXPECT_EQ(session_->document().undo_state().undo, "Put ink back");
    session_->pictures().put_ink_back(picture().id);  // nothing is lifted any more
    session_->wait_idle();
    EXPECT_EQ(page().strokes.size(), 1U);
}

TEST_F(Lifting, LiftedInkIsThereAfterTheWindowWasClosed) {
    bring_slip();
    lift();
    const PageId id = page().info.id;
    const std::vector<Stroke> strokes = page().strokes;
    session_->open_page(id);
    session_->wait_idle();
    EXPECT_EQ(page().strokes, strokes);
    EXPECT_FALSE(picture().treatment.lifted.empty());
}

TEST_F(Lifting, WhatWasSaidOfAWordInThePictureHoldsForItsInk) {
    bring_slip();
    ASSERT_FALSE(session_->reading().lines.empty());
    session_->correcting().correct({0, 0}, "zigzag");
    session_->wait_idle();
    lift();
    const auto& lines = session_->reading().lines;
    const auto all = [&] {
        std::vector<ReadWord> out;
        for (const ReadLine& line : lines) out.insert(out.end(), line.words.begin(), line.words.end());
        return out;
    }();
    const auto said = std::ranges::find(all, "zigzag", &ReadWord::text);
    ASSERT_NE(said, all.end());
    EXPECT_TRUE(said->corrected);
    EXPECT_FALSE(said->strokes.empty()) << "of the ink now, not of a place in the picture";
    session_->editing().undo();
    session_->wait_idle();
    ASSERT_FALSE(session_->reading().lines.empty());
    EXPECT_EQ(session_->reading().lines[0].words[0].text, "zigzag");
    EXPECT_TRUE(session_->reading().lines[0].words[0].strokes.empty());
}

TEST_F(Lifting, APictureWithoutWritingStaysAsItIs) {
    QImage plain(300, 300, QImage::Format_RGB32);
    plain.fill(QColor(240, 240, 240));
    session_->pictures().add_picture(plain, {70, 80});
    session_->wait_idle();
    const Picture before = picture();
    lift();
    EXPECT_EQ(picture(), before);
    EXPECT_TRUE(page().strokes.empty());
}

TEST_F(Lifting, OtherLooksAreStepsOfUndoAndTheToolIsThereForOnePicture) {
    bring_slip();
    take(Tool::lasso);
    ink()->choosing().select({picture().id});
    EXPECT_TRUE(button("Lift ink or change the look …")->isVisible());
    const Picture before = picture();
    Treatment grey = before.treatment;
    grey.look = Look::grey;
    session_->pictures().treat_picture(before.id, grey);
    session_->wait_idle();
    EXPECT_EQ(picture().treatment.look, Look::grey);
    EXPECT_EQ(picture().box, before.box);
    session_->pictures().treat_picture(picture().id, grey);  // no change, no step
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(picture(), before);
}

}  // namespace
}  // namespace fernleaf
