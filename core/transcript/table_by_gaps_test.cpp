#include "transcript/table_by_gaps.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

ReadLine line(double y, const std::vector<std::pair<double, std::string>>& words) {
    ReadLine out;
    out.input_signature = 77;
    for (const auto& [x, text] : words) {
        out.words.push_back({text, 1, Box::of(x, y, 3.0 * static_cast<double>(text.size()), 5), {}, {}, false});
        out.box.include(out.words.back().box);
    }
    return out;
}

TEST(TableByGaps, RowsAreLinesAndColumnsAreWhereAllLeaveAGap) {
    const auto out = table_by_gaps({line(10, {{10, "row"}, {60, "kg"}, {90, "pots"}}),
                                    line(20, {{10, "old"}, {21, "hill"}, {61, "31"}}),
                                    line(30, {{12, "new"}, {62, "7"}}), line(31, {{92, "12"}})});
    ASSERT_TRUE(out.at(0).table);
    const ReadTable& table = *out[0].table;
    EXPECT_TRUE(is_valid(table));
    EXPECT_EQ(table.rows, 3);
    EXPECT_EQ(table.columns, 3);
    std::vector<std::string> said(table.cells.size());
    for (size_t i = 1; i < out.size(); ++i) {
        said.at(static_cast<size_t>(out[i].cell)) = out[i].text();
        EXPECT_EQ(out[i].input_signature, 0U) << "part of a line would be taken for all of it";
    }
    EXPECT_EQ(said, (std::vector<std::string>{"row", "kg", "pots", "old hill", "31", "", "new", "7", "12"}));
}

TEST(ReadTable, CellsMustCoverItOnceInOrder) {
    ReadTable table{2, 2, {}, {}};
    EXPECT_FALSE(is_valid(table));
    table.cells = {{0, 0, 1, 2, Box::of(0, 0, 20, 10)},
                   {1, 0, 1, 1, Box::of(0, 10, 10, 10)},
                   {1, 1, 1, 1, Box::of(10, 10, 10, 10)}};
    EXPECT_TRUE(is_valid(table));
    std::swap(table.cells[1], table.cells[2]);
    EXPECT_FALSE(is_valid(table)) << "out of order";
    table.cells = {{0, 0, 2, 2, Box::of(0, 0, 20, 20)}, {1, 1, 1, 1, Box::of(10, 10, 10, 10)}};
    EXPECT_FALSE(is_valid(table)) << "one place twice";
    table.cells = {{0, 0, 3, 2, Box::of(0, 0, 20, 20)}};
    EXPECT_FALSE(is_valid(table)) << "larger than the table";
    table = {1, 1, {{0, 0, 1, 1, Box::of(0, 0, std::numeric_limits<double>::infinity(), 10)}}, {}};
    EXPECT_FALSE(is_valid(table));
}

}  // namespace
}  // namespace fernleaf
