// Disks and statements that fail at any point: a library is as before or as after, never in between.
#include <gtest/gtest.h>

#include <algorithm>
#include <functional>

#include "store/codec.h"
#include "store/faulty_disk.h"
#include "store/records.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

// All that is kept, row by row, but what counts or tells the time.
std::string everything(const std::filesystem::path& directory) {
    auto db = Database::open(directory / "library.db", Database::Mode::change);
    EXPECT_TRUE(db);
    if (!db) return {};
    std::string out;
    for (const char* table : {"notebook", "page", "element", "edit", "correction", "file", "file_ref", "reading_line",
                              "term", "own_word", "hand", "intake"}) {
        std::vector<std::string> columns;
        {
            Statement s = (*db)->prepare("SELECT name FROM pragma_table_info(?)");
            s.bind(std::string(table));
            while (s.step()) columns.push_back(s.text(0));
        }
        std::erase_if(columns, [](const std::string& c) {
            return c == "made" || c == "added" || c == "created" || c == "binned" || c == "sum";
        });
        std::string list;
        for (const std::string& c : columns) list += (list.empty() ? "" : ", ") + ("quote(" + c + ")");
        Statement s = (*db)->prepare("SELECT " + list + " FROM " + table + " ORDER BY " + list);
        while (s.step()) {
            out += table;
            for (int i = 0; i < static_cast<int>(columns.size()); ++i) out += '|' + s.text(i);
            out += '\n';
        }
    }
    EXPECT_TRUE((*db)->take_status());
    return out;
}

struct Case {
    const char* name;
    // Prepares a library; gives what is then tried on it.
    std::function<std::function<Status(Library&)>(TemporaryLibrary&)> prepare;
};

template <typename T>
Status status_of(const Result<T>& result) {
    return result ? Status(Done{}) : Status(result.error());
}

std::vector<Case> cases() {
    const auto written = [](TemporaryLibrary& t) {
        const PageId page = t.page();
        Edit edit{"Write", {{test_stroke(1, 2), test_stroke(3, 4)}}};
        EXPECT_TRUE(t->commit(page, edit));
        return std::pair(page, edit);
    };
    return {
        {"write",
         [](TemporaryLibrary& t) {
             return [page = t.page()](Library& l) {
                 Edit edit{"Write", {{test_stroke(1, 2), test_stroke(3, 4)}}};
                 return l.commit(page, edit);
             };
         }},
        {"erase, say, flow over, change the paper",
         [written](TemporaryLibrary& t) {
             const auto [page, first] = written(t);
             t.say(page, {{first.added.strokes[0].id}, Box::of(0, 0, 5, 5), "frost"});
             return [page = page, first = first](Library& l) {
                 Edit edit{"Move", {{test_stroke(50, 60)}}, {{first.added.strokes[0]}}};
                 edit.added.strokes[0].id = 1000;
                 edit.replacements = {{first.added.strokes[0].id, 1000}};
                 edit.sheet = SheetChange{{}, {210, 297, Paper::squared}};
                 edit.overflow = PageOverflow{0, {{test_stroke(7, 8)}}};
                 edit.corrections_added = {{{1000}, Box::of(50, 60, 2, 2), "wind"}};
                 return l.commit(page, edit);
             };
         }},
        {"undo",
         [written](TemporaryLibrary& t) {
             const auto [page, first] = written(t);
             Edit edit{"Erase", {}, first.added};
             edit.overflow = PageOverflow{0, {{test_stroke(7, 8)}}};
             EXPECT_TRUE(t->commit(page, edit));
             return [page = page](Library& l) { return status_of(l.undo(page)); };
         }},
        {"redo",
         [written](TemporaryLibrary& t) {
             const auto [page, first] = written(t);
             Edit edit{"Erase", {}, first.added};
             edit.overflow = PageOverflow{0, {{test_stroke(7, 8)}}};
             EXPECT_TRUE(t->commit(page, edit));
             EXPECT_TRUE(t->undo(page));
             return [page = page](Library& l) { return status_of(l.redo(page)); };
         }},
        {"save a reading",
         [written](TemporaryLibrary& t) {
             const auto [page, first] = written(t);
             EXPECT_TRUE(t->save_reading(page, test_reading({{"frost", "first"}})));
             return [page = page](Library& l) {
                 return l.save_reading(page, test_reading({{"wind", "wing"}, {"low", "law"}}));
             };
         }},
        {"fill pages",
         [](TemporaryLibrary& t) {
             const NotebookId notebook = t->load_page(t.page())->info.notebook;
             return [notebook](Library& l) {
                 std::vector<FilledPage> pages(3);
                 for (FilledPage& p : pages) p.content.strokes = {test_stroke(1, 2)};
                 return status_of(l.add_filled_pages(notebook, pages));
             };
         }},
        {"copy, move",
         [written](TemporaryLibrary& t) {
             const auto [page, first] = written(t);
             const NotebookId notebook = t->load_page(page)->info.notebook;
             return [page = page, notebook](Library& l) { return status_of(l.copy_page(page, notebook, 1)); };
         }},
        {"empty the bin",
         [written](TemporaryLibrary& t) {
             const auto [page, first] = written(t);
             EXPECT_TRUE(t->bin_page(page));
             return [](Library& l) { return l.empty_bin(); };
         }},
        {"file from the tray",
         [](TemporaryLibrary& t) {
             const NotebookId notebook = t->load_page(t.page())->info.notebook;
             std::vector<IntakeEntry> entries(2);
             for (IntakeEntry& e : entries)
                 e.file = *t->add_file("sheet"), e.width_mm = 210, e.height_mm = 297, e.looked_at = true;
             EXPECT_TRUE(t->add_to_intake(entries));
             return [ids = std::vector{entries[0].id, entries[1].id}, notebook](Library& l) {
                 return status_of(l.file_intake(ids, notebook));
             };
         }},
    };
}

// Tries each case with a fault at the first place, the second, and so on, until nothing fails any more.
void walk_through(const std::function<void(int)>& fail_at, const std::function<void()>& mend,
                  const std::function<bool()>& failed) {
    for (const Case& c : cases()) {
        SCOPED_TRACE(c.name);
        std::string after;
        {
            TemporaryLibrary whole;
            const auto act = c.prepare(whole);
            ASSERT_TRUE(act(*whole.library));
            whole.library.reset();
            after = everything(whole.directory);
        }
        std::string before;
        {
            TemporaryLibrary untouched;
            (void)c.prepare(untouched);
            untouched.library.reset();
            before = everything(untouched.directory);
        }
        int places = 0;
        for (int nth = 1; nth < 500; ++nth) {
            TemporaryLibrary library;
            const auto act = c.prepare(library);
            fail_at(nth);
            const Status status = act(*library.library);
            const bool did_fail = failed();
            mend();
            library.reopen();
            EXPECT_TRUE(library->check()->empty());
            library.library.reset();
            const std::string now = everything(library.directory);
            if (!did_fail) {
                EXPECT_TRUE(status) << status.error().message;
                EXPECT_EQ(now, after);
                break;
            }
            ++places;
            // What is told to be done is done. What is told to have failed may be there all the same when only the last
            // sync failed, but never in part.
            if (status)
                EXPECT_EQ(now, after) << "fault " << nth;
            else
                EXPECT_TRUE(now == before || now == after) << "fault " << nth << " left\n" << now;
        }
        EXPECT_GT(places, 0);
    }
}

class Disk : public testing::TestWithParam<FaultyDisk::Fault> {};

TEST_P(Disk, LeavesTheLibraryAsBeforeOrAsAfterWhereverItFails) {
    const FaultyDisk disk;
    walk_through([](int nth) { FaultyDisk::fail_at(nth, GetParam()); }, FaultyDisk::mend, FaultyDisk::failed);
}

INSTANTIATE_TEST_SUITE_P(Faults, Disk,
                         testing::Values(FaultyDisk::Fault::failed_write, FaultyDisk::Fault::short_write,
                                         FaultyDisk::Fault::full, FaultyDisk::Fault::failed_sync));

// Statements that fail: every connection asks here whether a statement may do what it wants.
std::atomic<int> asked_left = 0;
std::atomic<bool> refused = false;

int ask(void*, int action, const char*, const char*, const char*, const char*) {
    if (action != SQLITE_INSERT && action != SQLITE_UPDATE && action != SQLITE_DELETE && action != SQLITE_SELECT &&
        action != SQLITE_TRANSACTION)
        return SQLITE_OK;
    // Rolling back is not refused: it is what saves the library.
    if (refused && action == SQLITE_TRANSACTION) return SQLITE_OK;
    if (asked_left > 0 && --asked_left == 0) {
        refused = true;
        return SQLITE_DENY;
    }
    return SQLITE_OK;
}

int set_asking(sqlite3* db, char**, const struct sqlite3_api_routines*) {
    return sqlite3_set_authorizer(db, ask, nullptr);
}

TEST(Statements, LeaveTheLibraryAsBeforeOrAsAfterWhicheverFails) {
    const auto entry = reinterpret_cast<void (*)()>(set_asking);
    ASSERT_EQ(sqlite3_auto_extension(entry), SQLITE_OK);
    walk_through(
        [](int nth) {
            refused = false;
            asked_left = nth;
        },
        [] { asked_left = 0; }, [] { return refused.load(); });
    sqlite3_cancel_auto_extension(entry);
}

TEST(Statements, NoneRunsAfterAnError) {
    TemporaryLibrary library;
    const PageId page = library.page();
    library.library.reset();
    auto db = Database::open(library.directory / "library.db", Database::Mode::change);
    ASSERT_TRUE(db);
    {
        Transaction transaction(**db);
        (*db)->execute("INSERT INTO nowhere VALUES (1)");
        (*db)->prepare("UPDATE page SET number = 77 WHERE id = ?").bind(page).run();
        (*db)->execute("COMMIT");
        EXPECT_FALSE(transaction.commit());
    }
    Statement s = (*db)->prepare("SELECT number FROM page");
    ASSERT_TRUE(s.step());
    EXPECT_EQ(s.integer(0), 1);
}

}  // namespace
}  // namespace fernleaf
