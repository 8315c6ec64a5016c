#include <gtest/gtest.h>

#include "store/temporary_library.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

class Pages : public testing::Test {
protected:
    Pages() {
        Notebook n;
        n.title = "Grafting trials";
        notebook_ = *library_->add_notebook(n);
        for (PageId& page : pages_) page = *library_->add_page(notebook_, {});
    }
    std::vector<PageId> order(NotebookId notebook) {
        std::vector<PageId> ids;
        const auto pages = *library_->pages(notebook);
        for (size_t i = 0; i < pages.size(); ++i) {
            EXPECT_EQ(pages[i].number, static_cast<int>(i) + 1);
            ids.push_back(pages[i].id);
        }
        return ids;
    }
    NotebookId other() {
        Notebook n;
        n.title = "Frost watch";
        return *library_->add_notebook(n);
    }

    TemporaryLibrary library_;
    NotebookId notebook_ = 0;
    std::array<PageId, 3> pages_{};
};

TEST_F(Pages, AreSetInAnotherOrder) {
    ASSERT_TRUE(library_->move_page(pages_[0], notebook_, 2));
    EXPECT_EQ(order(notebook_), (std::vector{pages_[1], pages_[0], pages_[2]}));
    ASSERT_TRUE(library_->move_page(pages_[2], notebook_, 1));
    EXPECT_EQ(order(notebook_), (std::vector{pages_[2], pages_[1], pages_[0]}));
    ASSERT_TRUE(library_->move_page(pages_[2], notebook_, 99));
    EXPECT_EQ(order(notebook_), (std::vector{pages_[1], pages_[0], pages_[2]}));
}

TEST_F(Pages, AreShownInASheafToo) {
    const NotebookId sheaf = other();
    const PageId own = *library_->add_page(sheaf, {});
    const auto shown = library_->show_in(sheaf, {pages_[2], pages_[0], own, pages_[2]});
    ASSERT_TRUE(shown);
    EXPECT_EQ(*shown, (std::vector{pages_[2], pages_[0]})) << "its own, and one twice, are passed over";
    EXPECT_EQ(order(sheaf), (std::vector{own, pages_[2], pages_[0]}));
    EXPECT_EQ((*library_->pages(sheaf))[1].notebook, notebook_);
    EXPECT_EQ(order(notebook_), (std::vector{pages_[0], pages_[1], pages_[2]}));
    ASSERT_TRUE(library_->move_page(pages_[0], sheaf, 2));
    EXPECT_EQ(order(sheaf), (std::vector{own, pages_[0], pages_[2]}));
    EXPECT_EQ(order(notebook_), (std::vector{pages_[0], pages_[1], pages_[2]})) << "it is not moved";
    // What is in the bin is shown nowhere, and comes back to both.
    ASSERT_TRUE(library_->bin_page(pages_[0]));
    EXPECT_EQ(order(sheaf), (std::vector{own, pages_[2]}));
    ASSERT_TRUE(library_->restore_page(pages_[0]));
    EXPECT_EQ(order(sheaf), (std::vector{own, pages_[0], pages_[2]}));
    ASSERT_TRUE(library_->bin_notebook(notebook_));
    EXPECT_EQ(order(sheaf), std::vector{own});
    ASSERT_TRUE(library_->restore_notebook(notebook_));
    ASSERT_TRUE(library_->show_no_more(sheaf, {pages_[0]}));
    EXPECT_EQ(order(sheaf), (std::vector{own, pages_[2]}));
    ASSERT_TRUE(library_->archive_notebook(sheaf, true));
    EXPECT_FALSE(library_->show_in(sheaf, {pages_[1]}));
    EXPECT_FALSE(library_->show_no_more(sheaf, {pages_[2]}));
    // A sheaf that goes for good takes nothing along.
    ASSERT_TRUE(library_->archive_notebook(sheaf, false));
    ASSERT_TRUE(library_->bin_notebook(sheaf));
    ASSERT_TRUE(library_->empty_bin());
    EXPECT_EQ(order(notebook_).size(), 3U);
    EXPECT_TRUE(library_->check()->empty());
}

TEST_F(Pages, OfTheBinOnlyWhatLaysThereLongEnoughGoes) {
    const NotebookId emptied = other();
    const PageId in_it = *library_->add_page(emptied, {});
    ASSERT_TRUE(library_->bin_page(pages_[0]));
    ASSERT_TRUE(library_->bin_notebook(emptied));
    const int64_t first = library_->bin()->back().when_ms;
    ASSERT_TRUE(library_->empty_bin(first));
    EXPECT_EQ(library_->bin()->size(), 2U) << "not before that very moment";
    ASSERT_TRUE(library_->empty_bin(first + 86'400'000));
    EXPECT_TRUE(library_->bin()->empty());
    EXPECT_FALSE(library_->load_page(pages_[0]));
    EXPECT_FALSE(library_->load_page(in_it));
    EXPECT_TRUE(library_->load_page(pages_[1]));
    EXPECT_TRUE(library_->check()->empty());
}

TEST_F(Pages, MoveToAnotherNotebookWithTheirUndo) {
    const NotebookId to = other();
    Edit edit{"Write", {{test_stroke(10, 20)}}};
    ASSERT_TRUE(library_->commit(pages_[1], edit));
    ASSERT_TRUE(library_->move_page(pages_[1], to, 1));
    EXPECT_EQ(order(notebook_), (std::vector{pages_[0], pages_[2]}));
    EXPECT_EQ(order(to), (std::vector{pages_[1]}));
    ASSERT_TRUE((*library_->undo(pages_[1])).has_value());
    EXPECT_TRUE(library_->load_page(pages_[1])->strokes.empty());
}

TEST_F(Pages, CopiesKeepWhatWasSaidOfTheirInkAndWhatTypeWasSetFrom) {
    Edit write{"Write", {{test_stroke(10, 20), test_stroke(30, 40)}}};
    ASSERT_TRUE(library_->commit(pages_[0], write));
    const StrokeId kept = write.added.strokes[0].id;
    library_.say(pages_[0], {{kept}, Box::of(1, 2, 3, 4), "Hallow"});
    TextBlock block;
    block.paragraphs = {{{{"frost", {}}}}};
    block.ink = {write.added.strokes[1].id};
    Edit set{"Set in type", {{}, {}, {block}}, {{write.added.strokes[1]}}};
    ASSERT_TRUE(library_->commit(pages_[0], set));

    const auto copy = library_->copy_page(pages_[0], notebook_, 2);
    ASSERT_TRUE(copy);
    EXPECT_EQ(order(notebook_), (std::vector{pages_[0], *copy, pages_[1], pages_[2]}));
    const auto page = *library_->load_page(*copy);
    ASSERT_EQ(page.strokes.size(), 1U);
    EXPECT_NE(page.strokes[0].id, kept);
    EXPECT_EQ(page.strokes[0].points, library_->load_page(pages_[0])->strokes[0].points);
    const auto corrections = *library_->corrections(*copy);
    ASSERT_EQ(corrections.size(), 1U);
    EXPECT_EQ(corrections[0].strokes, (std::vector{page.strokes[0].id}));
    ASSERT_EQ(page.texts.size(), 1U);
    const auto ink = *library_->strokes(page.texts[0].ink);
    ASSERT_EQ(ink.size(), 1U);
    EXPECT_NE(ink[0].id, write.added.strokes[1].id);
    EXPECT_EQ(ink[0].points, write.added.strokes[1].points);
    EXPECT_FALSE((*library_->undo_state(*copy)).undo);
}

TEST_F(Pages, RestInTheBinAndComeBackToTheirPlace) {
    ASSERT_TRUE(library_->save_reading(pages_[1], test_reading({{"scion", "scone"}})));
    ASSERT_TRUE(library_->bin_page(pages_[1]));
    EXPECT_EQ(order(notebook_), (std::vector{pages_[0], pages_[2]}));
    EXPECT_TRUE(library_->find(*parse_query("scion"))->empty()) << "what is in the bin is not found";
    const auto bin = *library_->bin();
    ASSERT_EQ(bin.size(), 1U);
    EXPECT_EQ(bin[0].page, pages_[1]);
    EXPECT_EQ(bin[0].number, 2);
    EXPECT_EQ(bin[0].first_line, "scion");
    ASSERT_TRUE(library_->bin_page(pages_[1])) << "again changes nothing";
    ASSERT_TRUE(library_->restore_page(pages_[1]));
    EXPECT_EQ(order(notebook_), (std::vector{pages_[0], pages_[1], pages_[2]}));
    EXPECT_EQ(library_->find(*parse_query("scion"))->size(), 1U);
    EXPECT_TRUE(library_->bin()->empty());
}

TEST_F(Pages, BringTheirNotebookBackWithThem) {
    ASSERT_TRUE(library_->bin_page(pages_[0]));
    ASSERT_TRUE(library_->bin_notebook(notebook_));
    EXPECT_TRUE(library_->notebooks()->empty());
    EXPECT_EQ(library_->bin()->size(), 2U);
    ASSERT_TRUE(library_->restore_page(pages_[0]));
    EXPECT_EQ(library_->notebooks()->size(), 1U);
    EXPECT_EQ(order(notebook_), (std::vector{pages_[0], pages_[1], pages_[2]}));
}

TEST_F(Pages, EmptyingTheBinTakesFilesThatNothingElseNeeds) {
    const std::string shared = *library_->add_file("shared"), alone = *library_->add_file("alone");
    Edit both{"Import",
              {{}, {{0, shared, "a.png", 0, Box::of(0, 0, 9, 9)}, {0, alone, "b.png", 0, Box::of(0, 0, 9, 9)}}}};
    Edit one{"Import", {{}, {{0, shared, "a.png", 0, Box::of(0, 0, 9, 9)}}}};
    ASSERT_TRUE(library_->commit(pages_[0], both));
    ASSERT_TRUE(library_->commit(pages_[1], one));
    ASSERT_TRUE(library_->bin_page(pages_[0]));
    ASSERT_TRUE(library_->empty_bin());
    EXPECT_TRUE(library_->bin()->empty());
    EXPECT_FALSE(library_->load_page(pages_[0]));
    EXPECT_TRUE(fs::exists(library_.directory / "files" / shared));
    EXPECT_FALSE(fs::exists(library_.directory / "files" / alone));
    EXPECT_EQ(order(notebook_), (std::vector{pages_[1], pages_[2]}));
    EXPECT_TRUE(library_->check()->empty());
}

TEST_F(Pages, EmptyingTheBinLeavesThePaperThatUndoWouldBringBack) {
    const std::string paper = *library_->add_file("paper");
    Edit edit{"Change the paper"};
    edit.sheet = SheetChange{};
    edit.sheet->before.paper = Paper::picture, edit.sheet->before.picture = paper;
    ASSERT_TRUE(library_->commit(pages_[0], edit));
    ASSERT_TRUE(library_->empty_bin());
    EXPECT_TRUE(fs::exists(library_.directory / "files" / paper));
}

TEST_F(Pages, TakeAnotherPaperAsOneStep) {
    Sheet before = library_->load_page(pages_[0])->info, after = before;
    after.paper = Paper::squared, after.spacing_mm = 5, after.colour = 0x223344, after.endless = true;
    Edit edit{"Change the paper"};
    edit.sheet = {before, after};
    ASSERT_TRUE(library_->commit(pages_[0], edit));
    EXPECT_EQ(static_cast<const Sheet&>(library_->load_page(pages_[0])->info), after);
    const auto undone = *library_->undo(pages_[0]);
    ASSERT_TRUE(undone && undone->sheet);
    EXPECT_EQ(undone->sheet->after, before);
    EXPECT_EQ(static_cast<const Sheet&>(library_->load_page(pages_[0])->info), before);
}

TEST_F(Pages, WhatFlowsToAPageOfItsOwnComesAndGoesWithTheEdit) {
    Edit write{"Write", {{test_stroke(10, 20), test_stroke(10, 190)}}};
    ASSERT_TRUE(library_->commit(pages_[0], write));
    const Stroke low = write.added.strokes[1];
    library_.say(pages_[0], {{low.id}, Box::of(1, 2, 3, 4), "Hallow"});
    Edit room{"Make room", {}, {{low}}};
    Stroke page_overflowed = low;
    page_overflowed.id = library_->new_element_id();
    room.overflow = PageOverflow{0, {{page_overflowed}}, {{low.id, page_overflowed.id}}};
    ASSERT_TRUE(library_->commit(pages_[0], room));
    const PageId next = room.overflow->page;
    EXPECT_EQ(order(notebook_), (std::vector{pages_[0], next, pages_[1], pages_[2]}));
    EXPECT_EQ(library_->load_page(next)->strokes.size(), 1U);
    ASSERT_EQ(library_->corrections(next)->size(), 1U);
    EXPECT_EQ((*library_->corrections(next))[0].strokes, (std::vector{page_overflowed.id}));

    ASSERT_TRUE(library_->undo(pages_[0]));
    EXPECT_EQ(order(notebook_), (std::vector{pages_[0], pages_[1], pages_[2]}));
    EXPECT_EQ(library_->load_page(pages_[0])->strokes.size(), 2U);
    EXPECT_EQ(library_->bin()->size(), 1U) << "what was written there meanwhile is not lost";
    ASSERT_TRUE(library_->redo(pages_[0]));
    EXPECT_EQ(order(notebook_), (std::vector{pages_[0], next, pages_[1], pages_[2]}));
}

TEST_F(Pages, ThoseWithUnsureWordsFollowOneAnotherRoundTheNotebook) {
    EXPECT_FALSE(*library_->next_unsure(pages_[0], 0.6));
    Reading unsure = test_reading({{"scion", "scone"}}), sure = unsure, corrected = unsure;
    unsure.lines[0].words[0].certainty = 0.3;
    corrected.lines[0].words[0].certainty = 0.3, corrected.lines[0].words[0].corrected = true;
    ASSERT_TRUE(library_->save_reading(pages_[0], unsure));
    ASSERT_TRUE(library_->save_reading(pages_[1], corrected));
    ASSERT_TRUE(library_->save_reading(pages_[2], unsure));
    EXPECT_EQ(*library_->next_unsure(pages_[0], 0.6), std::optional(pages_[2]));
    EXPECT_EQ(*library_->next_unsure(pages_[2], 0.6), std::optional(pages_[0]));
    ASSERT_TRUE(library_->save_reading(pages_[2], sure));
    EXPECT_EQ(*library_->next_unsure(pages_[0], 0.6), std::optional(pages_[0])) << "itself, when it alone is left";
}

TEST_F(Pages, TypedTextComesBackAsItWas) {
    TextBlock block;
    block.at = {12, 34}, block.width_mm = 80, block.height_mm = 12, block.angle = 15, block.pitch_mm = 8;
    block.fill = 0xFFEEDD;
    TextStyle loud{"Fernleaf Sans", 6, true, true, true, true, 0x8A3B6B, 0xEBCB6B};
    block.paragraphs = {{{{"Frost ", {}}, {"at dawn", loud}}, Align::centre, ListKind::checked, 2, 4, 3}, {}};
    block.words = {{"Frost", Box::of(12, 34, 10, 6), 0}};
    Edit edit{"Type", {{}, {}, {block}}};
    ASSERT_TRUE(library_->commit(pages_[0], edit));
    EXPECT_EQ(library_->load_page(pages_[0])->texts, edit.added.texts);
    Edit gone{"Delete", {}, edit.added};
    ASSERT_TRUE(library_->commit(pages_[0], gone));
    EXPECT_TRUE(library_->load_page(pages_[0])->texts.empty());
    ASSERT_TRUE(library_->undo(pages_[0]));
    EXPECT_EQ(library_->load_page(pages_[0])->texts, edit.added.texts);
    library_.reopen();
    EXPECT_GT(library_->new_element_id(), edit.added.texts[0].id);
    block.at.x = std::numeric_limits<double>::infinity();
    Edit nowhere{"Type", {{}, {}, {block}}};
    EXPECT_FALSE(library_->commit(pages_[0], nowhere));
}

TEST_F(Pages, RememberWhatInkSaidWhenItWasInType) {
    Edit write{"Write", {{test_stroke(10, 20)}}};
    ASSERT_TRUE(library_->commit(pages_[0], write));
    const StrokeId ink = write.added.strokes[0].id;
    TextBlock block;
    block.ink = {ink};
    block.paragraphs = {{{{"edited", {}}}}};
    Edit set{"Set in type", {{}, {}, {block}}, write.added};
    ASSERT_TRUE(library_->commit(pages_[0], set));
    EXPECT_TRUE(library_->former_text_blocks(pages_[0], {ink})->empty()) << "it is on the page";
    Edit back{"Back to ink", write.added, set.added};
    ASSERT_TRUE(library_->commit(pages_[0], back));
    const auto earlier = *library_->former_text_blocks(pages_[0], {ink});
    ASSERT_EQ(earlier.size(), 1U);
    EXPECT_EQ(plain_text(earlier[0]), "edited");
    EXPECT_TRUE(library_->former_text_blocks(pages_[0], {ink + 100})->empty());
}

}  // namespace
}  // namespace fernleaf
