#include "drawing/ruled_rows.h"

#include <gtest/gtest.h>

#include "drawing/table_finding.h"
#include "drawing/test_ink.h"

namespace fernleaf {
namespace {

// Something like a written word that begins at a place on its base line, of some letters.
void write(std::vector<Stroke>& strokes, Point begin, int letters = 4) {
    for (int i = 0; i < letters; ++i) {
        const Point p = begin + Point{3.0 * i, 0};
        strokes.push_back(drawn({p, p + Point{0.5, -2.5}, p + Point{1, 0}, p + Point{1.6, -2.5}, p + Point{2, 0}}));
    }
}

void rule(std::vector<Stroke>& strokes, Point from, Point to) { strokes.push_back(drawn({from, to})); }

// Rows of words in three columns.
std::vector<Stroke> rows_of_words(const std::vector<double>& ys) {
    std::vector<Stroke> strokes;
    for (const double y : ys)
        for (const double x : {22.0, 60.0, 95.0}) write(strokes, {x, y}, x < 30 ? 7 : 3);
    return strokes;
}

TEST(RuledRows, RulesBetweenRowsAreATableWhoseColumnsAreToldByGaps) {
    std::vector<Stroke> strokes = rows_of_words({30, 42, 54});
    const size_t words = strokes.size();
    rule(strokes, {20, 35}, {110, 35}), rule(strokes, {111, 47}, {19, 47});
    const auto tables = tables_in(strokes);
    ASSERT_EQ(tables.size(), 1U);
    const FoundTable& found = tables[0];
    EXPECT_TRUE(is_valid(found.table));
    EXPECT_EQ(found.table.rows, 3);
    EXPECT_EQ(found.table.columns, 3);
    EXPECT_EQ(found.rules, (std::vector<size_t>{words, words + 1}));
    ASSERT_EQ(found.ink.size(), 9U);
    for (size_t i = 0; i < 9; ++i) {
        EXPECT_EQ(found.ink[i].size(), i % 3 == 0 ? 7U : 3U) << i;
        for (const size_t s : found.ink[i])
            EXPECT_TRUE(found.table.cells[i].box.contains(strokes[s].box().centre())) << i;
    }
    EXPECT_NEAR(found.table.cells[0].box.bottom, 35, 0.5) << "cells end at rules where there are some";
    EXPECT_NEAR(found.certainty, 1, 1e-9);
}

TEST(RuledRows, HeadBodyAndSumBetweenRulesAreRowsOfTheirOwn) {
    std::vector<Stroke> strokes = rows_of_words({30, 42, 51, 60, 72});
    for (const double y : {24.0, 35.0, 64.0, 77.0}) rule(strokes, {20, y}, {108, y});
    write(strokes, {40, 18}, 9);  // a title
    const auto tables = tables_in(strokes);
    ASSERT_EQ(tables.size(), 1U);
    EXPECT_EQ(tables[0].table.rows, 5);
    EXPECT_EQ(tables[0].table.columns, 3);
    EXPECT_NEAR(tables[0].box.top, 24, 0.5) << "the title is not of it";
    EXPECT_NEAR(tables[0].box.bottom, 77, 0.5);
}

TEST(RuledRows, ASecondLineInACellStaysInItsRow) {
    std::vector<Stroke> strokes = rows_of_words({30, 44, 62});
    write(strokes, {22, 52}, 5);
    for (const double y : {24.0, 35.0, 56.0, 67.0}) rule(strokes, {20, y}, {108, y});
    const auto tables = tables_in(strokes);
    ASSERT_EQ(tables.size(), 1U);
    EXPECT_EQ(tables[0].table.rows, 3);
    EXPECT_EQ(tables[0].ink[3].size(), 12U);
}

TEST(RuledRows, ATurnedPageAndTypedWordsAreTheSame) {
    std::vector<Stroke> strokes = rows_of_words({30, 42, 54});
    rule(strokes, {20, 35}, {110, 35}), rule(strokes, {20, 47}, {110, 47});
    for (Stroke& s : strokes)
        for (InkPoint& p : s.points.change()) p.at = turned(p.at, 4, {50, 40});
    auto tables = tables_in(strokes);
    ASSERT_EQ(tables.size(), 1U);
    EXPECT_EQ(tables[0].table.cells.size(), 9U);
    std::vector<Stroke> rules;
    rule(rules, {20, 35}, {110, 35}), rule(rules, {20, 47}, {110, 47});
    std::vector<Box> typed;
    for (const double y : {27.0, 39.0, 51.0})
        for (const double x : {22.0, 70.0}) typed.push_back(Box::of(x, y, 20, 4));
    tables = tables_in(rules, typed);
    ASSERT_EQ(tables.size(), 1U);
    EXPECT_EQ(tables[0].table.columns, 2);
}

TEST(RuledRows, UprightRulesAreColumnsWhoseRowsAreToldByLines) {
    std::vector<Stroke> strokes;
    for (const double y : {30.0, 42.0, 54.0})
        for (const double x : {22.0, 57.0, 87.0}) write(strokes, {x, y});
    rule(strokes, {50, 24}, {50, 58}), rule(strokes, {80, 58}, {81, 25});
    const auto tables = tables_in(strokes);
    ASSERT_EQ(tables.size(), 1U);
    EXPECT_EQ(tables[0].table.rows, 3);
    EXPECT_EQ(tables[0].table.columns, 3);
    for (const auto& ink : tables[0].ink) EXPECT_EQ(ink.size(), 4U);
}

TEST(RuledRows, HatchingOneWayIsNoneAndTakesNoTime) {
    std::vector<Stroke> strokes = rows_of_words({30, 42, 54});
    for (int i = 0; i < 2000; ++i) rule(strokes, {20, 20 + 0.12 * i}, {110, 20 + 0.12 * i});
    EXPECT_TRUE(tables_in(strokes).empty());
    strokes.clear();
    for (int set = 0; set < 60; ++set)
        for (const double by : {0.0, 4.0}) rule(strokes, {20.0 * set, 10 + by}, {20.0 * set + 40, 10 + by});
    EXPECT_TRUE(parallel_rules(rules_in(strokes)).empty()) << "so many sets are no tables";
}

TEST(RuledRows, WhatIsOfAnotherTableIsNotTakenTwice) {
    std::vector<Stroke> strokes = rows_of_words({30, 42, 54});
    rule(strokes, {20, 35}, {110, 35}), rule(strokes, {20, 47}, {110, 47});
    const size_t first = strokes.size();
    for (Stroke stroke : std::vector<Stroke>(strokes)) {
        for (InkPoint& p : stroke.points.change()) p.at.y += 70;
        strokes.push_back(std::move(stroke));
    }
    const auto tables = tables_in(strokes);
    ASSERT_EQ(tables.size(), 1U) << "rules that are alike are of one table";
    EXPECT_EQ(tables[0].table.rows, 6);
    // Half as wide it is another.
    for (size_t s = first; s < strokes.size(); ++s)
        for (InkPoint& p : strokes[s].points.change()) p.at.x = 20 + (p.at.x - 20) * 0.7;
    std::vector<bool> seen(strokes.size());
    EXPECT_EQ(tables_in(strokes).size(), 2U);
    for (const FoundTable& table : tables_in(strokes)) {
        EXPECT_EQ(table.table.rows, 3);
        for (const auto& ink : table.ink)
            for (const size_t s : ink) {
                EXPECT_FALSE(seen[s]) << s;
                seen[s] = true;
            }
    }
}

TEST(RuledRows, UnderlinesDividersAndColumnsOfProseAreNone) {
    // Paragraphs between dividers.
    std::vector<Stroke> strokes;
    for (const double y : {30.0, 40.0, 50.0, 60.0})
        for (int w = 0; w < 5; ++w) write(strokes, {20 + 18.0 * w + std::fmod(3 * y, 7), y}, 5);
    for (const double y : {22.0, 45.0, 66.0}) rule(strokes, {20, y}, {110, y});
    EXPECT_TRUE(tables_in(strokes).empty());
    // Words with a line under each.
    strokes.clear();
    for (const double y : {30.0, 50.0, 70.0}) write(strokes, {20, y}, 10), rule(strokes, {20, y + 2}, {52, y + 2});
    EXPECT_TRUE(tables_in(strokes).empty());
    // Two arrows side by side between slanted figures.
    strokes.clear();
    for (const double y : {30.0, 70.0}) {
        for (const double x : {20.0, 95.0}) {
            strokes.push_back(drawn({{x, y}, {x + 12, y - 7}, {x + 24, y}}));
            strokes.push_back(drawn({{x, y}, {x + 12, y + 7}, {x + 24, y}}));
            write(strokes, {x + 6, y + 1}, 4);
        }
        rule(strokes, {46, y}, {93, y});
        strokes.push_back(drawn({{90, y - 2}, {93, y}, {90, y + 2}}));
        write(strokes, {62, y + 14});
    }
    EXPECT_TRUE(tables_in(strokes).empty());
    // Two columns of a page with a line between, and one that is not filled.
    strokes.clear();
    for (int i = 0; i < 8; ++i) {
        write(strokes, {12, 30 + 9.0 * i}, 15);
        if (i != 4) write(strokes, {70, 27 + 10.0 * i}, 14);
        write(strokes, {126, 33 + 8.0 * i}, 14);
    }
    rule(strokes, {64, 24}, {64, 110}), rule(strokes, {119, 24}, {119, 110});
    EXPECT_TRUE(tables_in(strokes).empty());
}

}  // namespace
}  // namespace fernleaf
