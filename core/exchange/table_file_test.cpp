#include "exchange/table_file.h"

#include <gtest/gtest.h>

#include "exchange/plain_text.h"

namespace fernleaf {
namespace {

ReadLine line(int cell, const std::string& text) {
    ReadLine out;
    out.region = 1;
    out.cell = cell;
    out.words = {{text, 1, {}, {}, {}, false}};
    return out;
}

// A head over two columns, and under it a name and a number.
Reading yields() {
    ReadLine before = line(-1, "Yields"), grid;
    before.region = 0;
    grid.region = 1;
    grid.kind = RegionKind::table;
    grid.table = ReadTable{2,
                           2,
                           {{0, 0, 1, 2, Box::of(10, 10, 60, 10)},
                            {1, 0, 1, 1, Box::of(10, 20, 30, 10)},
                            {1, 1, 1, 1, Box::of(40, 20, 30, 10)}},
                           {}};
    return {{before, grid, line(0, "Press"), line(0, "house"), line(1, "Row 7, | early"), line(2, "<61.5>")}};
}

TEST(TableFile, CellsSayTheirLinesAndMergedOnesStandInTheirFirstPlace) {
    const Reading reading = yields();
    const auto tables = tables_of(reading);
    ASSERT_EQ(tables.size(), 1U);
    EXPECT_EQ(table_text(tables[0], ".csv"), "Press house,\r\n\"Row 7, | early\",<61.5>\r\n");
    EXPECT_EQ(table_text(tables[0], ".tsv"), "Press house\t\nRow 7, | early\t<61.5>\n");
    EXPECT_EQ(table_text(tables[0], ".md"), "| Press house |  |\n| --- | --- |\n| Row 7, \\| early | <61.5> |\n");
    EXPECT_EQ(table_text(tables[0], ".html"),
              "<table>\n<tr><th colspan=\"2\">Press house</th></tr>\n<tr><td>Row 7, | early</td>"
              "<td>&lt;61.5&gt;</td></tr>\n</table>\n");
}

TEST(TableFile, PlainTextHasTheTableInItsPlace) {
    EXPECT_EQ(plain_text(yields()), "Yields\n\n| Press house |  |\n| --- | --- |\n| Row 7, \\| early | <61.5> |\n");
}

TEST(TableFile, WithoutATableThereIsNone) { EXPECT_TRUE(tables_of({{line(-1, "a")}}).empty()); }

}  // namespace
}  // namespace fernleaf
