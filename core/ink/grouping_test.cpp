#include "ink/grouping.h"

#include <gtest/gtest.h>

#include <cmath>

namespace fernleaf {
namespace {

// A page of letter-like zigzags, 3 mm high, that remembers which line each stroke was meant for.
struct Sheet {
    std::vector<Stroke> strokes;
    std::vector<int> meant;

    void letter(double x, double y, double height, int line) {
        Stroke s;
        for (int i = 0; i <= 6; ++i) s.points.push_back({{x + i * 0.4, y - (i % 2 == 0 ? 0 : height)}});
        add(s, line);
    }
    void dot(double x, double y, int line) {
        Stroke s;
        s.points = {{{x, y}}, {{x + 0.2, y + 0.1}}};
        add(s, line);
    }
    void add(Stroke s, int line) {
        strokes.push_back(std::move(s));
        meant.push_back(line);
    }
    // Words of five letters; every third letter tall.
    void line(double x, double y, int words, int number, double slope = 0) {
        const double start = x;
        for (int w = 0; w < words; ++w, x += 4)
            for (int k = 0; k < 5; ++k, x += 3) letter(x, y + slope * (x - start), k % 3 == 0 ? 5 : 3, number);
    }
};

void expect_meant(const Sheet& sheet, size_t lines) {
    const auto found = group_lines(sheet.strokes);
    EXPECT_EQ(found.size(), lines);
    size_t count = 0;
    for (const InkLine& line : found) {
        count += line.members.size();
        for (size_t i : line.members) EXPECT_EQ(sheet.meant[i], sheet.meant[line.members[0]]) << "stroke " << i;
    }
    EXPECT_EQ(count, sheet.strokes.size());
}

TEST(Grouping, KeepsRuledLinesApart) {
    Sheet sheet;
    for (int i = 0; i < 10; ++i) sheet.line(15, 20 + 9 * i, 1 + i % 5, i);
    expect_meant(sheet, 10);
}

TEST(Grouping, FollowsSlopingLines) {
    Sheet sheet;
    for (int i = 0; i < 6; ++i) sheet.line(15, 60 + 9 * i, 5, i, -0.12);
    expect_meant(sheet, 6);
    EXPECT_NEAR(group_lines(sheet.strokes)[2].slope, -0.12, 0.04);
}

TEST(Grouping, GivesDotsWrittenLaterToTheirLine) {
    Sheet sheet;
    for (int i = 0; i < 5; ++i) sheet.line(15, 20 + 9 * i, 4, i);
    for (int i = 0; i < 5; ++i) sheet.dot(22, 20 + 9 * i - 4.6, i), sheet.dot(40, 20 + 9 * i, i);
    expect_meant(sheet, 5);
}

TEST(Grouping, ReadsColumnsOneAfterTheOther) {
    Sheet sheet;
    for (int i = 0; i < 6; ++i) sheet.line(10, 20 + 9 * i, 2, i), sheet.line(90, 20 + 9 * i, 2, 6 + i);
    const auto found = group_lines(sheet.strokes);
    ASSERT_EQ(found.size(), 12U);
    for (size_t i = 0; i < 12; ++i) EXPECT_EQ(sheet.meant[found[i].members[0]], static_cast<int>(i));
    EXPECT_EQ(found[5].region, 0);
    EXPECT_EQ(found[6].region, 1);
}

TEST(Grouping, SetsADrawingBetweenLinesAside) {
    Sheet sheet;
    sheet.line(15, 20, 4, 0);
    Stroke circle;
    for (int i = 0; i <= 40; ++i)
        circle.points.push_back({{50 + 18 * std::cos(i * 0.157), 50 + 18 * std::sin(i * 0.157)}});
    sheet.add(circle, 1);
    sheet.line(15, 85, 4, 2);
    expect_meant(sheet, 3);
    const auto found = group_lines(sheet.strokes);
    EXPECT_FALSE(found[0].drawing);
    EXPECT_TRUE(found[1].drawing);
    EXPECT_FALSE(found[2].drawing);
}

TEST(Grouping, LeavesAParagraphGap) {
    Sheet sheet;
    sheet.line(15, 20, 3, 0);
    sheet.line(15, 29, 3, 1);
    sheet.line(15, 60, 3, 2);
    const auto found = group_lines(sheet.strokes);
    ASSERT_EQ(found.size(), 3U);
    EXPECT_EQ(found[0].region, found[1].region);
    EXPECT_NE(found[1].region, found[2].region);
}

TEST(Grouping, TakesEmptyAndLoneStrokes) {
    EXPECT_TRUE(group_lines({}).empty());
    EXPECT_TRUE(group_lines({Stroke{}}).empty());
    Sheet sheet;
    sheet.dot(10, 10, 0);
    expect_meant(sheet, 1);
}

}  // namespace
}  // namespace fernleaf
