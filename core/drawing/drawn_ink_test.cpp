#include "drawing/drawn_ink.h"

#include <gtest/gtest.h>

#include "drawing/test_ink.h"

namespace fernleaf {
namespace {

// Something like written words: small zigzags in a row.
void write_letters(std::vector<Stroke>& strokes, Point at, int letters) {
    for (int i = 0; i < letters; ++i) {
        const Point p = at + Point{3.0 * i, 0};
        strokes.push_back(drawn({p, p + Point{0.5, -2}, p + Point{1, 0}, p + Point{1.6, -2}, p + Point{2, 0}}));
    }
}

std::vector<Stroke> two_boxes() {
    std::vector<Stroke> strokes{drawn({{10, 10}, {40, 10}, {40, 24}, {10, 24}, {10, 10.5}}),
                                drawn({{60, 10}, {90, 10}, {90, 24}, {60, 24}, {60, 10.5}})};
    write_letters(strokes, {16, 18}, 6);
    write_letters(strokes, {66, 18}, 6);
    return strokes;
}

TEST(DrawnInk, FiguresAreDrawnWordsInThemAreNot) {
    const std::vector<Stroke> strokes = two_boxes();
    const DrawnInk ink = drawn_ink(strokes);
    ASSERT_EQ(ink.groups.size(), 2U);
    EXPECT_TRUE(ink.drawn[0] && ink.drawn[1]);
    EXPECT_EQ(ink.rest(strokes).size(), strokes.size() - 2);
}

TEST(DrawnInk, AShortArrowBetweenFiguresIsALinkNotALetter) {
    std::vector<Stroke> strokes = two_boxes();
    strokes.push_back(drawn({{42, 17}, {58, 17}}));
    strokes.push_back(drawn({{55, 15}, {58, 17}, {55, 19}}));
    const DrawnInk ink = drawn_ink(strokes);
    ASSERT_EQ(ink.groups.size(), 3U);
    EXPECT_TRUE(ink.drawn[strokes.size() - 1] && ink.drawn[strokes.size() - 2]);
}

TEST(DrawnInk, LinesOfAMapLeadOnFromWordsToWords) {
    std::vector<Point> ring;
    for (int i = 0; i <= 48; ++i) ring.push_back({30 + 14 * std::cos(0.131 * i), 40 + 8 * std::sin(0.131 * i)});
    std::vector<Stroke> strokes{drawn(ring)};
    write_letters(strokes, {23, 41}, 5);   // in the middle
    write_letters(strokes, {72, 41}, 5);   // what its branch leads to
    write_letters(strokes, {106, 34}, 4);  // and two more from there
    write_letters(strokes, {106, 50}, 4);
    strokes.push_back(drawn({{44, 40}, {70, 40}}));
    strokes.push_back(drawn({{89, 39}, {104, 34}}));
    strokes.push_back(drawn({{89, 42}, {104, 49}}));
    const DrawnInk ink = drawn_ink(strokes);
    EXPECT_EQ(ink.groups.size(), 4U) << "the ring and three lines";
    for (size_t i = strokes.size() - 3; i < strokes.size(); ++i) EXPECT_TRUE(ink.drawn[i]) << i;
    EXPECT_EQ(ink.rest(strokes).size(), strokes.size() - 4);
}

TEST(DrawnInk, WritingIsPartedByTheFiguresAboutIt) {
    const std::vector<Stroke> strokes = two_boxes();
    const DrawnInk ink = drawn_ink(strokes);
    std::vector<Stroke> writing = ink.rest(strokes);
    write_letters(writing, {10, 60}, 3);
    std::vector<Shape> figures;
    for (const ShapeGroup& group : ink.groups) figures.push_back(group.reading.best().shape);
    const auto parts = parted_by_figures(writing, figures);
    ASSERT_EQ(parts.size(), 3U);
    EXPECT_EQ(parts[0].size(), 3U) << "what stands in none";
    EXPECT_EQ(parts[1].size(), 6U);
    EXPECT_EQ(parts[2].size(), 6U);
    // A figure without words in it is no part.
    figures.push_back({ShapeKind::square, {{100, 100}, {120, 100}, {120, 120}, {100, 120}}});
    EXPECT_EQ(parted_by_figures(writing, figures).size(), 3U);
    EXPECT_EQ(parted_by_figures({}, figures).size(), 1U);
}

TEST(DrawnInk, ADashBetweenWordsIsNoMap) {
    std::vector<Stroke> strokes;
    write_letters(strokes, {10, 40}, 5);
    strokes.push_back(drawn({{27, 39}, {42, 39}}));
    write_letters(strokes, {44, 40}, 5);
    write_letters(strokes, {10, 60}, 12);
    EXPECT_TRUE(drawn_ink(strokes).groups.empty());
}

TEST(DrawnInk, LinesOfWordsWithAnUnderlineAreWritten) {
    std::vector<Stroke> strokes;
    for (int line = 0; line < 5; ++line) write_letters(strokes, {10, 20 + 9.0 * line}, 14);
    strokes.push_back(drawn({{10, 22}, {52, 22.3}}));
    const DrawnInk ink = drawn_ink(strokes);
    EXPECT_TRUE(ink.groups.empty());
    EXPECT_EQ(ink.rest(strokes).size(), strokes.size());
}

TEST(DrawnInk, ARingAboutALetterIsAMarkUnlessALinkLeadsToIt) {
    std::vector<Stroke> strokes;
    write_letters(strokes, {22, 20}, 12);
    strokes.push_back(drawn({{11, 19}, {12, 16}, {13, 19}}));
    std::vector<Point> ring;
    for (int i = 0; i <= 24; ++i) ring.push_back({12 + 3 * std::cos(0.262 * i), 17.6 + 3 * std::sin(0.262 * i)});
    strokes.push_back(drawn(ring));
    EXPECT_FALSE(drawn_ink(strokes).drawn.back());
}

TEST(DrawnInk, WhatAPersonSaysIsDrawnIs) {
    const std::vector<Stroke> strokes{drawn({{10, 10}, {15, 10}, {15, 13}, {10, 13}, {10, 10.2}})};
    EXPECT_TRUE(drawn_ink(strokes).groups.empty()) << "as small as a letter";
    EXPECT_EQ(drawn_ink(strokes, true).groups.size(), 1U);
}

// Hatching and lines that cross by the thousand are plain ink; that is told before all of them were fitted.
TEST(DrawnInk, ThousandsOfCrossingLinesAreNoDrawing) {
    std::vector<Stroke> strokes;
    for (int i = 0; i < 2000; ++i) {
        const double t = 0.37 * i;
        strokes.push_back(drawn({{100 + 80 * std::cos(t), 140 + 100 * std::sin(t)},
                                 {100 - 70 * std::cos(1.3 * t), 140 - 90 * std::sin(1.1 * t)}}));
    }
    const DrawnInk ink = drawn_ink(strokes);
    EXPECT_TRUE(ink.groups.empty());
    EXPECT_EQ(ink.rest(strokes).size(), strokes.size());
}

TEST(DrawnInk, NoInkNothing) { EXPECT_TRUE(drawn_ink({}).groups.empty()); }

TEST(DrawnInk, BoxesAndAnArrowAloneOnAPageAreADrawingNotLargeLetters) {
    const std::vector<Stroke> flow{drawn({{30, 30}, {70, 31}, {70, 47}, {30, 46}, {30, 30.5}}),
                                   drawn({{31, 80}, {70, 80.5}, {69.5, 97}, {31, 96}, {31, 80.5}}),
                                   drawn({{50, 48}, {51, 78}}), drawn({{47.5, 73}, {51, 78}, {54, 73}})};
    const DrawnInk drawing = drawn_ink(flow);
    EXPECT_EQ(drawing.groups.size(), 3U);
    EXPECT_TRUE(drawing.rest(flow).empty());
}

TEST(DrawnInk, LargeLettersAloneOnAPageAreNotADrawing) {
    // "HILO", 25 mm high: two stems with a bar, a stem, a corner, a ring.
    const std::vector<Stroke> word{
        drawn({{20, 20}, {20, 45}}),
        drawn({{36, 20}, {36, 45}}),
        drawn({{20, 32}, {36, 32}}),
        drawn({{46, 20}, {46, 45}}),
        drawn({{56, 20}, {56, 45}, {70, 45}}),
        drawn({{90, 20}, {99, 24}, {102, 33}, {98, 42}, {89, 45}, {81, 41}, {78, 32}, {82, 23}, {90, 20}})};
    EXPECT_TRUE(drawn_ink(word).groups.empty());
}

}  // namespace
}  // namespace fernleaf
