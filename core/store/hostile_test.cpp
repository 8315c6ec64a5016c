// Libraries that are damaged, that somebody prepared, that lie where nothing can be written, or that another process
// holds.
#include <fcntl.h>
#include <gtest/gtest.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <fstream>
#include <random>

#include "base/file.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

// Changes a library's database behind its back.
void tamper(const TemporaryLibrary& library, const std::string& sql) {
    auto db = Database::open(library.directory / "library.db", Database::Mode::change);
    ASSERT_TRUE(db);
    (*db)->execute("PRAGMA foreign_keys = OFF");
    (*db)->execute(sql);
    const Status status = (*db)->take_status();
    EXPECT_TRUE(status) << status.error().message;
}

struct Written {
    TemporaryLibrary library;
    PageId page = library.page();
    Edit edit{"Write", {{test_stroke(10, 20), test_stroke(30, 40), test_stroke(50, 60)}}};
    Written() { EXPECT_TRUE(library->commit(page, edit)); }
};

TEST(Hostile, EmptyingTheBinRemovesNothingOutsideTheLibrary) {
    Written w;
    const fs::path outside = w.library.directory.string() + "-outside";
    std::ofstream(outside) << "somebody's letter";
    const std::string way_out = "../../" + outside.filename().string();
    w.library.library.reset();
    tamper(w.library, "INSERT INTO file VALUES ('" + way_out + "', 17), ('" + outside.string() + "', 17)");
    w.library.reopen();
    ASSERT_TRUE(w.library->bin_page(w.page));
    EXPECT_TRUE(w.library->empty_bin());
    EXPECT_TRUE(fs::exists(outside));
    EXPECT_FALSE(w.library->file(way_out));
    EXPECT_FALSE(w.library->file(outside.string()));
    fs::remove(outside);
}

TEST(Hostile, APipeAmongTheFilesIsNotWaitedFor) {
    Written w;
    const std::string hash(64, 'a');
    ASSERT_EQ(::mkfifo((w.library.directory / "files" / hash).c_str(), 0600), 0);
    w.library.library.reset();
    tamper(w.library, "INSERT INTO file VALUES ('" + hash + "', 5)");
    w.library.reopen();
    EXPECT_FALSE(w.library->file(hash));
    EXPECT_EQ(w.library->check()->size(), 1U);
}

TEST(Hostile, VersionsThatNeverWereAreRefused) {
    for (const char* version : {"-1000", "-1", "1000000"}) {
        Written w;
        w.library.library.reset();
        tamper(w.library, std::string("PRAGMA user_version = ") + version);
        EXPECT_FALSE(Library::open(w.library.directory)) << version;
    }
}

TEST(Hostile, ABadStrokeIsLeftOutAndTold) {
    for (const char* damage :
         {"UPDATE element SET body = x'0100FFFF' WHERE id = (SELECT min(id) FROM element)",
          "UPDATE element SET kind = 250 WHERE id = (SELECT min(id) FROM element)",
          "UPDATE element SET z = 9e999 WHERE id = (SELECT min(id) FROM element)",
          "UPDATE element SET page = page + 0, z = z + 1 WHERE id = (SELECT min(id) FROM element)"}) {
        Written w;
        w.library.library.reset();
        tamper(w.library, damage);
        w.library.reopen();
        const auto page = w.library->load_page(w.page);
        ASSERT_TRUE(page) << damage;
        EXPECT_EQ(page->strokes.size(), 2U) << damage;
        EXPECT_EQ(page->damaged, 1U) << damage;
        EXPECT_EQ(w.library->check()->size(), 1U) << damage;
    }
}

TEST(Hostile, ABadReadingHidesNeitherThePageNorTheLibrary) {
    Written w;
    ASSERT_TRUE(w.library->save_reading(w.page, test_reading({{"frost", "first"}})));
    for (const char* words : {"{bad", "[1]", "{\"text\":7}", "[{\"text\":\"a\",\"certainty\":1,\"box\":[1]}]",
                              "[{\"text\":\"a\",\"certainty\":1,\"box\":[0,0,1,1],\"block\":[1,1e300]}]"}) {
        w.library.library.reset();
        tamper(w.library, "UPDATE reading_line SET words = '" + std::string(words) + "'");
        w.library.reopen();
        EXPECT_TRUE(w.library->notebooks());
        EXPECT_TRUE(w.library->contents(w.library->load_page(w.page)->info.notebook));
        const auto reading = w.library->reading(w.page);
        ASSERT_TRUE(reading) << words;
        EXPECT_TRUE(reading->lines.empty()) << words;
        EXPECT_TRUE(w.library->find(*parse_query("frost")));
        EXPECT_FALSE(w.library->check()->empty()) << words;
    }
}

TEST(Hostile, BadSignsOfAFormulaHideItAlone) {
    Written w;
    Reading reading = test_reading({{"frost", "first"}});
    ReadLine formula = reading.lines[0];
    formula.kind = RegionKind::math;
    formula.words.resize(1);
    formula.words[0].text = "x=4";
    formula.signs = {formula.words[0]};
    reading.lines.push_back(formula);
    for (const char* signs : {"{bad", "[1]", "7", "[{\"text\":\"a\",\"certainty\":1,\"box\":[1]}]"}) {
        ASSERT_TRUE(w.library->save_reading(w.page, reading));
        w.library.library.reset();
        tamper(w.library, "UPDATE reading_line SET signs = '" + std::string(signs) + "' WHERE kind = 3");
        w.library.reopen();
        const auto left = w.library->reading(w.page);
        ASSERT_TRUE(left) << signs;
        ASSERT_EQ(left->lines.size(), 1U) << signs;
        EXPECT_EQ(left->lines[0].kind, RegionKind::text);
        EXPECT_FALSE(w.library->check()->empty()) << signs;
    }
}

TEST(Hostile, ABadListOfIdsEndsNothing) {
    Written w;
    w.library.say(w.page, {{w.edit.added.strokes[0].id}, Box::of(0, 0, 5, 5), "frost"});
    w.library.library.reset();
    tamper(w.library,
           "UPDATE correction SET strokes = '[\"x\"]'; UPDATE edit SET operations = '[[\"correct\", [1.5]], 3]'");
    w.library.reopen();
    EXPECT_TRUE(w.library->corrections(w.page)->empty());
    EXPECT_FALSE(w.library->undo(w.page));
    EXPECT_EQ(w.library->load_page(w.page)->strokes.size(), 3U);
    EXPECT_EQ(w.library->load_page(w.page)->damaged, 1U) << "told when the page is opened";
    EXPECT_EQ(w.library->check()->size(), 3U);  // the correction and both edits
}

TEST(Hostile, FlippedBitsAreDetectedOrHarmless) {
    Written w;
    ASSERT_TRUE(w.library->save_reading(w.page, test_reading({{"frost", "first"}})));
    const Page whole = *w.library->load_page(w.page);
    w.library.library.reset();
    const fs::path database = w.library.directory / "library.db";
    const std::string bytes = *read_regular(database, 10'000'000);
    std::mt19937 random(20261128);
    for (int i = 0; i < 300; ++i) {
        std::string flipped = bytes;
        flipped[random() % flipped.size()] ^= static_cast<char>(1 << random() % 8);
        std::ofstream(database, std::ios::binary | std::ios::trunc) << flipped;
        auto library = Library::open(w.library.directory);
        if (!library) continue;
        const auto page = (*library)->load_page(w.page);
        if (!page) continue;
        for (const Stroke& s : page->strokes)
            EXPECT_NE(std::ranges::find(whole.strokes, s), whole.strokes.end()) << "ink was altered unseen, flip " << i;
        if (page->strokes != whole.strokes) {
            EXPECT_FALSE((*library)->check()->empty()) << i;
        }
    }
    std::ofstream(database, std::ios::binary | std::ios::trunc) << bytes;
}

TEST(Repair, SavesAllThatIsSoundAndKeepsTheDamagedOneBeside) {
    Written w;
    const std::string hash = *w.library->add_file("a picture");
    Edit more{"Insert a picture"};
    more.added.pictures = {{0, hash, "shed.png", 0, Box::of(0, 0, 50, 50)}};
    ASSERT_TRUE(w.library->commit(w.page, more));
    ASSERT_TRUE(w.library->save_reading(w.page, test_reading({{"frost", "first"}})));
    w.library.library.reset();
    tamper(w.library, "UPDATE element SET body = x'0100FFFF' WHERE id = (SELECT min(id) FROM element)");
    const auto beside = Library::repair(w.library.directory);
    ASSERT_TRUE(beside) << beside.error().message;
    EXPECT_TRUE(fs::exists(w.library.directory / *beside));
    w.library.reopen();
    EXPECT_TRUE(w.library->check()->empty());
    const auto page = w.library->load_page(w.page);
    ASSERT_TRUE(page);
    EXPECT_EQ(page->strokes.size(), 2U);
    EXPECT_EQ(page->pictures, more.added.pictures);
    EXPECT_EQ(page->damaged, 0U);
    EXPECT_EQ(*w.library->unread(), std::vector{w.page});
    EXPECT_EQ(w.library->find(*parse_query("frost"))->size(), 1U);
    EXPECT_EQ(*w.library->undo_state(w.page)->undo, "Insert a picture");
}

TEST(Repair, GivesInkWhosePageIsLostAPage) {
    Written w;
    w.library.library.reset();
    tamper(w.library, "DELETE FROM page; DELETE FROM notebook");
    ASSERT_TRUE(Library::repair(w.library.directory));
    w.library.reopen();
    const auto notebooks = w.library->notebooks();
    ASSERT_EQ(notebooks->size(), 1U);
    const auto pages = w.library->pages(notebooks->front().id);
    ASSERT_EQ(pages->size(), 1U);
    EXPECT_EQ(w.library->load_page(pages->front().id)->strokes.size(), 3U);
    EXPECT_TRUE(w.library->check()->empty());
}

TEST(Repair, SavesRowsFromADatabaseWithABrokenPage) {
    TemporaryLibrary library;
    const PageId page = library.page();
    for (int i = 0; i < 400; ++i) {
        Edit edit{"Write", {{test_stroke(i % 100, i % 200)}}};
        ASSERT_TRUE(library->commit(page, edit));
    }
    library.library.reset();
    const fs::path database = library.directory / "library.db";
    std::vector<int64_t> pages;  // with rows of elements
    {
        auto db = Database::open(database, Database::Mode::change);
        ASSERT_TRUE(db);
        Statement s = (*db)->prepare("SELECT pageno FROM dbstat WHERE name = 'element' AND pagetype = 'leaf'");
        while (s.step()) pages.push_back(s.integer(0));
    }
    ASSERT_GT(pages.size(), 4U);
    std::string bytes = *read_regular(database, 10'000'000);
    std::fill_n(bytes.begin() + static_cast<std::ptrdiff_t>((pages[pages.size() / 2] - 1) * 4096), 4096, '\xEE');
    std::ofstream(database, std::ios::binary | std::ios::trunc) << bytes;
    const auto beside = Library::repair(library.directory);
    ASSERT_TRUE(beside) << beside.error().message;
    library.reopen();
    EXPECT_TRUE(library->check()->empty());
    EXPECT_GT(library->load_page(page)->strokes.size(), 200U);
}

TEST(ReadOnly, ALibraryIsReadWhereNothingCanBeMade) {
    Written w;
    const auto look = [&](const char* what) {
        // As a person without rights: where the tests run as root these would not bind.
        const pid_t child = ::fork();
        if (child == 0) {
            if (::getuid() == 0 && ::setuid(65534) != 0) _exit(9);
            const auto library = Library::open(w.library.directory);
            if (!library) _exit(1);
            if (!(*library)->why_read_only()) _exit(2);
            const auto page = (*library)->load_page(w.page);
            _exit(page && page->strokes.size() == 3 ? 0 : 3);
        }
        int status = 0;
        ::waitpid(child, &status, 0);
        EXPECT_EQ(WEXITSTATUS(status), 0) << what;
    };
    const auto set_rights = [&](fs::perms of_folder) {
        for (const auto& entry : fs::directory_iterator(w.library.directory))
            if (entry.is_regular_file()) fs::permissions(entry.path(), fs::perms(0444));
        fs::permissions(w.library.directory, of_folder);
    };
    // As a killed process leaves it: with a log that is not in the database yet.
    const fs::path copy = w.library.directory.string() + "-log";
    fs::copy(w.library.directory, copy, fs::copy_options::recursive);
    w.library.library.reset();
    fs::permissions(fs::temp_directory_path(), fs::perms::others_exec, fs::perm_options::add);
    set_rights(fs::perms(0555));
    look("closed");
    fs::permissions(w.library.directory, fs::perms(0755));
    ASSERT_TRUE(fs::exists(copy / "library.db-wal"));
    for (const auto& entry : fs::directory_iterator(copy))
        if (entry.is_regular_file())
            fs::copy_file(entry.path(), w.library.directory / entry.path().filename(),
                          fs::copy_options::overwrite_existing);
    fs::remove_all(copy);
    fs::remove(w.library.directory / "library.db-shm");
    set_rights(fs::perms(0555));
    look("with a log");
    fs::permissions(w.library.directory, fs::perms(0755));
}

TEST(ReadOnly, ADirectoryWithoutRightsIsSaidToBeOne) {
    Written w;
    w.library.library.reset();
    fs::permissions(w.library.directory, fs::perms(0000));
    const pid_t child = ::fork();
    if (child == 0) {
        if (::getuid() == 0 && ::setuid(65534) != 0) _exit(9);
        const auto library = Library::open(w.library.directory);
        _exit(!library && library.error().message.find("ermission") != std::string::npos ? 0 : 1);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    EXPECT_EQ(WEXITSTATUS(status), 0);
    fs::permissions(w.library.directory, fs::perms(0755));
}

TEST(ReadOnly, AMissingOrEmptyDatabaseBesideFilesIsNoNewLibrary) {
    for (const bool empty : {false, true}) {
        Written w;
        ASSERT_TRUE(w.library->add_file("a picture"));
        w.library.library.reset();
        fs::remove(w.library.directory / "library.db");
        if (empty) std::ofstream(w.library.directory / "library.db");
        const auto opened = Library::open(w.library.directory);
        ASSERT_FALSE(opened);
        EXPECT_NE(opened.error().message.find(empty ? "empty" : "missing"), std::string::npos);
        EXPECT_EQ(std::distance(fs::directory_iterator(w.library.directory / "files"), {}), 1);
    }
}

TEST(Lock, HoldsThoughItsFileIsRemoved) {
    TemporaryLibrary first;
    fs::remove(first.directory / "lock");
    auto second = Library::open(first.directory);
    ASSERT_TRUE(second);
    EXPECT_TRUE((*second)->why_read_only());
    EXPECT_FALSE((*second)->could_write_now());
}

TEST(Lock, CanBeTakenWhenTheOtherIsGone) {
    TemporaryLibrary first;
    const PageId page = first.page();
    auto second = Library::open(first.directory);
    ASSERT_TRUE(second);
    EXPECT_TRUE((*second)->why_read_only());
    EXPECT_FALSE((*second)->begin_writing());
    first.library.reset();
    EXPECT_TRUE((*second)->could_write_now());
    ASSERT_TRUE((*second)->begin_writing());
    EXPECT_FALSE((*second)->why_read_only());
    Edit edit{"Write", {{test_stroke(1, 2)}}};
    EXPECT_TRUE((*second)->commit(page, edit));
}

TEST(Ids, OneThatAnotherElementHasIsRenewedAndNothingIsDropped) {
    Written w;
    const StrokeId taken = w.edit.added.strokes[0].id;
    Edit clash{"Write", {{test_stroke(77, 88)}}};
    clash.added.strokes[0].id = taken;
    clash.corrections_added = {{{taken}, Box::of(77, 88, 2, 2), "frost"}};
    bool renewed = false;
    ASSERT_TRUE(w.library->commit(w.page, clash, &renewed));
    EXPECT_TRUE(renewed);
    EXPECT_NE(clash.added.strokes[0].id, taken);
    EXPECT_EQ(clash.corrections_added[0].strokes[0], clash.added.strokes[0].id);
    EXPECT_EQ(w.library->load_page(w.page)->strokes.size(), 4U);
    EXPECT_TRUE(w.library->check()->empty());
    // The same element once more, as when ink comes back to its page, is no clash.
    Edit away{"Erase", {}, {{w.edit.added.strokes[1]}}}, back{"Back", {{w.edit.added.strokes[1]}}};
    ASSERT_TRUE(w.library->commit(w.page, away));
    ASSERT_TRUE(w.library->commit(w.page, back, &renewed));
    EXPECT_FALSE(renewed);
    EXPECT_EQ(w.library->load_page(w.page)->strokes.size(), 4U);
}

TEST(Ids, WhatComesFromOutsideWithIdsTakesNobodysPlace) {
    Written w;
    std::vector<FilledPage> pages(2);
    for (FilledPage& page : pages) {
        page.content.strokes = {test_stroke(7, 8), test_stroke(9, 10)};
        page.content.strokes[0].id = w.edit.added.strokes[0].id;  // another stroke has it
        page.content.strokes[1].id = 1'000'000;
    }
    const auto ids = w.library->add_filled_pages(w.library->load_page(w.page)->info.notebook, pages);
    ASSERT_TRUE(ids) << ids.error().message;
    for (const PageId id : *ids) EXPECT_EQ(w.library->load_page(id)->strokes.size(), 2U);
    EXPECT_EQ(w.library->load_page(w.page)->strokes, w.edit.added.strokes);
    EXPECT_GT(w.library->new_element_id(), 1'000'000);
}

TEST(Unread, IsKeptUntilAReadingOfWhatIsThereIsSaved) {
    Written w;
    EXPECT_EQ(*w.library->unread(), std::vector{w.page});
    const ReadMark before = *w.library->unread_mark(w.page);
    Edit more{"Write", {{test_stroke(5, 6)}}};
    ASSERT_TRUE(w.library->commit(w.page, more));
    ASSERT_TRUE(w.library->save_reading(w.page, {}, before));  // of what was there before
    EXPECT_EQ(w.library->unread()->size(), 1U);
    ASSERT_TRUE(w.library->save_reading(w.page, {}, kNotWhole));
    EXPECT_EQ(w.library->unread()->size(), 1U);
    w.library.reopen();
    ASSERT_TRUE(w.library->save_reading(w.page, {}, *w.library->unread_mark(w.page)));
    EXPECT_TRUE(w.library->unread()->empty());
    ASSERT_TRUE(w.library->undo(w.page));
    EXPECT_EQ(w.library->unread()->size(), 1U);
}

TEST(Unread, AReadingThatIsNotWholeMakesAPageUnreadThatWasRead) {
    Written w;
    ASSERT_TRUE(w.library->save_reading(w.page, test_reading({{"frost", "first"}})));
    const ReadMark mark = *w.library->unread_mark(w.page);
    ASSERT_TRUE(w.library->save_reading(w.page, {}, mark));
    EXPECT_TRUE(w.library->unread()->empty()) << "it was read before, and now again";
    ASSERT_TRUE(w.library->save_reading(w.page, {}, kNotWhole));
    EXPECT_EQ(*w.library->unread(), std::vector{w.page});
    ASSERT_TRUE(w.library->save_reading(w.page, {}, mark));
    EXPECT_EQ(*w.library->unread(), std::vector{w.page}) << "something came after that mark";
}

TEST(Unread, OtherLanguagesMakeANotebookUnread) {
    Written w;
    ASSERT_TRUE(w.library->save_reading(w.page, {}));
    Notebook notebook = w.library->notebooks()->front();
    notebook.title = "Another title";
    ASSERT_TRUE(w.library->change_notebook(notebook));
    EXPECT_TRUE(w.library->unread()->empty());
    notebook.languages = {"de"};
    ASSERT_TRUE(w.library->change_notebook(notebook));
    EXPECT_EQ(w.library->unread()->size(), 1U);
}

TEST(Unread, APageThatEndsTheProgramIsNotTriedForEver) {
    Written w;
    for (int i = 0; i < kMostTries; ++i) EXPECT_TRUE(w.library->begin_reading(w.page));
    EXPECT_FALSE(w.library->begin_reading(w.page));
    EXPECT_TRUE(w.library->unread()->empty());
    Edit more{"Write", {{test_stroke(5, 6)}}};
    ASSERT_TRUE(w.library->commit(w.page, more));  // it is another page now
    EXPECT_TRUE(w.library->begin_reading(w.page));
}

TEST(Hostile, FoldersWithinThemselvesHoldNothingUp) {
    Written w;
    const NotebookId notebook = w.library->load_page(w.page)->info.notebook;
    w.library.library.reset();
    tamper(w.library, "INSERT INTO folder VALUES (1, 'Hill', 2, 1), (2, 'Weather', 1, 1), (3, 'Lost', 99, 1)");
    tamper(w.library, "UPDATE notebook SET folder = 1");
    w.library.reopen();
    EXPECT_EQ(w.library->folders()->size(), 3U);
    EXPECT_TRUE(w.library->find(*parse_query("folder:hill")));
    EXPECT_TRUE(w.library->find(*parse_query("folder:none"))->empty());
    EXPECT_FALSE(w.library->place_notebook(notebook, 2, 0));
    EXPECT_FALSE(w.library->add_folder("Deeper", 1));
    EXPECT_FALSE(w.library->place_folder(3, 1, 0));
    ASSERT_TRUE(w.library->place_notebook(notebook, kNoFolder, 0)) << "there is a way out";
}

TEST(Hostile, TagsAndErrandsOfAnotherKindAreTakenAsFarAsTheyGo) {
    Written w;
    w.library.library.reset();
    tamper(w.library, "INSERT INTO tag VALUES (1, 'frost', 'frost', -1), (2, x'00FF', x'00FF', 'blue')");
    tamper(w.library, "INSERT INTO page_tag SELECT id, 1 FROM page");
    tamper(w.library, "INSERT INTO errand SELECT id, 77, 0, 0 FROM page");
    tamper(w.library, "UPDATE reading_line SET ticked = 12");
    w.library.reopen();
    const auto tags = w.library->tags();
    ASSERT_TRUE(tags);
    for (const Tag& tag : *tags) EXPECT_LE(tag.colour, 0xFFFFFFU);
    EXPECT_TRUE(w.library->open_errands()->empty());
    EXPECT_TRUE(w.library->todos(true));
    EXPECT_TRUE(w.library->find(*parse_query("tag:frost has:todo")));
    EXPECT_TRUE(w.library->reading(w.page));
}

}  // namespace
}  // namespace fernleaf
