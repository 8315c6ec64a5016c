#include "ink/grouping.h"

#include <gtest/gtest.h>

#include <cmath>

namespace fernleaf {
namespace {

// A page of letter-like zigzags, 3 mm high, that remembers which line each stroke was meant for.
struct InkSheet {
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

void expect_meant(const InkSheet& sheet, size_t lines) {
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
    InkSheet sheet;
    for (int i = 0; i < 10; ++i) sheet.line(15, 20 + 9 * i, 1 + i % 5, i);
    expect_meant(sheet, 10);
}

TEST(Grouping, FollowsSlopingLines) {
    InkSheet sheet;
    for (int i = 0; i < 6; ++i) sheet.line(15, 60 + 9 * i, 5, i, -0.12);
    expect_meant(sheet, 6);
    EXPECT_NEAR(group_lines(sheet.strokes)[2].slope, -0.12, 0.04);
}

TEST(Grouping, GivesDotsWrittenLaterToTheirLine) {
    InkSheet sheet;
    for (int i = 0; i < 5; ++i) sheet.line(15, 20 + 9 * i, 4, i);
    for (int i = 0; i < 5; ++i) sheet.dot(22, 20 + 9 * i - 4.6, i), sheet.dot(40, 20 + 9 * i, i);
    expect_meant(sheet, 5);
}

TEST(Grouping, ReadsColumnsOneAfterTheOther) {
    InkSheet sheet;
    for (int i = 0; i < 6; ++i) sheet.line(10, 20 + 9 * i, 2, i), sheet.line(90, 20 + 9 * i, 2, 6 + i);
    const auto found = group_lines(sheet.strokes);
    ASSERT_EQ(found.size(), 12U);
    for (size_t i = 0; i < 12; ++i) EXPECT_EQ(sheet.meant[found[i].members[0]], static_cast<int>(i));
    EXPECT_EQ(found[5].region, 0);
    EXPECT_EQ(found[6].region, 1);
}

TEST(Grouping, SetsADrawingBetweenLinesAside) {
    InkSheet sheet;
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

TEST(Grouping, ALetterWithATallLoopIsPartOfItsLineAndABarBesideItIsNot) {
    InkSheet sheet;
    sheet.line(15, 40, 4, 0);
    double end = 0;
    for (const Stroke& stroke : sheet.strokes) end = std::max(end, stroke.box().right);
    Stroke loop;
    for (int i = 0; i <= 60; ++i)
        loop.points.push_back({{end + 3 + 1.5 * std::cos(i * 0.105), 38 + 8 * std::sin(i * 0.105)}});
    sheet.add(loop, 0);
    Stroke bar;
    bar.points = {{{11, 28}}, {{11, 46}}};
    sheet.add(bar, 1);
    const auto found = group_lines(sheet.strokes);
    ASSERT_EQ(found.size(), 2U);
    for (const InkLine& line : found) {
        EXPECT_EQ(line.drawing, line.members.size() == 1);
        for (const size_t m : line.members) EXPECT_EQ(sheet.meant[m], line.drawing ? 1 : 0);
    }
}

TEST(Grouping, LeavesAParagraphGap) {
    InkSheet sheet;
    sheet.line(15, 20, 3, 0);
    sheet.line(15, 29, 3, 1);
    sheet.line(15, 60, 3, 2);
    const auto found = group_lines(sheet.strokes);
    ASSERT_EQ(found.size(), 3U);
    EXPECT_EQ(found[0].region, found[1].region);
    EXPECT_NE(found[1].region, found[2].region);
}

TEST(Grouping, LettersOfSeveralTouchingStrokesStayInOneLine) {
    // A hand that writes every letter as an upright and a low bowl beside it: half of its strokes are small.
    InkSheet sheet;
    for (int l = 0; l < 6; ++l)
        for (int k = 0; k < 14; ++k) {
            const double x = 15 + 4 * k + (k / 5) * 3, y = 20 + 9 * l;
            Stroke upright, bowl;
            upright.points = {{{x, y - 5}}, {{x, y}}};
            bowl.points = {{{x, y - 2}}, {{x + 1.5, y - 2.2}}, {{x + 2, y - 1}}, {{x + 1.2, y}}, {{x, y - 0.1}}};
            sheet.add(upright, l), sheet.add(bowl, l);
        }
    expect_meant(sheet, 6);
}

TEST(Grouping, AnArrowTouchingABoxIsPartOfTheDrawing) {
    InkSheet sheet;
    sheet.line(15, 20, 4, 0);
    sheet.line(15, 29, 4, 0);
    Stroke box, shaft, head;
    box.points = {{{40, 50}}, {{80, 50}}, {{80, 70}}, {{40, 70}}, {{40, 50}}};
    shaft.points = {{{60, 70}}, {{60, 85}}};
    head.points = {{{58, 82}}, {{60, 85}}, {{62, 82}}};
    sheet.add(box, 1), sheet.add(shaft, 1), sheet.add(head, 1);
    const auto found = group_lines(sheet.strokes);
    ASSERT_EQ(found.size(), 3U);
    EXPECT_TRUE(found[2].drawing);
    EXPECT_EQ(found[2].members.size(), 3U);
}

TEST(Grouping, APartTornOffALetterJoinsItsLine) {
    InkSheet sheet;
    for (int i = 0; i < 4; ++i) sheet.line(15, 20 + 9 * i, 4, i);
    Stroke loop;  // of a g, just below the line
    loop.points = {{{30, 29.2}}, {{30.8, 31}}, {{29.4, 31.4}}, {{29, 30.4}}};
    sheet.add(loop, 1);
    expect_meant(sheet, 4);
}

TEST(Grouping, TenThousandsOfStrokesAreGroupedWithoutLookingForTouches) {
    std::vector<Stroke> hatching(21'000);
    for (size_t i = 0; i < hatching.size(); ++i) {
        const double x = 10 + static_cast<double>(i % 500) * 0.3, y = 10 + static_cast<double>(i / 500) * 4.0;
        hatching[i].points = {{{x, y}}, {{x + 0.2, y + 3}}};
    }
    size_t members = 0;
    for (const InkLine& line : group_lines(hatching)) members += line.members.size();
    EXPECT_EQ(members, hatching.size());
}

TEST(Grouping, TakesEmptyAndLoneStrokes) {
    EXPECT_TRUE(group_lines({}).empty());
    EXPECT_TRUE(group_lines({Stroke{}}).empty());
    InkSheet sheet;
    sheet.dot(10, 10, 0);
    expect_meant(sheet, 1);
}

TEST(Grouping, HatchingIsADrawingAndLettersOfBarsAreNot) {
    std::vector<Stroke> hatching, bars;
    for (int i = 0; i < 40; ++i) {
        const double x = 20 + 1.1 * i;
        hatching.emplace_back().points = {{{x, 24}}, {{x + 3, 20}}};
        // Upright bars among cross strokes, as in capitals.
        bars.emplace_back().points = i % 3 == 2 ? std::vector<InkPoint>{{{x - 1, 22}}, {{x + 1, 22}}}
                                                : std::vector<InkPoint>{{{x, 24}}, {{x, 20}}};
    }
    for (const InkLine& line : group_lines(hatching)) EXPECT_TRUE(line.drawing);
    for (const InkLine& line : group_lines(bars)) EXPECT_FALSE(line.drawing);
}

TEST(Parting, AWordIsPartedAtItsWidestGap) {
    const auto bar = [](StrokeId id, double left, double right) {
        Stroke s;
        s.id = id;
        s.points = {{{left, 10}}, {{right, 14}}};
        return s;
    };
    // Written out of order, the second half with a gap smaller than the one between the halves.
    const auto [left, right] = split_at_widest_gap({bar(3, 30, 34), bar(1, 10, 14), bar(4, 35, 38), bar(2, 13, 18)});
    ASSERT_EQ(left.size(), 2U);
    ASSERT_EQ(right.size(), 2U);
    EXPECT_EQ(left[0].id, 1);
    EXPECT_EQ(right[1].id, 4);
    EXPECT_TRUE(split_at_widest_gap({bar(1, 0, 5)}).first.empty());
}

TEST(Grouping, StrokesSaidToBeOneLineAreOneWhateverTheyLookLike) {
    std::vector<Stroke> strokes(3);
    strokes[0].points = {{{60, 10}}, {{64, 14}}};
    strokes[1].points = {{{10, 50}}, {{14, 54}}};
    strokes[2].points = {{{30, 30}}, {{34, 34}}};
    const InkLine line = one_line(strokes);
    EXPECT_EQ(line.members, (std::vector<size_t>{1, 2, 0})) << "from left to right";
    EXPECT_FALSE(line.drawing);
    EXPECT_EQ(line.box, (Box{10, 10, 64, 54}));
}

TEST(Grouping, FormulasArePartedByTheRoomBetweenThem) {
    InkSheet sheet;
    const auto sign = [&](double x, double y) { sheet.letter(x, y, 4, 0); };
    // A fraction: what stands over its bar, the bar, and what stands under it.
    sign(20, 20), sign(20, 27);
    Stroke bar;
    for (int i = 0; i <= 10; ++i) bar.points.push_back({{17.0 + i, 21.5}});
    sheet.add(bar, 0);
    sign(32, 24);
    // One below, and one far to the right of it.
    sign(20, 50), sign(26, 50), sign(120, 50);
    const auto found = group_formulas(sheet.strokes);
    ASSERT_EQ(found.size(), 3U);
    EXPECT_EQ(found[0].members.size(), 4U);
    EXPECT_EQ(found[1].members.size(), 2U);
    EXPECT_EQ(found[2].members, (std::vector<size_t>{6}));
    EXPECT_LT(found[0].region, found[1].region);
    EXPECT_TRUE(group_formulas({}).empty());
}

}  // namespace
}  // namespace fernleaf
