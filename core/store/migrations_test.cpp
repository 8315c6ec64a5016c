// Libraries of every earlier step are brought over whole, or stay as they are.
#include "store/migrations.h"

#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include <csignal>
#include <fstream>
#include <random>
#include <sstream>

#include "base/file.h"
#include "store/library_dump.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

// Made and dumped by the release whose newest step was the eighth.
const fs::path kStepEight = fs::path(FERNLEAF_SOURCE_DIR) / "tests/libraries/step-8";
const std::vector<PageId> kItsPages = {1, 2, 3, 4, 5};

// A copy that can be written to.
struct Copied {
    explicit Copied(const fs::path& of = kStepEight) {
        fs::remove_all(directory);
        fs::copy(of, directory, fs::copy_options::recursive);
    }
    ~Copied() { fs::remove_all(directory); }
    Copied(const Copied&) = delete;
    Copied& operator=(const Copied&) = delete;
    fs::path directory = fs::temp_directory_path() / ("fernleaf-copied-" + std::to_string(getpid()));
};

int64_t number(const fs::path& directory, const std::string& sql) {
    auto db = Database::open(directory / "library.db", Database::Mode::change);
    Statement s = (*db)->prepare(sql);
    return s.step() ? s.integer(0) : -1;
}

// A library as the fourth step of the schema left it, with a page written on.
void make_step_four(const fs::path& directory) {
    fs::create_directories(directory / "files");
    auto db = Database::open(directory / "library.db", Database::Mode::change);
    run_steps(**db, 0, 4);
    (*db)->execute(
        "INSERT INTO notebook (id, title, cover, language, paper, width, height) VALUES (1, 'Old', 1, 'en', 1, 148, "
        "210);"
        "INSERT INTO page VALUES (5, 1, 1, 148, 210, 1, 8, 1000), (6, 1, 2, 148, 210, 0, 8, 2000);"
        "INSERT INTO file VALUES ('abababababababababababababababababababababababababababababababab', 3);"
        "INSERT INTO picture VALUES (8, 6, 1, 'abababababababababababababababababababababababababababababababab', "
        "'scan.png', 0, 1, 2, 30, 40);"
        "INSERT INTO correction (page, strokes, box_left, box_top, box_right, box_bottom, text, made) "
        "VALUES (5, '[7]', 1, 2, 3, 4, 'Hallow', 0);"
        "INSERT INTO edit (page, label, undone, strokes_added, strokes_removed, pictures_added, pictures_removed) "
        "VALUES (5, 'Write', 0, '[7]', '[]', '[]', '[]')");
    (*db)
        ->prepare("INSERT INTO stroke (id, page, live, colour, width, start, points) VALUES (7, 5, 1, 255, 0.5, 0, ?)")
        .bind_blob(encode_points(test_stroke(10, 20).points))
        .run();
    ASSERT_TRUE((*db)->take_status());
}

TEST(Migrations, OfTheFourthStepKeepsItsPagesPaperAndUndo) {
    const fs::path directory = fs::temp_directory_path() / ("fernleaf-four-" + std::to_string(getpid()));
    make_step_four(directory);
    {
        const auto opened = Library::open(directory);
        ASSERT_TRUE(opened) << opened.error().message;
        Library& library = **opened;
        EXPECT_EQ(library.notebooks()->at(0).sheet.paper, Paper::margined)
            << "ruled paper had a margin line until then";
        const Page page = *library.load_page(5);
        EXPECT_EQ(page.info.paper, Paper::margined);
        EXPECT_EQ(page.info.colour, kUsualPaper);
        EXPECT_FALSE(page.info.endless);
        EXPECT_EQ(library.load_page(6)->info.paper, Paper::plain);
        ASSERT_EQ(page.strokes.size(), 1U);
        const Picture picture = library.load_page(6)->pictures.at(0);
        EXPECT_EQ(picture.crop, (Box{0, 0, 1, 1}));
        EXPECT_EQ(picture.angle, 0);
        EXPECT_FALSE(picture.locked);
        ASSERT_EQ(library.corrections(5)->size(), 1U);
        EXPECT_EQ(library.corrections(5)->at(0).kind, InkClass::text);
        EXPECT_TRUE(library.bin()->empty());
        const auto undone = *library.undo(5);
        ASSERT_TRUE(undone);
        EXPECT_FALSE(undone->sheet);
        EXPECT_FALSE(undone->overflow);
        EXPECT_TRUE(library.load_page(5)->strokes.empty());
        ASSERT_TRUE(*library.redo(5));
        EXPECT_EQ(library.load_page(5)->strokes, page.strokes);
        TextBlock typed;
        typed.paragraphs = {{{{"new", {}}}}};
        Edit edit{"Type", {{}, {}, {typed}}};
        EXPECT_TRUE(library.commit(5, edit));
        EXPECT_GT(counter_of(edit.added.texts[0].id), 8) << "no id is given twice";
        EXPECT_NE(device_of(edit.added.texts[0].id), 0) << "an older library may have been copied";
    }
    fs::remove_all(directory);
}

TEST(Migrations, BringsAnOlderOneUpToDateAndRefusesANewerOne) {
    const fs::path directory = fs::temp_directory_path() / ("fernleaf-old-" + std::to_string(getpid()));
    fs::create_directories(directory / "files");
    {
        auto db = Database::open(directory / "library.db", Database::Mode::change);
        run_steps(**db, 0, 1);
        (*db)->execute(
            "INSERT INTO notebook VALUES (1, 'Old', 1, 'en', 0, 148, 210);"
            "INSERT INTO page VALUES (5, 1, 1, 148, 210, 0, 8, 0)");
        ASSERT_TRUE((*db)->take_status());
    }
    {
        const auto library = Library::open(directory);
        ASSERT_TRUE(library) << library.error().message;
        EXPECT_EQ((*library)->notebooks()->at(0).title, "Old");
        EXPECT_TRUE((*library)->save_reading(5, test_reading({{"now", "how"}})));
    }
    {
        auto db = Database::open(directory / "library.db", Database::Mode::change);
        (*db)->execute("PRAGMA user_version = 99");
    }
    const auto newer = Library::open(directory);
    ASSERT_FALSE(newer);
    EXPECT_NE(newer.error().message.find("newer"), std::string::npos);
    fs::remove_all(directory);
}

TEST(Migrations, TheEighthStepIsBroughtOverElementByElementWithItsUndo) {
    const Copied copied;
    const auto library = Library::open(copied.directory);
    ASSERT_TRUE(library) << library.error().message;
    EXPECT_TRUE((*library)->check()->empty()) << (*library)->check()->front();
    const std::string expected = *read_regular(kStepEight.string() + ".txt", 10'000'000);
    std::istringstream was(expected), is(dump_with_history(**library, kItsPages));
    std::string before, after;
    for (int line = 1; std::getline(was, before); ++line) {
        std::getline(is, after);
        ASSERT_EQ(after, before) << "line " << line;
    }
    EXPECT_FALSE(std::getline(is, after)) << after;
    EXPECT_EQ(number(copied.directory, "PRAGMA freelist_count"), 0) << "it is no larger than it has to be";
}

constexpr int64_t kKeptStep = 8;  // of the library that is kept

TEST(Migrations, EveryEarlierStepKeepsItsInkTypeAndPictures) {
    std::vector<Page> newest;
    {
        const Copied copied;
        const auto library = *Library::open(copied.directory);
        for (const PageId id : kItsPages) newest.push_back(*library->load_page(id));
    }
    for (int64_t step = 1; step < kNewestStep; ++step) {
        const Copied copied;
        const fs::path database = copied.directory / "library.db", now = copied.directory / "former.db";
        if (step > kKeptStep) {
            auto made = *Database::open(database, Database::Mode::change);
            run_steps(*made, kKeptStep, step);
            ASSERT_TRUE(made->take_status()) << step;
        } else {
            fs::rename(database, now);
            auto old = *Database::open(now, Database::Mode::change),
                 made = *Database::open(database, Database::Mode::change);
            made->execute("PRAGMA foreign_keys = OFF");
            run_steps(*made, 0, step);
            made->execute("ATTACH '" + now.string() + "' AS former");
            std::vector<std::string> tables;
            {
                Statement s = made->prepare("SELECT name FROM main.sqlite_schema WHERE type = 'table'");
                while (s.step()) tables.push_back(s.text(0));
            }
            for (const std::string& table : tables) {
                std::string columns;
                Statement s = made->prepare("SELECT name FROM pragma_table_info(?, 'main')");
                s.bind(table);
                while (s.step()) columns += (columns.empty() ? "" : ", ") + s.text(0);
                made->execute("INSERT OR REPLACE INTO main." + table + " (" + columns + ") SELECT " + columns +
                              " FROM former." + table);
            }
            ASSERT_TRUE(made->take_status()) << step;
        }
        const auto library = Library::open(copied.directory);
        ASSERT_TRUE(library) << "step " << step << ": " << library.error().message;
        EXPECT_EQ(number(copied.directory, "PRAGMA user_version"), kNewestStep);
        for (size_t i = 0; i < kItsPages.size(); ++i) {
            const auto page = (*library)->load_page(kItsPages[i]);
            ASSERT_TRUE(page);
            ASSERT_EQ(page->damaged, 0U) << "step " << step;
            ASSERT_EQ(page->strokes.size(), newest[i].strokes.size());
            for (const Stroke& s : newest[i].strokes) {
                const auto same = std::ranges::find(page->strokes, s.id, &Stroke::id);
                ASSERT_NE(same, page->strokes.end());
                EXPECT_EQ(same->points, s.points);
                EXPECT_EQ(same->pen.colour, s.pen.colour);
            }
            ASSERT_EQ(page->pictures.size(), newest[i].pictures.size());
            for (size_t p = 0; p < page->pictures.size(); ++p)
                EXPECT_EQ(page->pictures[p].box, newest[i].pictures[p].box);
            EXPECT_EQ(page->texts.size(), step >= 5 ? newest[i].texts.size() : 0U);
            EXPECT_TRUE(step < 5 || page->texts == newest[i].texts);
            int back = 0;
            while (*(*library)->undo(kItsPages[i])) ++back;
            EXPECT_EQ(back == 0, i >= 3) << "step " << step << ", page " << i
                                         << ": made by an edit or copied, without history";
        }
    }
}

TEST(Migrations, TellsHowFarItIsAndLeavesTheLibraryAsItWasWhenCancelled) {
    const Copied copied;
    {
        auto db = *Database::open(copied.directory / "library.db", Database::Mode::change);
        db->execute(
            "WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 20000) INSERT INTO stroke "
            "SELECT "
            "1000 + i, page, live, colour, width, start, points, kind, tip, opacity, by_pressure, place, sum FROM "
            "stroke, n WHERE id = 6");
        ASSERT_TRUE(db->take_status());
    }
    const int64_t strokes = number(copied.directory, "SELECT count(*) FROM stroke");
    CancelSource cancel;
    std::vector<double> told;
    const auto stopped = Library::open(
        copied.directory,
        [&](double part) {
            told.push_back(part);
            if (part > 0.3) cancel.cancel();
        },
        cancel.token());
    ASSERT_FALSE(stopped);
    EXPECT_NE(stopped.error().message.find("cancelled"), std::string::npos) << stopped.error().message;
    EXPECT_TRUE(std::ranges::is_sorted(told));
    EXPECT_EQ(number(copied.directory, "PRAGMA user_version"), 8);
    EXPECT_EQ(number(copied.directory, "SELECT count(*) FROM stroke"), strokes);
    told.clear();
    const auto library = Library::open(copied.directory, [&](double part) { told.push_back(part); });
    ASSERT_TRUE(library) << library.error().message;
    EXPECT_GT(told.back(), 0.7);
    EXPECT_EQ((*library)->load_page(1)->strokes.size(), 20'000U + 5U);
    told.clear();
    EXPECT_TRUE(Library::open(copied.directory, [&](double part) { told.push_back(part); }));
    EXPECT_TRUE(told.empty()) << "it is up to date";
}

TEST(Migrations, DamagedRowsStayDamagedAndTheRestIsBroughtOver) {
    const Copied copied;
    {
        auto db = *Database::open(copied.directory / "library.db", Database::Mode::change);
        db->execute(
            "UPDATE stroke SET points = x'0100FFFF' WHERE id = 7; UPDATE stroke SET colour = colour + 1 WHERE id = 8;"
            "UPDATE stroke SET kind = 300 WHERE id = 6;"
            "UPDATE text_block SET data = '{bad' WHERE live = 1 AND page = 2; UPDATE picture SET name = 'x' WHERE page "
            "= 2 AND live = 1; UPDATE edit SET strokes_added = '{}' WHERE id = 1");
        ASSERT_TRUE(db->take_status());
    }
    const auto library = Library::open(copied.directory);
    ASSERT_TRUE(library) << library.error().message;
    EXPECT_EQ((*library)->load_page(1)->damaged, 3U);
    EXPECT_EQ((*library)->load_page(1)->strokes.size(), 2U);
    EXPECT_EQ((*library)->load_page(2)->damaged, 2U);
    EXPECT_EQ((*library)->check()->size(), 6U);
}

TEST(Migrations, OneThatIsRepairedFromAnEarlierStepKeepsWhatIsWhole) {
    const Copied copied;
    {
        auto db = *Database::open(copied.directory / "library.db", Database::Mode::change);
        db->execute("UPDATE stroke SET points = x'0100FFFF' WHERE id = 7");
        ASSERT_TRUE(db->take_status());
    }
    ASSERT_TRUE(Library::repair(copied.directory));
    const auto library = *Library::open(copied.directory);
    EXPECT_TRUE(library->check()->empty());
    EXPECT_EQ(library->load_page(1)->strokes.size(), 4U);
    EXPECT_EQ(library->load_page(2)->texts.size(), 1U);
    EXPECT_EQ(library->load_page(2)->pictures.size(), 1U);
    EXPECT_EQ(*library->undo_state(1)->undo, "Move");
}

TEST(Migrations, KilledAtAnyMomentTheLibraryIsOfOneStepOrTheOther) {
    const std::string expected = *read_regular(kStepEight.string() + ".txt", 10'000'000);
    std::mt19937 random(20261129);
    int former = 0;
    for (int round = 0; round < 100; ++round) {
        const Copied copied;
        const pid_t child = ::fork();
        ASSERT_GE(child, 0);
        if (child == 0) {
            const auto library = Library::open(copied.directory);
            ::raise(SIGKILL);
        }
        ::usleep(static_cast<useconds_t>(random() % 12'000));
        ::kill(child, SIGKILL);
        int status = 0;
        ::waitpid(child, &status, 0);
        // Whatever it is found at, the tables of that step are whole.
        const int64_t step = number(copied.directory, "PRAGMA user_version");
        ASSERT_TRUE(step == 8 || step == kNewestStep) << step;
        former += step == 8;
        ASSERT_EQ(number(copied.directory,
                         step == 8 ? "SELECT count(*) FROM stroke" : "SELECT count(*) FROM element WHERE kind = 0"),
                  16);
        const auto library = Library::open(copied.directory);
        ASSERT_TRUE(library) << library.error().message;
        ASSERT_TRUE((*library)->check()->empty());
        if (round % 10 == 0) {
            ASSERT_EQ(dump_with_history(**library, kItsPages), expected) << round;
        }
    }
    EXPECT_GT(former, 5) << "some were killed before they were through";
}

TEST(Migrations, PagesWithFormulasThatWereNotReadAreReadOnceMore) {
    const Copied copied;
    {
        auto made = *Database::open(copied.directory / "library.db", Database::Mode::change);
        run_steps(*made, kKeptStep, 13);
        made->execute("DELETE FROM unread");
        made->execute("DELETE FROM reading_line");
        for (const auto& [page, kind] : std::vector<std::pair<int, RegionKind>>{
                 {1, RegionKind::text}, {2, RegionKind::math}, {2, RegionKind::text}, {3, RegionKind::drawing}}) {
            Statement line = made->prepare(
                "INSERT INTO reading_line (page, number, region, kind, certainty, box_left, box_top, box_right, "
                "box_bottom, source, words, heading) VALUES (?, 0, 0, ?, 1, 0, 0, 10, 10, 7, '[]', 0)");
            line.bind(page).bind(static_cast<int>(kind)).run();
        }
        ASSERT_TRUE(made->take_status());
    }
    const auto library = Library::open(copied.directory);
    ASSERT_TRUE(library) << library.error().message;
    EXPECT_EQ(*(*library)->unread(), (std::vector<PageId>{2, 5})) << "5 has a typed list to tick off";
    const auto reading = (*library)->reading(2);
    ASSERT_TRUE(reading);
    ASSERT_EQ(reading->lines.size(), 2U) << "what was read stays until then";
    EXPECT_TRUE(reading->lines[0].signs.empty());
    EXPECT_EQ(reading->lines[0].result, "");
}

TEST(Migrations, WhatWasWrittenIsCountedByItsDays) {
    const Copied copied;
    const auto library = Library::open(copied.directory);
    ASSERT_TRUE(library) << library.error().message;
    size_t timed = 0, counted = 0;
    for (const PageId id : kItsPages) {
        const Page page = *(*library)->load_page(id);
        for (const Stroke& s : page.strokes) timed += s.start_ms > 0;
    }
    for (const WrittenDay& day : *(*library)->days()) counted += day.strokes;
    EXPECT_GT(counted, 0U);
    EXPECT_LE(counted, timed) << "some lie in the bin";
}

TEST(Devices, ACopyGivesIdsThatTheOtherNeverGives) {
    TemporaryLibrary first;
    const PageId page = first.page();
    Edit write{"Write", {{test_stroke(1, 2)}}};
    ASSERT_TRUE(first->commit(page, write));
    EXPECT_EQ(device_of(write.added.strokes[0].id), 0);
    first.library.reset();
    const Copied copied(first.directory);
    first.reopen();
    const auto second = *Library::open(copied.directory);
    Edit here{"Write", {{test_stroke(3, 4)}}}, there{"Write", {{test_stroke(5, 6)}}};
    ASSERT_TRUE(first->commit(page, here));
    ASSERT_TRUE(second->commit(page, there));
    EXPECT_EQ(device_of(here.added.strokes[0].id), 0) << "the first keeps its number";
    EXPECT_NE(device_of(there.added.strokes[0].id), 0);
    EXPECT_TRUE(z_less(write.added.strokes[0], there.added.strokes[0])) << "what is written later lies above";
    const Page on_second = *second->load_page(page);
    EXPECT_EQ(on_second.strokes.back().id, there.added.strokes[0].id);
    EXPECT_GT(number(copied.directory, "SELECT min(made) FROM edit"), 0);
    EXPECT_EQ(number(copied.directory, "SELECT max(uid) >> 40 FROM edit"), device_of(there.added.strokes[0].id));
}

TEST(Migrations, PagesGetTheirFirstLinesAndAddressedOnesTheirErrands) {
    const Copied copied;
    {
        auto made = *Database::open(copied.directory / "library.db", Database::Mode::change);
        run_steps(*made, kKeptStep, 17);
        made->execute("DELETE FROM reading_line");
        const auto line = [&](int page, int number, int kind, const char* words) {
            Statement s = made->prepare(
                "INSERT INTO reading_line (page, number, region, kind, certainty, box_left, box_top, box_right, "
                "box_bottom, source, words, heading) VALUES (?, ?, 0, ?, 1, 0, 0, 10, 10, 7, ?, 0)");
            s.bind(page).bind(number).bind(kind).bind(std::string(words)).run();
        };
        constexpr char kWords[] =
            R"([{"text":"Late","certainty":1,"box":[0,0,1,1]},{"text":"fröst","certainty":1,"box":[0,0,1,1]}])";
        line(1, 0, 1, "[]");
        line(1, 1, 0, "[]");
        line(1, 2, 0, kWords);
        line(1, 3, 0, R"([{"text":"second","certainty":1,"box":[0,0,1,1]}])");
        line(2, 0, 0, "{damaged");
        made->execute(
            "INSERT INTO addressed_book (id, paper, number, notebook, begun) VALUES (1, 2, 5, 1, 0); "
            "INSERT INTO addressed_page (book, number, page) VALUES (1, 7, 1)");
        ASSERT_TRUE(made->take_status());
    }
    const auto library = Library::open(copied.directory);
    ASSERT_TRUE(library) << library.error().message;
    const auto places = (*library)->places();
    ASSERT_TRUE(places);
    const auto title_of = [&](PageId page) {
        const auto found = std::ranges::find(*places, page, &PagePlace::page);
        return found == places->end() ? std::string("none") : found->title;
    };
    EXPECT_EQ(title_of(1), "Late fröst");
    EXPECT_EQ(title_of(2), "");
    EXPECT_TRUE((*library)->load_page(1)->info.errands);
    EXPECT_FALSE((*library)->load_page(2)->info.errands);
    EXPECT_TRUE((*library)->notebook(1)->sheet.errands);
}

}  // namespace
}  // namespace fernleaf
