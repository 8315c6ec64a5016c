// Drawn with the mouse, drawn fair, changed and turned back to ink, as a person would.
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class DrawFair : public Window {
protected:
    // A box, an arrow from it down to another box, all a little askew.
    void draw_flow() {
        mouse_stroke({{30, 30}, {70, 31}, {70, 47}, {30, 46}, {30, 30.5}});
        mouse_stroke({{31, 80}, {70, 80.5}, {69.5, 97}, {31, 96}, {31, 80.5}});
        mouse_stroke({{50, 48}, {51, 78}});
        mouse_stroke({{47.5, 73}, {51, 78}, {54, 73}});
        session_->wait_idle();
    }
    const Page& page() { return *session_->page(); }
    InkLeaf* leaf() { return ink(); }
};

TEST_F(DrawFair, APageIsDrawnFairAndTurnedBackToInk) {
    const PageId id = start_with_page();
    draw_flow();
    const auto ink_before = session_->library().load_page(id)->strokes;
    session_->drawing().draw_fair({});
    session_->wait_idle();
    ASSERT_EQ(page().shapes.size(), 3U);
    EXPECT_TRUE(page().strokes.empty());
    // It is still a drawing on the text leaf, of the same figures.
    const auto drawing =
        std::ranges::find_if(session_->reading().lines, [](const ReadLine& l) { return !l.shapes.empty(); });
    ASSERT_NE(drawing, session_->reading().lines.end());
    EXPECT_EQ(drawing->shapes.size(), 3U);
    reopen();
    EXPECT_EQ(page().shapes.size(), 3U) << "kept";
    session_->typesetting().back_to_ink({});
    session_->wait_idle();
    EXPECT_EQ(page().strokes, ink_before);
    EXPECT_TRUE(page().shapes.empty());
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(session_->library().load_page(id)->shapes.size(), 3U);
}

TEST_F(DrawFair, WhatTheLassoHoldsIsDrawnMovedAndGivesItsInkBackWhereItIs) {
    start_with_page();
    draw_flow();
    QTest::keyClick(ink(), Qt::Key_L);
    mouse_stroke({{24, 24}, {78, 24}, {78, 52}, {24, 52}, {24, 24}});
    ASSERT_EQ(leaf()->selection().chosen().strokes.size(), 1U);
    QTest::keyClick(window_.get(), Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
    session_->wait_idle();
    ASSERT_EQ(page().shapes.size(), 1U);
    EXPECT_EQ(page().strokes.size(), 3U) << "the rest stays ink";
    EXPECT_EQ(page().shapes[0].shape.kind, ShapeKind::rectangle);
    // It is chosen, and an element like any other.
    ASSERT_EQ(leaf()->selection().chosen().shapes.size(), 1U);
    const double left = drawn_box(page().shapes[0]).left;
    const double width = page().shapes[0].width_mm;
    leaf()->choosing().move(Affine::shift({40, 10}), "Move");
    leaf()->choosing().recolour(0x8A3B6B);
    leaf()->choosing().change_pens(
        [](Pen pen) {
            pen.width_mm *= 2;
            return pen;
        },
        "Change width");
    session_->wait_idle();
    EXPECT_NEAR(drawn_box(page().shapes[0]).left, left + 40 - width / 2, 0.01);
    EXPECT_EQ(page().shapes[0].colour, 0x8A3B6BU);
    EXPECT_NEAR(page().shapes[0].width_mm, 2 * width, 1e-6);
    leaf()->choosing().back_to_ink();
    session_->wait_idle();
    EXPECT_TRUE(page().shapes.empty());
    ASSERT_EQ(page().strokes.size(), 4U);
    const auto moved = std::ranges::find_if(page().strokes, [](const Stroke& s) { return s.box().right > 100; });
    ASSERT_NE(moved, page().strokes.end());
    EXPECT_NEAR(moved->box().left, 70, 0.5);
}

TEST_F(DrawFair, WordsAloneAreNotDrawn) {
    start_with_page();
    write_hill(20, 40);
    session_->wait_idle();
    session_->drawing().draw_fair({});
    session_->wait_idle();
    EXPECT_TRUE(page().shapes.empty());
    EXPECT_EQ(page().strokes.size(), 6U);
}

}  // namespace
}  // namespace fernleaf
