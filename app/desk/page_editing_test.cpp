#include "desk/page_editing.h"

#include "desk/parts_fixture.h"

namespace fernleaf {
namespace {

class Editing : public Parts {
protected:
    PageEditing& editing() { return session_->editing(); }
    const Page& page() { return *session_->page(); }
};

TEST_F(Editing, AnEditGoesToThePageTheReadingsAndTheDiskOnceEach) {
    start();
    QSignalSpy edited(&session_->document(), &PageDocument::edited),
        undo(&session_->document(), &PageDocument::undo_state_changed);
    const int before = session_->document().edition();
    const StrokeId id = editing().write(test_stroke(10, 20));
    EXPECT_NE(id, 0);
    EXPECT_EQ(edited.count(), 1);
    EXPECT_EQ(undo.count(), 1);
    EXPECT_EQ(session_->document().edition(), before + 1);
    EXPECT_EQ(page().strokes.size(), 1U) << "at once";
    session_->wait_idle();
    EXPECT_EQ(edited.count(), 1) << "what the disk says later changes nothing on the page";
    EXPECT_EQ(kept().strokes, page().strokes);
    EXPECT_EQ(session_->readings().mirror()->strokes, page().strokes);
}

TEST_F(Editing, UndoAndRedoGoTheSameWay) {
    start();
    editing().write(test_stroke(10, 20));
    editing().write(test_stroke(30, 40));
    const std::vector<Stroke> both = page().strokes;
    editing().undo();
    session_->wait_idle();
    EXPECT_EQ(page().strokes.size(), 1U);
    EXPECT_EQ(session_->document().undo_state().redo, "Write");
    EXPECT_EQ(session_->readings().mirror()->strokes, page().strokes);
    editing().redo();
    session_->wait_idle();
    EXPECT_EQ(page().strokes.size(), both.size());
    EXPECT_EQ(kept().strokes, page().strokes);
}

TEST_F(Editing, WhatCanNeverBeKeptIsNotShownEither) {
    start();
    QSignalSpy problems(&session_->messages(), &Messages::problem);
    Stroke nowhere = test_stroke(10, 20);
    nowhere.points.change()[0].at.x = std::numeric_limits<double>::quiet_NaN();
    editing().write(nowhere);
    EXPECT_TRUE(page().strokes.empty());
    EXPECT_EQ(problems.count(), 1);
}

TEST_F(Editing, ADividerIsAStepOfUndoLikeAnyOther) {
    start();
    editing().write(test_stroke(10, 60));
    QSignalSpy added(&editing(), &PageEditing::added);
    editing().add_divider();
    ASSERT_EQ(page().dividers.size(), 1U);
    const Divider rule = page().dividers[0];
    EXPECT_GT(rule.middle.y, 62) << "below what is on the page";
    EXPECT_LT(rule.length_mm, page().info.width_mm);
    ASSERT_EQ(added.count(), 1);
    EXPECT_EQ(added[0][0].value<std::vector<ElementId>>(), std::vector{rule.id});
    session_->wait_idle();
    EXPECT_EQ(kept().dividers, page().dividers);
    EXPECT_EQ(session_->document().undo_state().undo, "Insert a divider");
    editing().undo();
    session_->wait_idle();
    EXPECT_TRUE(page().dividers.empty());
    EXPECT_TRUE(kept().dividers.empty());
}

TEST_F(Editing, PastedElementsOfEveryKindGetIdsAndLoseTheirInk) {
    start();
    TextBlock typed;
    typed.paragraphs = {{{{"frost", {}}}}};
    typed.ink = {77};
    editing().put(Elements{{test_stroke(1, 2)}, {}, {typed}, {Divider{}}}, {70, 100}, ids_[0], "Paste");
    EXPECT_EQ(page().count(), 3U);
    EXPECT_TRUE(page().texts[0].ink.empty());
    for (const ElementId id : ids_of(page())) EXPECT_NE(id, 0);
    const Point middle = drawn_box(page()).centre();
    EXPECT_NEAR(middle.x, 70, 1);
    EXPECT_NEAR(middle.y, 100, 3) << "the type is as high as it turns out to be";
    editing().put(Elements{{test_stroke(1, 2)}}, {70, 100}, ids_[0] + 1000, "Paste");
    EXPECT_EQ(page().count(), 3U) << "another page is open by now";
}

TEST_F(Editing, NothingIsChangedWhereNothingCanBe) {
    start();
    session_.reset();
    auto held = *Library::open(library_.directory);
    ASSERT_FALSE(held->why_read_only());
    auto second = *Library::open(library_.directory);
    ASSERT_TRUE(second->why_read_only());
    session_ = std::make_unique<Session>(std::move(second), models_directory());
    session_->open_page(ids_[0]);
    session_->wait_idle();
    QSignalSpy problems(&session_->messages(), &Messages::problem);
    EXPECT_EQ(editing().write(test_stroke(1, 2)), 0);
    EXPECT_TRUE(page().strokes.empty());
    EXPECT_EQ(problems.count(), 1);
}

}  // namespace
}  // namespace fernleaf
