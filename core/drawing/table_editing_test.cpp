#include "drawing/table_editing.h"

#include <gtest/gtest.h>

#include "drawing/test_type.h"
#include "ink/test_stroke.h"

namespace fernleaf {
namespace {

struct TestPage {
    Page page;
    ElementId next = 100;
    Edit edit{"Change the table"};
    std::map<std::string, TableCell> cells_after;

    explicit TestPage(const std::vector<std::vector<std::string>>& rows) {
        FairTable table;
        table.id = 1;
        table.at = {10, 10};
        table.columns_mm.assign(rows.front().size(), 30);
        table.rows_mm.assign(rows.size(), 8);
        page.tables = {table};
        for (size_t r = 0; r < rows.size(); ++r)
            for (size_t c = 0; c < rows[r].size(); ++c) {
                if (rows[r][c].empty()) continue;
                TextBlock text;
                text.id = ++next;
                text.at = {10 + 30.0 * static_cast<double>(c) + kCellMarginMm,
                           10 + 8.0 * static_cast<double>(r) + kCellMarginMm};
                text.width_mm = 30 - 2 * kCellMarginMm;
                text.paragraphs = {{{{rows[r][c], {}}}}};
                fernleaf::lay_out(text);
                page.texts.push_back(text);
            }
    }
    FairTable& table() { return page.tables.front(); }
    EditBuilder builder() {
        return {edit, page, [this] { return ++next; }};
    }
    CellText says() {
        return [this](const TableCell& cell) {
            for (const TextBlock& text : page.texts)
                if (cell_at(table(), text.box().centre()) == cell) return plain_text(text);
            return std::string();
        };
    }
    // What each row says once the edit is made.
    std::vector<std::string> rows() {
        Page after = page;
        apply(after, edit);
        std::vector<std::string> out(after.tables.front().rows_mm.size());
        for (const TableCell& cell : cells_of(after.tables.front()))
            for (const TextBlock& text : after.texts)
                if (cell_at(after.tables.front(), text.box().centre()) == cell)
                    out[static_cast<size_t>(cell.row)] += plain_text(text) + ";";
        return out;
    }
    FairTable table_after() {
        Page after = page;
        apply(after, edit);
        return after.tables.front();
    }
};

const std::vector<std::vector<std::string>> kYields = {
    {"tree", "kg"}, {"pear", "120"}, {"apple", "9.5"}, {"quince", ""}, {"medlar", "1,250"}};

TEST(TableEditing, ANewRowMovesWhatIsBelowIt) {
    TestPage page(kYields);
    auto builder = page.builder();
    const FairTableId id = insert_line(builder, page.table(), Lines::rows, 2, lay_out);
    EXPECT_EQ(page.rows(),
              (std::vector<std::string>{"tree;kg;", "pear;120;", "", "apple;9.5;", "quince;", "medlar;1,250;"}));
    EXPECT_EQ(page.table_after().id, id);
    EXPECT_EQ(page.edit.removed.texts.size(), 5U) << "what is above stays as it is";
}

TEST(TableEditing, ARowGoesWithWhatStandsInItAndComesBackByUndo) {
    TestPage page(kYields);
    auto builder = page.builder();
    remove_lines(builder, page.table(), Lines::rows, 1, 2, lay_out);
    EXPECT_EQ(page.rows(), (std::vector<std::string>{"tree;kg;", "quince;", "medlar;1,250;"}));
    Page after = page.page;
    apply(after, page.edit);
    apply(after, page.edit.reversed());
    EXPECT_EQ(static_cast<const Elements&>(after), static_cast<const Elements&>(page.page));
}

TEST(TableEditing, TheLastRowStays) {
    TestPage page({{"alone"}});
    auto builder = page.builder();
    EXPECT_EQ(remove_lines(builder, page.table(), Lines::rows, 0, 1, lay_out), 1);
    EXPECT_TRUE(page.edit.added.empty());
}

TEST(TableEditing, AColumnMovesWithItsWords) {
    TestPage page(kYields);
    auto builder = page.builder();
    move_line(builder, page.table(), Lines::columns, 1, 0, lay_out);
    EXPECT_EQ(page.rows().front(), "kg;tree;");
    EXPECT_EQ(page.rows()[1], "120;pear;");
}

TEST(TableEditing, RowsAreSortedByNumbersWordsAndNothingLast) {
    TestPage page(kYields);
    page.table().head = true;
    {
        auto builder = page.builder();
        sort_rows(builder, page.table(), 1, false, page.says(), lay_out);
    }
    EXPECT_EQ(page.rows(),
              (std::vector<std::string>{"tree;kg;", "apple;9.5;", "pear;120;", "medlar;1,250;", "quince;"}));
    page.edit = {"Sort"};
    auto builder = page.builder();
    sort_rows(builder, page.table(), 0, true, page.says(), lay_out);
    EXPECT_EQ(page.rows()[1], "quince;");
    EXPECT_EQ(page.rows()[4], "apple;9.5;");
}

TEST(TableEditing, InkInACellGoesWithIt) {
    TestPage page(kYields);
    const Stroke tick = stroke_along(7, {{50, 36}, {52, 38}, {56, 32}});  // in quince's second cell
    page.page.strokes = {tick};
    auto builder = page.builder();
    insert_line(builder, page.table(), Lines::rows, 0, lay_out);
    ASSERT_EQ(page.edit.added.strokes.size(), 1U);
    EXPECT_NEAR(page.edit.added.strokes[0].points.front().at.y, 44, 1e-6);
    EXPECT_EQ(page.edit.replacements, (Replacements{{7, page.edit.added.strokes[0].id}}))
        << "what was said of it holds";
}

TEST(TableEditing, ANarrowColumnWrapsItsWordsAndItsRowsGrow) {
    TestPage page({{"late frost", "x"}, {"y", "z"}});
    auto builder = page.builder();
    resize_line(builder, page.table(), Lines::columns, 0, 2 * kCellMarginMm + 10, lay_out);  // five letters
    const FairTable after = page.table_after();
    EXPECT_NEAR(after.rows_mm[0], 2 * kTestLineMm + 2 * kCellMarginMm, 0.01);
    EXPECT_EQ(after.rows_mm[1], 8);
    EXPECT_EQ(page.rows(), (std::vector<std::string>{"late frost;x;", "y;z;"}));
}

TEST(TableEditing, MergedCellsGrowShrinkAndAreTornApart) {
    TestPage page(kYields);
    page.table().merged = {{1, 0, 2, 1}};
    {
        auto builder = page.builder();
        insert_line(builder, page.table(), Lines::rows, 2, lay_out);
    }
    EXPECT_EQ(page.table_after().merged, (std::vector<TableCell>{{1, 0, 3, 1}})) << "a row within it";
    page.edit = {"Remove a row"};
    {
        auto builder = page.builder();
        remove_lines(builder, page.table(), Lines::rows, 2, 1, lay_out);
    }
    EXPECT_TRUE(page.table_after().merged.empty()) << "only one place is left of it";
    page.edit = {"Move a row"};
    auto builder = page.builder();
    move_line(builder, page.table(), Lines::rows, 2, 4, lay_out);
    EXPECT_TRUE(page.table_after().merged.empty()) << "other rows are between";
}

TEST(TableEditing, AColumnIsAlignedInkAndType) {
    TestPage page(kYields);
    const Stroke mark = stroke_along(7, {{45, 36}, {48, 38}});
    page.page.strokes = {mark};
    auto builder = page.builder();
    align_column(builder, page.table(), 1, Align::right, lay_out);
    ASSERT_EQ(page.edit.added.texts.size(), 4U);
    for (const TextBlock& text : page.edit.added.texts) EXPECT_EQ(text.paragraphs[0].align, Align::right);
    ASSERT_EQ(page.edit.added.strokes.size(), 1U);
    EXPECT_NEAR(drawn_box(page.edit.added.strokes[0]).right, 70 - kCellMarginMm, 0.01);
}

TEST(TableEditing, EvenColumnsAreAsWideTogether) {
    TestPage page(kYields);
    page.table().columns_mm = {20, 50};
    auto builder = page.builder();
    make_lines_even(builder, page.table(), Lines::columns, lay_out);
    EXPECT_EQ(page.table_after().columns_mm, (std::vector<double>{35, 35}));
}

}  // namespace
}  // namespace fernleaf
