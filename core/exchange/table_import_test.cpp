#include "exchange/table_import.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

TEST(TableImport, FieldsAreReadAsRfc4180HasThem) {
    const auto rows = rows_in("tree,\"weight, kg\",note\r\npear,12,\"said \"\"late\"\"\nand small\"\r\n");
    ASSERT_TRUE(rows) << rows.error().message;
    EXPECT_EQ(*rows, (TableRows{{"tree", "weight, kg", "note"}, {"pear", "12", "said \"late\"\nand small"}}));
}

TEST(TableImport, TheSeparatorIsWhatTheFirstRowHasMostOf) {
    EXPECT_EQ((*rows_in("a;b;c\n1,5;2;3"))[1], (std::vector<std::string>{"1,5", "2", "3"}));
    EXPECT_EQ((*rows_in("a\tb, c\n1\t2"))[0], (std::vector<std::string>{"a", "b, c"}));
}

TEST(TableImport, RowsGetAsManyFields) {
    const auto rows = rows_in("a,b,c\n1\n\n2,3\n");
    ASSERT_TRUE(rows);
    EXPECT_EQ(*rows, (TableRows{{"a", "b", "c"}, {"1", "", ""}, {"2", "3", ""}}));
}

TEST(TableImport, OtherEncodingsAreConverted) {
    EXPECT_EQ((*rows_in("B\xE4ume,kg\n1,2"))[0][0], "Bäume");
    EXPECT_EQ((*rows_in(std::string("\xFF\xFE"
                                    "a\0,\0\xE9\0",
                                    8)))[0],
              (std::vector<std::string>{"a", "é"}));
    EXPECT_EQ((*rows_in("\xEF\xBB\xBFtree,kg"))[0][0], "tree");
}

TEST(TableImport, WhatIsNoTableIsAnError) {
    EXPECT_FALSE(rows_in(""));
    EXPECT_FALSE(rows_in("\n\n\n"));
    EXPECT_FALSE(rows_in(std::string("a,b\0c", 5)));
    EXPECT_FALSE(rows_in(std::string(150, ',')));
    std::string long_one;
    for (int i = 0; i < 20'001; ++i) long_one += "1,2\n";
    const auto rows = rows_in(long_one);
    ASSERT_FALSE(rows);
    EXPECT_EQ(rows.error().message, "the table has more than 20,000 rows");
    // A quotation mark that is never closed takes what is left, and does no harm.
    EXPECT_EQ(rows_in("a,\"b\n1,2\n3,4")->size(), 1U);
}

TEST(TableImport, IsToldFromOtherText) {
    EXPECT_TRUE(looks_like_table("a,b\n1,2\n3,4\n", ".txt"));
    EXPECT_TRUE(looks_like_table("alone", ".csv"));
    EXPECT_FALSE(looks_like_table("Dear Ines,\nthe pears, apples and quinces are in.\n", ".txt"));
    EXPECT_FALSE(looks_like_table("<html></html>", ".csv"));
    EXPECT_FALSE(looks_like_table("", ".csv"));
}

TEST(TableImport, BecomesAFairTableWithTypeInItsCells) {
    const Elements out = table_elements({{"tree", "kg"}, {"pear", "12"}, {"", "7.5"}}, {20, 30}, 120);
    ASSERT_EQ(out.tables.size(), 1U);
    EXPECT_TRUE(out.tables[0].head);
    EXPECT_EQ(out.tables[0].rows_mm.size(), 3U);
    ASSERT_EQ(out.texts.size(), 5U) << "none for an empty cell";
    EXPECT_TRUE(out.texts[0].paragraphs[0].runs[0].style.bold);
    EXPECT_EQ(out.texts[3].paragraphs[0].align, Align::right) << "numbers";
    EXPECT_EQ(out.texts[2].paragraphs[0].align, Align::left);
    for (const TextBlock& text : out.texts) EXPECT_TRUE(cell_at(out.tables[0], text.at).has_value());
}

TEST(TableImport, WideTablesAreNarrowedToTheirPage) {
    const std::string words(80, 'x');
    const Elements out = table_elements({{words, "kg", words}}, {0, 0}, 150);
    EXPECT_NEAR(width_of(out.tables[0]), 150, 0.5);
    EXPECT_GT(out.tables[0].rows_mm[0], 10) << "their words need several lines";
}

TEST(TableImport, ALongFileTakesSeveralPagesEachWithItsHeader) {
    std::string csv = "tree,kg\n";
    for (int i = 0; i < 100; ++i) csv += "row " + std::to_string(i) + ",1\n";
    const auto pages = table_pages(csv);
    ASSERT_TRUE(pages);
    ASSERT_GT(pages->size(), 2U);
    size_t rows = 0;
    for (const FilledPage& page : *pages) {
        EXPECT_EQ(plain_text(page.content.texts.front()), "tree");
        EXPECT_EQ(page.content.tables[0].columns_mm, pages->front().content.tables[0].columns_mm);
        EXPECT_LE(drawn_box(page.content).bottom, page.info.height_mm);
        rows += page.content.tables[0].rows_mm.size() - 1;
    }
    EXPECT_EQ(rows, 100U);
}

}  // namespace
}  // namespace fernleaf
