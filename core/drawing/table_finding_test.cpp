#include "drawing/table_finding.h"

#include <gtest/gtest.h>

#include "drawing/test_ink.h"

namespace fernleaf {
namespace {

// Something like a written word about a place.
void write_about(std::vector<Stroke>& strokes, Point about) {
    for (int i = -1; i <= 1; ++i) {
        const Point p = about + Point{3.0 * i - 1, 1};
        strokes.push_back(drawn({p, p + Point{0.5, -2}, p + Point{1, 0}, p + Point{1.6, -2}, p + Point{2, 0}}));
    }
}

// Level and upright rules at these places.
std::vector<Stroke> ruled(const std::vector<double>& xs, const std::vector<double>& ys, Point from, Point to) {
    std::vector<Stroke> out;
    for (const double y : ys) out.push_back(drawn({{from.x, y}, {to.x, y}}));
    for (const double x : xs) out.push_back(drawn({{x, from.y}, {x, to.y}}));
    return out;
}

// A framed table of three rows and columns with words in all cells.
std::vector<Stroke> three_by_three() {
    std::vector<Stroke> strokes = ruled({10, 40, 70, 100}, {20, 32, 44, 56}, {10, 20}, {100, 56});
    for (const double y : {26.0, 38.0, 50.0})
        for (const double x : {25.0, 55.0, 85.0}) write_about(strokes, {x, y});
    return strokes;
}

TEST(TableFinding, AGridWithWordsIsATableAndEachWordIsInItsCell) {
    const std::vector<Stroke> strokes = three_by_three();
    const auto tables = tables_in(strokes);
    ASSERT_EQ(tables.size(), 1U);
    EXPECT_TRUE(is_valid(tables[0].table));
    EXPECT_EQ(tables[0].table.rows, 3);
    EXPECT_EQ(tables[0].table.columns, 3);
    ASSERT_EQ(tables[0].table.cells.size(), 9U);
    EXPECT_EQ(tables[0].rules.size(), 8U);
    for (size_t i = 0; i < 9; ++i) {
        ASSERT_EQ(tables[0].ink[i].size(), 3U) << i;
        for (const size_t s : tables[0].ink[i])
            EXPECT_TRUE(tables[0].table.cells[i].box.contains(strokes[s].box().centre()));
    }
}

TEST(TableFinding, AFrameInOneStrokeIsFourRules) {
    std::vector<Stroke> strokes = three_by_three();
    strokes.erase(strokes.begin() + 7), strokes.erase(strokes.begin() + 4);  // left and right
    strokes.erase(strokes.begin() + 3), strokes.erase(strokes.begin());      // top and bottom
    strokes.push_back(drawn({{10, 20}, {100, 20}, {100, 56}, {10, 56}, {10, 21}}));
    const auto tables = tables_in(strokes);
    ASSERT_EQ(tables.size(), 1U);
    EXPECT_EQ(tables[0].table.cells.size(), 9U);
}

TEST(TableFinding, RulesAloneTellCellsWithoutABorder) {
    std::vector<Stroke> strokes = ruled({40, 70}, {32, 44}, {10, 20}, {100, 56});
    for (const double y : {26.0, 38.0, 50.0})
        for (const double x : {25.0, 55.0, 97.0}) write_about(strokes, {x, y});  // the last column's words stand out
    const auto tables = tables_in(strokes);
    ASSERT_EQ(tables.size(), 1U);
    ASSERT_EQ(tables[0].table.cells.size(), 9U);
    for (const auto& ink : tables[0].ink) EXPECT_EQ(ink.size(), 3U);
    EXPECT_TRUE(tables_in({strokes.begin(), strokes.begin() + 4}).empty()) << "nothing is written between the rules";
}

TEST(TableFinding, CellsWithoutARuleBetweenAreMerged) {
    std::vector<Stroke> strokes = three_by_three();
    strokes[5] = drawn({{40, 32}, {40, 56}});  // the first two cells of the first row
    const auto tables = tables_in(strokes);
    ASSERT_EQ(tables.size(), 1U);
    const ReadTable& table = tables[0].table;
    ASSERT_EQ(table.cells.size(), 8U);
    EXPECT_TRUE(is_valid(table));
    EXPECT_EQ(table.cells[0].column_count, 2);
    EXPECT_EQ(table.cells[0].row_count, 1);
    EXPECT_EQ(tables[0].ink[0].size(), 6U);
}

TEST(TableFinding, ACornerMayBeLeftOut) {
    std::vector<Stroke> strokes = three_by_three();
    strokes[0] = drawn({{40, 20}, {100, 20}});
    strokes[4] = drawn({{10, 32}, {10, 56}});
    const auto tables = tables_in(strokes);
    ASSERT_EQ(tables.size(), 1U);
    EXPECT_EQ(tables[0].table.cells.size(), 9U);
}

TEST(TableFinding, ATableOnAPageThatIsAskewIsTheSame) {
    std::vector<Stroke> strokes = three_by_three();
    for (Stroke& s : strokes)
        for (InkPoint& p : s.points.change()) p.at = turned(p.at, 5, {50, 40});
    const auto tables = tables_in(strokes);
    ASSERT_EQ(tables.size(), 1U);
    ASSERT_EQ(tables[0].table.cells.size(), 9U);
    for (const auto& ink : tables[0].ink) EXPECT_EQ(ink.size(), 3U);
}

TEST(TableFinding, LinkedFiguresAreNone) {
    std::vector<Stroke> strokes;
    for (const double x : {10.0, 60.0, 110.0}) {
        strokes.push_back(drawn({{x, 20}, {x + 36, 20}, {x + 36, 36}, {x, 36}, {x, 21}}));
        write_about(strokes, {x + 18, 28});
    }
    strokes.push_back(drawn({{46, 28}, {60, 28}}));
    strokes.push_back(drawn({{96, 28}, {110, 28}}));
    EXPECT_TRUE(tables_in(strokes).empty());
}

TEST(TableFinding, AnArrowOntoAFigureIsNone) {
    std::vector<Stroke> strokes{drawn({{20, 60}, {70, 60}}), drawn({{45, 25}, {45, 59}}), drawn({{20, 61}, {22, 73}}),
                                drawn({{70, 61}, {68, 73}})};
    for (const Point at : {Point{30, 40}, Point{60, 40}, Point{45, 67}}) write_about(strokes, at);
    EXPECT_TRUE(tables_in(strokes).empty());
}

TEST(TableFinding, AFrameThatDoesNotCloseIsOne) {
    std::vector<Stroke> strokes = ruled({40, 70}, {32, 44}, {10, 20}, {100, 56});
    strokes.push_back(drawn({{10, 20}, {100, 20}, {100, 46}, {98, 53}, {92, 56}, {10, 56}, {10, 21}}));
    for (const double y : {26.0, 38.0, 50.0})
        for (const double x : {25.0, 55.0, 85.0}) write_about(strokes, {x, y});
    ASSERT_EQ(tables_in(strokes).size(), 1U);
    EXPECT_EQ(tables_in(strokes)[0].table.cells.size(), 9U);
}

TEST(TableFinding, ABoxAboutWordsAndAnUnderlineAreNone) {
    std::vector<Stroke> strokes{drawn({{10, 20}, {60, 20}, {60, 40}, {10, 40}, {10, 21}}), drawn({{16, 34}, {50, 34}})};
    write_about(strokes, {30, 30});
    EXPECT_TRUE(tables_in(strokes).empty());
}

TEST(TableFinding, AnUnderlineInACellPartsNothing) {
    std::vector<Stroke> strokes = three_by_three();
    strokes.push_back(drawn({{47, 41}, {62, 41}}));
    const auto tables = tables_in(strokes);
    ASSERT_EQ(tables.size(), 1U);
    EXPECT_EQ(tables[0].table.cells.size(), 9U);
    EXPECT_EQ(tables[0].ink[4].size(), 4U) << "it stays with the words of its cell";
}

TEST(TableFinding, HatchingAndNothingAreNone) {
    EXPECT_TRUE(tables_in({}).empty());
    std::vector<Stroke> strokes;
    for (int i = 0; i < 120; ++i) {
        strokes.push_back(drawn({{10, 20.0 + i}, {150, 20.0 + i}}));
        strokes.push_back(drawn({{10.0 + i, 20}, {10.0 + i, 150}}));
    }
    EXPECT_TRUE(tables_in(strokes).empty());
}

TEST(TableFinding, WordsThatWereSetInTypeFillCellsAsWell) {
    const std::vector<Stroke> rules = ruled({40, 70}, {32, 44}, {10, 20}, {100, 56});
    EXPECT_TRUE(tables_in(rules).empty());
    const std::vector<Box> typed{Box::of(12, 24, 20, 4), Box::of(45, 24, 20, 4), Box::of(45, 36, 20, 4)};
    EXPECT_EQ(tables_in(rules, typed).size(), 1U);
}

TEST(TableFinding, WhatAPersonSaysIsATableMayHaveTwoCells) {
    std::vector<Stroke> strokes{drawn({{10, 20}, {60, 20}, {60, 40}, {10, 40}, {10, 21}}), drawn({{35, 20}, {35, 40}})};
    write_about(strokes, {22, 30});
    EXPECT_TRUE(tables_in(strokes).empty());
    ASSERT_EQ(tables_in(strokes, {}, true).size(), 1U);
}

}  // namespace
}  // namespace fernleaf
