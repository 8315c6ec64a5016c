#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include <csignal>
#include <random>

#include "store/temporary_library.h"

namespace fernleaf {
namespace {

constexpr int64_t kBegan = 1'790'000'000'000, kDay = 86'400'000;

// A line of waves as high as writing.
CapturedStroke captured(uint64_t number, PageAddress address, int line = 0, int64_t start = kBegan) {
    CapturedStroke out{number, address, start, {}};
    for (int i = 0; i < 100; ++i)
        out.points.push_back({1500 + 100 * i, 2000 + 700 * line + (i % 4 < 2 ? 120 : -120), 128, 8, 0, 0});
    return out;
}

std::vector<std::string> titles(const Library& library) {
    std::vector<std::string> out;
    for (const Notebook& n : *library.notebooks()) out.push_back(n.title);
    return out;
}

TEST(Captures, GoToThePagesOfTheirAddresses) {
    TemporaryLibrary library;
    const auto kept = library->keep_captures(
        "FL-1", {captured(1, {2, 5, 4}), captured(2, {2, 5, 9}), captured(3, {2, 5, 4}, 1), captured(4, {1, 1, 1})});
    ASSERT_TRUE(kept) << kept.error().message;
    ASSERT_EQ(kept->pages.size(), 3U);
    EXPECT_TRUE(kept->pages[0].new_page);
    EXPECT_EQ(titles(*library.library), (std::vector<std::string>{"Field notebook 5", "Pocket notebook 1"}));
    const auto page = library->load_page(kept->pages[0].page);
    ASSERT_TRUE(page);
    ASSERT_EQ(page->strokes.size(), 2U);
    EXPECT_EQ(page->strokes[0].points[0].at, (Point{15, 21.2}));
    EXPECT_EQ(page->strokes[0].start_ms, kBegan);
    EXPECT_EQ(page->info.paper, Paper::squared);
    EXPECT_FALSE(library->undo_state(page->info.id)->undo) << "what a pen brings is no step of undo";
    EXPECT_EQ(library->unread()->size(), 3U);
    EXPECT_TRUE(library->check()->empty());
}

TEST(Captures, PagesStandInTheOrderOfTheNotebookWheneverTheyAreWritten) {
    TemporaryLibrary library;
    std::vector<PageId> pages;
    uint64_t number = 0;
    for (const uint16_t page : std::vector<uint16_t>{7, 3, 9, 1}) {
        const auto kept = library->keep_captures("FL-1", {captured(++number, {2, 5, page})});
        ASSERT_TRUE(kept);
        pages.push_back(kept->pages[0].page);
    }
    std::vector<PageId> order;
    for (const PageInfo& p : *library->pages(library->notebooks()->front().id)) order.push_back(p.id);
    EXPECT_EQ(order, (std::vector<PageId>{pages[3], pages[1], pages[0], pages[2]}));
}

TEST(Captures, AreKeptOnceAndWithoutGaps) {
    TemporaryLibrary library;
    ASSERT_TRUE(library->keep_captures("FL-1", {captured(1, {2, 5, 4}), captured(2, {2, 5, 4})}));
    const auto again = library->keep_captures("FL-1", {captured(2, {2, 5, 4}), captured(3, {2, 5, 4})});
    ASSERT_TRUE(again);
    EXPECT_EQ(again->pages[0].strokes.size(), 1U);
    EXPECT_EQ(library->load_page(again->pages[0].page)->strokes.size(), 3U);
    EXPECT_FALSE(library->keep_captures("FL-1", {captured(5, {2, 5, 4})}));
    EXPECT_EQ(library->pen("FL-1")->kept, 3U);
    ASSERT_TRUE(library->keep_captures("FL-2", {captured(1, {2, 5, 4})})) << "another pen counts by itself";
}

TEST(Captures, StrokesErasedOnScreenStayInTheLibrary) {
    TemporaryLibrary library;
    const auto kept = library->keep_captures("FL-1", {captured(1, {2, 5, 4})});
    const PageId page = kept->pages[0].page;
    Edit erase{"Erase", {}, {{kept->pages[0].strokes[0]}}};
    ASSERT_TRUE(library->commit(page, erase));
    EXPECT_TRUE(library->load_page(page)->strokes.empty());
    EXPECT_EQ(library->strokes({kept->pages[0].strokes[0].id})->size(), 1U);
    ASSERT_TRUE(library->undo(page));
    EXPECT_EQ(library->load_page(page)->strokes.size(), 1U);
}

TEST(Captures, APageOrNotebookInTheBinIsNotWrittenOnAnyMore) {
    TemporaryLibrary library;
    const auto first = library->keep_captures("FL-1", {captured(1, {2, 5, 4})});
    ASSERT_TRUE(library->bin_page(first->pages[0].page));
    const auto second = library->keep_captures("FL-1", {captured(2, {2, 5, 4})});
    EXPECT_NE(second->pages[0].page, first->pages[0].page);
    EXPECT_EQ(second->pages[0].book, first->pages[0].book);
    ASSERT_TRUE(library->bin_notebook(library->notebooks()->front().id));
    const auto third = library->keep_captures("FL-1", {captured(3, {2, 5, 4})});
    EXPECT_NE(third->pages[0].book, first->pages[0].book);
    ASSERT_TRUE(library->empty_bin());
    EXPECT_EQ(library->addressed_books()->size(), 1U);
    EXPECT_TRUE(library->check()->empty());
}

TEST(Captures, UnknownPaperIsKeptOnPlainSheets) {
    TemporaryLibrary library;
    const auto kept = library->keep_captures("FL-1", {captured(1, {999, 65535, 65535})});
    ASSERT_TRUE(kept);
    EXPECT_EQ(titles(*library.library), std::vector<std::string>{"Unknown paper 65535"});
}

TEST(Pens, AreRememberedAndForgottenButNotWhatTheyWrote) {
    TemporaryLibrary library;
    PenRecord pen = *library->pen("FL-1");
    EXPECT_FALSE(pen.key);
    pen.name = "Walnut", pen.key = key_of("4711", "FL-1"), pen.seen_ms = kBegan, pen.state.battery = 80;
    ASSERT_TRUE(library->remember_pen(pen));
    ASSERT_TRUE(library->keep_captures("FL-1", {captured(1, {2, 5, 4})}));
    library.reopen();
    ASSERT_EQ(library->pens()->size(), 1U);
    EXPECT_EQ(library->pens()->front().key, pen.key);
    EXPECT_EQ(library->pens()->front().kept, 1U);
    EXPECT_EQ(library->pens()->front().state.battery, 80);
    ASSERT_TRUE(library->forget_pen("FL-1"));
    EXPECT_TRUE(library->pens()->empty());
    EXPECT_EQ(library->pen("FL-1")->kept, 1U);
}

// Fills pages of a pocket notebook, and writes on its first page again a day later.
struct SecondNotebook {
    explicit SecondNotebook(uint16_t last) {
        std::vector<CapturedStroke> strokes;
        for (const uint16_t page : {uint16_t{1}, uint16_t{2}, last})
            for (int line = 0; line < 15; ++line) strokes.push_back(captured(++number, {1, 3, page}, line));
        earlier = *library->keep_captures("FL-1", strokes);
        strokes.clear();
        for (int line = 0; line < 5; ++line) strokes.push_back(captured(++number, {1, 3, 1}, line, kBegan + kDay));
        later = *library->keep_captures("FL-1", strokes);
    }
    TemporaryLibrary library;
    uint64_t number = 0;
    KeptCaptures earlier, later;
};

TEST(SecondNotebooks, AreToldByInkOverInkOnAFirstPageAfterTheLast) {
    EXPECT_EQ(SecondNotebook(96).later.pages[0].other, OtherNotebook::yes);
    EXPECT_EQ(SecondNotebook(40).later.pages[0].other, OtherNotebook::perhaps);
}

TEST(SecondNotebooks, ArePartedAndJoinedAgain) {
    SecondNotebook s(96);
    const auto& page = s.later.pages[0];
    EXPECT_EQ(page.other_from, 46U);
    const auto parted = s.library->part_book(page.book, "FL-1", page.other_from);
    ASSERT_TRUE(parted) << parted.error().message;
    EXPECT_EQ(s.library->load_page(page.page)->strokes.size(), 15U);
    const PageId moved = s.library->pages(parted->notebook)->front().id;
    EXPECT_EQ(s.library->load_page(moved)->strokes.size(), 5U);
    const auto next = s.library->keep_captures("FL-1", {captured(s.number + 1, {1, 3, 1}, 6, kBegan + kDay)});
    EXPECT_EQ(next->pages[0].page, moved) << "what comes next is the other's";
    EXPECT_TRUE(s.library->check()->empty());
    ASSERT_TRUE(s.library->join_books(page.book, parted->id));
    EXPECT_EQ(s.library->load_page(page.page)->strokes.size(), 21U);
    EXPECT_EQ(s.library->notebooks()->size(), 1U);
    const auto last = s.library->keep_captures("FL-1", {captured(s.number + 2, {1, 3, 2}, 6, kBegan + kDay)});
    EXPECT_EQ(last->pages[0].book, page.book);
    EXPECT_TRUE(s.library->check()->empty());
}

TEST(SecondNotebooks, AnArchivedOneGivesItsAddressBack) {
    TemporaryLibrary library;
    const auto first = library->keep_captures("FL-1", {captured(1, {1, 3, 1})});
    const NotebookId notebook = library->notebooks()->at(0).id;
    const auto in_use = [&] { return !library->addressed_books()->at(0).archived; };
    ASSERT_TRUE(library->archive_notebook(notebook, true));
    EXPECT_FALSE(in_use());
    ASSERT_TRUE(library->archive_notebook(notebook, false));
    EXPECT_TRUE(in_use()) << "nothing was written since";
    ASSERT_TRUE(library->archive_notebook(notebook, true));
    const auto second = library->keep_captures("FL-1", {captured(2, {1, 3, 1})});
    EXPECT_NE(second->pages[0].book, first->pages[0].book);
    ASSERT_TRUE(library->archive_notebook(notebook, false));
    EXPECT_FALSE(in_use()) << "its address is another's now";
    EXPECT_FALSE(library->notebook(notebook)->archived);
}

// What a pen may forget is what the library says it kept, whenever its program is killed.
TEST(Captures, KilledAtAnyMomentWhatIsKeptIsWhatIsThere) {
    TemporaryLibrary library;
    library.library.reset();
    std::mt19937 random(20261130);
    for (int round = 0; round < 60; ++round) {
        const pid_t child = ::fork();
        ASSERT_GE(child, 0);
        if (child == 0) {
            const auto open = Library::open(library.directory);
            if (!open) _exit(3);
            for (;;) {
                const uint64_t next = (*open)->pen("FL-1")->kept + 1;
                const auto page = static_cast<uint16_t>(1 + next / 50);
                if (!(*open)->keep_captures("FL-1", {captured(next, {2, 5, page}), captured(next + 1, {2, 5, page})}))
                    _exit(4);
            }
        }
        ::usleep(static_cast<useconds_t>(5'000 + random() % 25'000));
        ::kill(child, SIGKILL);
        int status = 0;
        ::waitpid(child, &status, 0);
        ASSERT_TRUE(WIFSIGNALED(status)) << WEXITSTATUS(status);
    }
    library.reopen();
    const uint64_t kept = library->pen("FL-1")->kept;
    EXPECT_GT(kept, 100U);
    size_t there = 0;
    for (const Notebook& n : *library->notebooks())
        for (const PageInfo& p : *library->pages(n.id)) there += library->load_page(p.id)->strokes.size();
    EXPECT_EQ(there, kept);
    EXPECT_TRUE(library->check()->empty());
}

TEST(Captures, APenThatWasResetCountsAnewAndWhatItCapturedStays) {
    TemporaryLibrary library;
    ASSERT_TRUE(library->keep_captures("FL-1", {captured(1, {1, 3, 1}, 0), captured(2, {1, 3, 1}, 1)}));
    ASSERT_TRUE(library->begin_pen_anew("FL-1", 77));
    EXPECT_EQ(library->pen("FL-1")->memory, 77U);
    EXPECT_EQ(library->pen("FL-1")->kept, 0U);
    const auto kept = library->keep_captures("FL-1", {captured(1, {1, 3, 1}, 2)});
    ASSERT_TRUE(kept) << kept.error().message;
    EXPECT_EQ(library->load_page(kept->pages[0].page)->strokes.size(), 3U);
    EXPECT_TRUE(library->check()->empty());
}

}  // namespace
}  // namespace fernleaf
