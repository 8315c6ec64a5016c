#include "store/library.h"

#include <gtest/gtest.h>

#include <fstream>
#include <limits>

#include "store/database.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

TEST(Library, KeepsInkOverReopening) {
    TemporaryLibrary library;
    const PageId page = library.page();
    Edit edit{"Write", {{test_stroke(10, 20), test_stroke(30, 40)}}};
    ASSERT_TRUE(library->commit(page, edit));
    EXPECT_NE(edit.added.strokes[0].id, 0);
    library.reopen();
    const auto loaded = library->load_page(page);
    ASSERT_TRUE(loaded);
    EXPECT_EQ(loaded->strokes, edit.added.strokes);
    EXPECT_EQ(loaded->info.number, 1);
}

TEST(Library, KeepsPensAndTheOrderInWhichStrokesLie) {
    TemporaryLibrary library;
    const PageId page = library.page();
    Edit edit{"Write", {{test_stroke(10, 20), test_stroke(30, 40), test_stroke(50, 60)}}};
    edit.added.strokes[0].pen = {0xEBCB6B, 4, PenKind::highlighter, Tip::chisel, 0.5F, false};
    edit.added.strokes[1].pen = {0x2E6B4F, 0.6F, PenKind::fountain};
    ASSERT_TRUE(library->commit(page, edit));
    // A piece of the first stroke takes its place below the others.
    Edit cut{"Erase", {{test_stroke(10, 20)}}, {{edit.added.strokes[0]}}};
    cut.added.strokes[0].z = edit.added.strokes[0].id;
    ASSERT_TRUE(library->commit(page, cut));
    library.reopen();
    const auto loaded = library->load_page(page);
    ASSERT_TRUE(loaded);
    EXPECT_EQ(loaded->strokes, (std::vector{cut.added.strokes[0], edit.added.strokes[1], edit.added.strokes[2]}));
    Page memory;
    apply(memory, edit);
    apply(memory, cut);
    EXPECT_EQ(memory.strokes, loaded->strokes);
    ASSERT_TRUE(library->undo(page));
    EXPECT_EQ(library->load_page(page)->strokes, edit.added.strokes);
}

TEST(Library, UndoAndRedoSurviveReopening) {
    TemporaryLibrary library;
    const PageId page = library.page();
    Edit first{"Write", {{test_stroke(10, 20)}}};
    ASSERT_TRUE(library->commit(page, first));
    Edit erase{"Erase", {}, first.added};
    ASSERT_TRUE(library->commit(page, erase));
    library.reopen();
    EXPECT_EQ(*library->undo_state(page)->undo, "Erase");
    auto undone = library->undo(page);
    ASSERT_TRUE(undone && *undone);
    EXPECT_EQ((*undone)->added.strokes, first.added.strokes);
    EXPECT_EQ(library->load_page(page)->strokes, first.added.strokes);
    ASSERT_TRUE(*library->undo(page));
    EXPECT_FALSE(library->undo(page)->has_value());
    EXPECT_TRUE(library->load_page(page)->strokes.empty());
    library.reopen();
    EXPECT_EQ(*library->undo_state(page)->redo, "Write");
    ASSERT_TRUE(*library->redo(page));
    EXPECT_EQ(library->load_page(page)->strokes, first.added.strokes);
    Edit other{"Write", {{test_stroke(1, 2)}}};
    ASSERT_TRUE(library->commit(page, other));
    EXPECT_FALSE(library->redo(page)->has_value());  // a new edit closes the other way
}

TEST(Library, AStrokeMayHaveItsIdBeforeTheDiskKnowsIt) {
    TemporaryLibrary library;
    const PageId page = library.page();
    Stroke early = test_stroke(10, 20);
    early.id = library->new_element_id();
    Edit other{"Write", {{test_stroke(30, 40)}}};
    ASSERT_TRUE(library->commit(page, other));
    Edit edit{"Write", {{early}}};
    ASSERT_TRUE(library->commit(page, edit));
    library.reopen();
    const auto loaded = library->load_page(page);
    ASSERT_EQ(loaded->strokes.size(), 2U);
    EXPECT_EQ(loaded->strokes[0].id, early.id);
    EXPECT_GT(library->new_element_id(), other.added.strokes[0].id);
}

TEST(Library, ContentsTellWhatStandsOnEachPage) {
    TemporaryLibrary library;
    const PageId page = library.page();
    const NotebookId notebook = library->notebooks()->at(0).id;
    ASSERT_TRUE(library->add_page(notebook, {}));
    Edit edit{"Write", {{test_stroke(10, 20)}}};
    ASSERT_TRUE(library->commit(page, edit));
    ASSERT_TRUE(library->save_reading(page, test_reading({{"late", "lote"}, {"frost", "first"}})));
    const auto contents = library->contents(notebook);
    ASSERT_EQ(contents->size(), 2U);
    EXPECT_EQ(contents->at(0).first_line, "late frost");
    EXPECT_FALSE(contents->at(0).blank);
    EXPECT_TRUE(contents->at(1).blank);
    EXPECT_EQ(library->notebook(notebook)->title, "Grafting trials");
    EXPECT_FALSE(library->notebook(99));
}

TEST(Library, FilledPagesArriveTogetherOrNotAtAll) {
    TemporaryLibrary library;
    library.page();
    const NotebookId notebook = library->notebooks()->at(0).id;
    std::vector<FilledPage> pages(2);
    pages[0].content.strokes = {test_stroke(10, 20)};
    pages[1].content.strokes = {test_stroke(10, 20)};
    pages[1].content.strokes[0].points.change()[0].at.x = std::numeric_limits<double>::quiet_NaN();
    EXPECT_FALSE(library->add_filled_pages(notebook, pages));
    EXPECT_EQ(library->pages(notebook)->size(), 1U);
    pages[1].content.strokes[0].points.change()[0].at.x = 3;
    const auto added = library->add_filled_pages(notebook, pages);
    ASSERT_TRUE(added);
    EXPECT_EQ(library->load_page(added->at(1))->strokes.size(), 1U);
    EXPECT_FALSE(*library->undo(added->at(1)));  // what came in is the page's beginning
}

TEST(Library, RefusesStrokesThatAreNowhere) {
    TemporaryLibrary library;
    const PageId page = library.page();
    Stroke nowhere = test_stroke(1, 2);
    nowhere.points.change()[1].at.x = std::numeric_limits<double>::infinity();
    Edit edit{"Write", {{nowhere}}};
    EXPECT_FALSE(library->commit(page, edit));
    EXPECT_TRUE(library->load_page(page)->strokes.empty());
}

TEST(Library, ASecondOneReadsTheCurrentDataAndSaysWhyItCanNotWrite) {
    TemporaryLibrary library;
    const PageId page = library.page();
    Edit edit{"Write", {{test_stroke(10, 20)}}};
    ASSERT_TRUE(library->commit(page, edit));
    const auto second = Library::open(library.directory);
    ASSERT_TRUE(second) << second.error().message;
    ASSERT_TRUE((*second)->why_read_only());
    EXPECT_NE((*second)->why_read_only()->find("in use"), std::string::npos);
    EXPECT_EQ((*second)->load_page(page)->strokes.size(), 1U);
    Edit more{"Write", {{test_stroke(1, 2)}}};
    EXPECT_FALSE((*second)->commit(page, more));
    ASSERT_TRUE(library->commit(page, more));
    EXPECT_EQ((*second)->load_page(page)->strokes.size(), 2U);
}

TEST(Library, FindsBestAndOtherReadingsByCertainty) {
    TemporaryLibrary library;
    const PageId page = library.page();
    ASSERT_TRUE(
        library->save_reading(page, test_reading({{"Late", "Lote"}, {"fröst", "first"}, {"apple-tree", "apply"}})));
    const auto find = [&](const std::string& text) { return *library->find(*parse_query(text)); };
    ASSERT_EQ(find("FROST").size(), 1U);
    EXPECT_EQ(find("frost")[0].line, "Late fröst apple-tree");
    EXPECT_NEAR(find("frost")[0].certainty, 0.8, 1e-9);
    EXPECT_NEAR(find("first")[0].certainty, 0.15, 1e-9);
    EXPECT_EQ(find("fro").size(), 1U);
    EXPECT_TRUE(find("\"fro\"").empty());
    EXPECT_EQ(find("\"late frost\"")[0].boxes.size(), 2U);
    EXPECT_TRUE(find("\"frost late\"").empty());
    EXPECT_EQ(find("\"frost apple tree\"")[0].boxes.size(), 2U);
    EXPECT_EQ(find("late tree").size(), 1U);
    EXPECT_TRUE(find("late cider").empty());
    EXPECT_EQ(find("frost notebook:graft").size(), 1U);
    EXPECT_TRUE(find("frost notebook:press").empty());
    EXPECT_TRUE(find("frost before:2001-01-01").empty());
    ASSERT_TRUE(library->save_reading(page, test_reading({{"cider", "rider"}})));
    EXPECT_TRUE(find("frost").empty());
    EXPECT_EQ(find("cider").size(), 1U);
    EXPECT_TRUE(library->check()->empty());
}

TEST(Library, WhatADrawingWasUnderstoodAsIsKept) {
    TemporaryLibrary library;
    const PageId page = library.page();
    ReadLine line;
    line.kind = RegionKind::drawing;
    line.box = Box::of(10, 10, 30, 20);
    line.shapes = {{{1, 2}, {{{ShapeKind::rectangle, {{10, 10}, {40, 10}, {40, 30}, {10, 30}}}, 0.9, 0.3}}}};
    line.ink = {3, 4};
    ASSERT_TRUE(library->save_reading(page, {{line}}));
    const auto reading = library->reading(page);
    ASSERT_TRUE(reading) << reading.error().message;
    ASSERT_EQ(reading->lines.size(), 1U);
    EXPECT_EQ(reading->lines[0].shapes, line.shapes);
    EXPECT_EQ(reading->lines[0].ink, line.ink);
    EXPECT_TRUE(library->check()->empty());
}

TEST(Library, AFormulaIsKeptWithItsSignsAndItsResultAndFound) {
    TemporaryLibrary library;
    const PageId page = library.page();
    ReadLine line;
    line.kind = RegionKind::math;
    line.certainty = 0.8;
    line.box = {20, 30, 60, 40};
    line.ink = {1, 2, 3};
    line.words = {{"x^{2}-16=\\sin 30", 0.8, line.box, {1, 2, 3}, {{"y^{2}-16=0", 0.3}}}};
    line.signs = {{"x", 0.7, {20, 30, 24, 40}, {1}, {{"y", 0.2}}}};
    line.result = "x = -4 or x = 4";
    ASSERT_TRUE(library->save_reading(page, {{line}}));
    const auto reading = library->reading(page);
    ASSERT_TRUE(reading) << reading.error().message;
    ASSERT_EQ(reading->lines.size(), 1U);
    EXPECT_EQ(reading->lines[0].result, line.result);
    ASSERT_EQ(reading->lines[0].signs.size(), 1U);
    EXPECT_EQ(reading->lines[0].signs[0].text, "x");
    EXPECT_EQ(reading->lines[0].signs[0].alternatives, line.signs[0].alternatives);
    EXPECT_EQ(reading->lines[0].signs[0].strokes, line.signs[0].strokes);
    for (const char* query : {"x^2", "sin", "16"})
        EXPECT_EQ(library->find(*parse_query(query), 10)->size(), 1U) << query;
    EXPECT_TRUE(library->check()->empty());
}

TEST(Library, PagesThatMayUseValuesOfAnEarlierOneAreReadWhenItsFormulasChange) {
    TemporaryLibrary library;
    Notebook notebook;
    notebook.title = "Press house";
    notebook.working.earlier_values = true;
    notebook.id = *library->add_notebook(notebook);
    const PageId first = *library->add_page(notebook.id, {}), second = *library->add_page(notebook.id, {}),
                 words_only = *library->add_page(notebook.id, {});
    const auto said = [](const char* formula) {
        ReadLine line;
        line.kind = RegionKind::math;
        line.words = {{formula, 1, Box::of(20, 30, 40, 8), {}, {}}};
        return Reading{{line}};
    };
    ReadLine words;
    words.words = {{"frost", 1, Box::of(20, 30, 40, 8), {}, {}}};
    ASSERT_TRUE(library->save_reading(first, said("r=2")));
    ASSERT_TRUE(library->save_reading(second, said("2r=")));
    ASSERT_TRUE(library->save_reading(words_only, Reading{{words}}));
    EXPECT_EQ(*library->formulas_before(second), (std::vector<std::string>{"r=2"}));
    EXPECT_TRUE(library->formulas_before(first)->empty());
    EXPECT_TRUE(library->unread()->empty());
    ASSERT_TRUE(library->save_reading(first, said("r=2")));
    EXPECT_TRUE(library->unread()->empty()) << "nothing changed";
    ASSERT_TRUE(library->save_reading(first, said("r=3")));
    EXPECT_EQ(*library->unread(), (std::vector<PageId>{second}));
    ASSERT_TRUE(library->save_reading(second, said("2r=")));
    EXPECT_TRUE(library->unread()->empty());
    // Where the switch is off, a page is by itself; switching it is a change, too.
    notebook.working.earlier_values = false;
    ASSERT_TRUE(library->change_notebook(notebook));
    EXPECT_EQ(library->unread()->size(), 2U);
    ASSERT_TRUE(library->save_reading(second, said("2r=")));
    ASSERT_TRUE(library->save_reading(first, said("r=4")));
    EXPECT_TRUE(library->unread()->empty());
    EXPECT_EQ(library->notebook(notebook.id)->working, notebook.working);
}

TEST(Library, ALinkIsFoundAsOneAndItsWordsOnlyWhereTheyStand) {
    TemporaryLibrary library;
    const PageId page = library.page();
    const Reading reading = test_reading({{"pump", "dump"}, {"or", ""}, {"tank", "bank"}});
    ReadLine link = reading.lines[0];
    link.words.erase(link.words.begin() + 1);
    link.words[0].text = "pump →";
    ASSERT_TRUE(library->save_reading(page, reading, kWholeNow, {link}));
    const auto find = [&](const char* text) { return *library->find(*parse_query(text), 10); };
    EXPECT_EQ(find("pump").size(), 1U) << "not once more in the outline";
    EXPECT_EQ(find("tank pump").size(), 1U);
    const std::vector<Hit> hits = find("pump -> tan");
    ASSERT_EQ(hits.size(), 1U);
    EXPECT_EQ(hits[0].line, "pump → tank");
    EXPECT_EQ(hits[0].boxes, (std::vector<Box>{link.words[0].box, link.words[1].box})) << "both ends are outlined";
    EXPECT_TRUE(find("tank -> pump").empty());
    EXPECT_EQ(library->reading(page)->lines.size(), 1U) << "it is none of the page's lines";
    EXPECT_TRUE(library->check()->empty());
}

TEST(Library, TablesAndWhatStandsInTheirCellsAreKept) {
    TemporaryLibrary library;
    const PageId page = library.page();
    ReadLine grid;
    grid.kind = RegionKind::table;
    grid.box = Box::of(10, 10, 40, 20);
    grid.table =
        ReadTable{1, 2, {{0, 0, 1, 1, Box::of(10, 10, 20, 20)}, {0, 1, 1, 1, Box::of(30, 10, 20, 20)}}, {7, 8}};
    ReadLine cell = test_reading({{"cider", "rider"}}).lines[0];
    cell.cell = 1;
    ASSERT_TRUE(library->save_reading(page, {{grid, cell}}));
    const auto reading = library->reading(page);
    ASSERT_TRUE(reading) << reading.error().message;
    ASSERT_EQ(reading->lines.size(), 2U);
    EXPECT_EQ(reading->lines[0].table, grid.table);
    EXPECT_EQ(reading->lines[1].cell, 1);
    EXPECT_EQ(library->find(*parse_query("cider"), 10)->size(), 1U);
    EXPECT_TRUE(library->check()->empty());
}

TEST(Library, TheLimitKeepsTheSurestHits) {
    TemporaryLibrary library;
    const PageId page = library.page();
    Reading reading;
    for (int i = 0; i < 30; ++i) {
        ReadLine line = test_reading({{"frost", "first"}}).lines[0];
        line.words[0].certainty = 0.3 + 0.02 * i;
        reading.lines.push_back(line);
    }
    ASSERT_TRUE(library->save_reading(page, reading));
    const auto hits = library->find(*parse_query("frost"), 5);
    ASSERT_EQ(hits->size(), 5U);
    EXPECT_NEAR(hits->at(0).certainty, 0.88, 1e-9);
    EXPECT_NEAR(hits->at(4).certainty, 0.80, 1e-9);
}

TEST(Library, SeveralWordsMayStandInDifferentLinesOfAPage) {
    TemporaryLibrary library;
    const auto page_with = [&](const std::vector<std::string>& lines) {
        Reading reading;
        for (const std::string& word : lines) reading.lines.push_back(test_reading({{word, "x"}}).lines[0]);
        const PageId page = library.page();
        EXPECT_TRUE(library->save_reading(page, reading));
        return page;
    };
    const PageId both = page_with({"frost", "the", "cider"});
    page_with({"the", "the"});
    page_with({"frost", "frost", "pump"});
    const auto found = [&](const std::string& text) {
        std::vector<std::pair<PageId, std::string>> out;
        const auto hits = *library->find(*parse_query(text));
        for (const Hit& hit : hits) {
            EXPECT_EQ(hit.boxes.size(), 1U) << text;
            out.emplace_back(hit.page, hit.line);
        }
        std::ranges::sort(out);
        return out;
    };
    const std::vector<std::pair<PageId, std::string>> lines{{both, "frost"}, {both, "the"}};
    EXPECT_EQ(found("the frost"), lines);
    EXPECT_EQ(found("frost the"), lines);
    EXPECT_EQ(found("frost the cider").size(), 3U);
    EXPECT_TRUE(found("frost the pump").empty());
    EXPECT_EQ(found("frost frost").size(), 3U) << "the same word twice is one";
}

TEST(Library, KeepsFilesOnceAndUnaltered) {
    TemporaryLibrary library;
    const auto hash = library->add_file("bytes of a scan");
    ASSERT_TRUE(hash);
    EXPECT_EQ(*library->add_file("bytes of a scan"), *hash);
    EXPECT_EQ(*library->file(*hash), "bytes of a scan");
    EXPECT_TRUE(library->check()->empty());
    std::ofstream(library.directory / "files" / *hash) << "something else";
    EXPECT_EQ(library->check()->size(), 1U);
    fs::remove(library.directory / "files" / *hash);
    EXPECT_NE(library->check()->at(0).find("missing"), std::string::npos);
}

TEST(Library, CheckTellsDamageInTheDatabase) {
    TemporaryLibrary library;
    const PageId page = library.page();
    Edit edit{"Write", {{test_stroke(10, 20)}}};
    ASSERT_TRUE(library->commit(page, edit));
    ASSERT_TRUE(library->save_reading(page, test_reading({{"frost", "first"}})));
    {
        auto db = Database::open(library.directory / "library.db", Database::Mode::change);
        (*db)->execute("DELETE FROM term WHERE word = 'first'; UPDATE element SET body = x'0102'");
        ASSERT_TRUE((*db)->take_status());
    }
    EXPECT_EQ(library->check()->size(), 2U);
}

TEST(Library, RefusesWhatIsNoLibrary) {
    const fs::path directory = fs::temp_directory_path() / ("fernleaf-other-" + std::to_string(getpid()));
    fs::create_directories(directory);
    std::ofstream(directory / "taxes.txt") << "private";
    EXPECT_FALSE(Library::open(directory));
    EXPECT_FALSE(Library::open(directory / "taxes.txt"));
    EXPECT_EQ(std::distance(fs::directory_iterator(directory), {}), 1);
    std::ofstream(directory / "library.db") << "this is not a database, though its name says so";
    EXPECT_FALSE(Library::open(directory));
    fs::remove_all(directory);
}

TEST(Library, CorrectionsAreKeptInOrder) {
    TemporaryLibrary library;
    const PageId page = library.page();
    library.say(page, {{4, 5}, {}, "grafting"});
    library.say(page, {{}, Box::of(1, 2, 3, 4), "wood"});
    library.reopen();
    const auto corrections = library->corrections(page);
    ASSERT_EQ(corrections->size(), 2U);
    EXPECT_EQ(corrections->at(0).strokes, (std::vector<StrokeId>{4, 5}));
    EXPECT_EQ(corrections->at(1).box, Box::of(1, 2, 3, 4));
}

TEST(Library, TellsOnWhichPagesAKindOfThingWasCorrected) {
    TemporaryLibrary library;
    const PageId first = library.page(), second = library.page(), third = library.page();
    const Correction sign{{4}, Box::of(1, 2, 3, 4), "z", InkClass::sign};
    library.say(first, sign);
    library.say(second, sign);
    library.say(first, {{5}, Box::of(1, 2, 3, 4), "x", InkClass::sign});
    library.say(third, {{4, 5}, {}, "grafting"});
    EXPECT_EQ(library->pages_corrected(InkClass::sign, 10)->size(), 2U);
    EXPECT_EQ(library->pages_corrected(InkClass::sign, 1)->size(), 1U);
    ASSERT_TRUE(library->undo(second));
    EXPECT_EQ(*library->pages_corrected(InkClass::sign, 10), std::vector{first}) << "what was taken back is not said";
    ASSERT_TRUE(library->bin_page(first));
    EXPECT_TRUE(library->pages_corrected(InkClass::sign, 10)->empty());
}

TEST(Library, CorrectionsAreStepsOfUndo) {
    TemporaryLibrary library;
    const PageId page = library.page();
    const Correction first{{4, 5}, Box::of(1, 2, 3, 4), "grafting"}, second{{4, 5}, Box::of(1, 2, 3, 4), "graft"};
    library.say(page, first);
    library.say(page, second);
    const auto undone = library->undo(page);
    ASSERT_TRUE(undone && *undone);
    EXPECT_EQ((*undone)->label, "Correct");
    EXPECT_EQ((*undone)->corrections_removed, std::vector{second});
    EXPECT_TRUE((*undone)->corrections_added.empty());
    EXPECT_EQ(*library->corrections(page), std::vector{first});
    library.reopen();
    const auto redone = library->redo(page);
    EXPECT_EQ((*redone)->corrections_added, std::vector{second});
    EXPECT_EQ(*library->corrections(page), (std::vector{first, second}));
}

TEST(Library, RefusesElementsAtNoPlaceWhateverTheirKind) {
    TemporaryLibrary library;
    const PageId page = library.page();
    const double nan = std::numeric_limits<double>::quiet_NaN();
    Elements stroke{{test_stroke(1, 2)}}, text{{}, {}, {TextBlock{}}},
        picture{{}, {{0, "h", "a.png", 0, Box::of(0, 0, 1, 1)}}};
    EXPECT_FALSE(validation_error(stroke));
    EXPECT_FALSE(validation_error(text));
    EXPECT_FALSE(validation_error(picture));
    stroke.strokes[0].points.change()[0].at.y = nan;
    text.texts[0].width_mm = nan;
    picture.pictures[0].angle = nan;
    for (const Elements& bad : {stroke, text, picture}) {
        Edit edit{"Put", bad};
        EXPECT_TRUE(validation_error(bad));
        EXPECT_FALSE(library->commit(page, edit));
    }
    EXPECT_FALSE(library->undo_state(page)->undo);
}

}  // namespace
}  // namespace fernleaf
