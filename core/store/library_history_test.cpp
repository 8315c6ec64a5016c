#include <gtest/gtest.h>

#include <set>

#include "store/temporary_library.h"

namespace fernleaf {
namespace {

std::set<ElementId> on(const Page& page) {
    const auto ids = ids_of(page);
    return {ids.begin(), ids.end()};
}

TEST(History, TellsEveryStateOfAPage) {
    TemporaryLibrary library;
    const PageId page = library.page();
    std::vector<std::set<ElementId>> states{on(*library->load_page(page))};
    const auto commit = [&](Edit edit) {
        ASSERT_TRUE(library->commit(page, edit));
        states.push_back(on(*library->load_page(page)));
    };
    commit({"Write", {{test_stroke(20, 30)}}});
    commit({"Write", {{test_stroke(40, 30)}}});
    Edit erase{"Erase"};
    erase.removed.strokes = {library->load_page(page)->strokes[0]};
    commit(erase);
    const Sheet before = library->load_page(page)->info;
    Sheet after = before;
    after.paper = Paper::week;
    Edit paper{"Change the paper"};
    paper.sheet = SheetChange{before, after};
    commit(paper);
    Edit rule{"Insert a divider"};
    rule.added.dividers = {{}};
    commit(rule);
    const auto history = library->history(page);
    ASSERT_TRUE(history);
    ASSERT_EQ(history->size(), 5U);
    EXPECT_EQ(history->at(2).label, "Erase");
    EXPECT_GT(history->at(0).made_ms, 0);
    EXPECT_EQ(on(*library->page_after(page, 0)), states[0]);
    for (size_t i = 0; i < history->size(); ++i) {
        const auto then = library->page_after(page, history->at(i).edit);
        ASSERT_TRUE(then);
        EXPECT_EQ(on(*then), states[i + 1]) << i;
        EXPECT_EQ(then->info.paper, i < 3 ? before.paper : Paper::week) << i;
    }
    // What is undone is no part of it.
    ASSERT_TRUE(library->undo(page));
    EXPECT_EQ(library->history(page)->size(), 4U);
    // Brought back by an edit like any other, and that one can be undone.
    const Page now = *library->load_page(page), then = *library->page_after(page, history->at(1).edit);
    Edit back = difference(now, then, "Restore");
    ASSERT_TRUE(library->commit(page, back));
    EXPECT_EQ(on(*library->load_page(page)), states[2]);
    EXPECT_EQ(library->load_page(page)->info.paper, before.paper);
    ASSERT_TRUE(library->undo(page));
    EXPECT_EQ(on(*library->load_page(page)), on(now));
    EXPECT_TRUE(library->check()->empty());
}

TEST(History, WhatAPenBroughtIsThereFromWhenItWasWritten) {
    TemporaryLibrary library;
    const auto kept = library->keep_captures("FL-1", {{1, {2, 5, 1}, 1'000'000, {{1000, 1000}, {4000, 1500}}}});
    ASSERT_TRUE(kept);
    const PageId page = kept->pages[0].page;
    Edit write{"Write", {{test_stroke(20, 30)}}};
    ASSERT_TRUE(library->commit(page, write));
    constexpr int64_t kLongAfter = 4'000'000'000'000;
    ASSERT_TRUE(library->keep_captures("FL-1", {{2, {2, 5, 1}, kLongAfter, {{1000, 3000}, {4000, 3500}}}}));
    Edit more{"Write", {{test_stroke(60, 30)}}};
    ASSERT_TRUE(library->commit(page, more));
    const auto history = library->history(page);
    ASSERT_EQ(history->size(), 2U);
    EXPECT_EQ(library->page_after(page, 0)->strokes.size(), 1U) << "written by the pen before all else";
    EXPECT_EQ(library->page_after(page, history->at(0).edit)->strokes.size(), 2U);
    EXPECT_EQ(library->page_after(page, history->at(1).edit)->strokes.size(), 4U);
}

TEST(History, OfAPageThatIsNotThereIsAnError) {
    TemporaryLibrary library;
    EXPECT_FALSE(library->page_after(4711, 0));
    EXPECT_TRUE(library->history(4711)->empty());
}

}  // namespace
}  // namespace fernleaf
