#include "transcript/reading.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

ReadWord word(std::string text, std::vector<StrokeId> strokes, Box box = Box::of(0, 0, 10, 5)) {
    return {std::move(text), 0.4, box, std::move(strokes), {{"alternative", 0.3}}, false};
}

Reading reading(std::vector<ReadWord> words) {
    Reading r;
    r.lines.push_back({});
    r.lines.back().words = std::move(words);
    return r;
}

TEST(Corrections, ReplaceTheWordAndKeepWhatWasReadAsAnAlternative) {
    Reading r = reading({word("grating", {1, 2, 3}), word("wood", {4})});
    apply_corrections(r, {{{1, 2, 3}, {}, "grafting"}});
    EXPECT_EQ(r.lines[0].text(), "grafting wood");
    EXPECT_TRUE(r.lines[0].words[0].corrected);
    EXPECT_EQ(r.lines[0].words[0].certainty, 1);
    EXPECT_EQ(r.lines[0].words[0].alternatives[0].text, "grating");
    EXPECT_FALSE(r.lines[0].words[1].corrected);
}

TEST(Corrections, JoinWordsThatWereReadApart) {
    Reading r = reading({word("graft", {1, 2, 3}, Box::of(0, 0, 10, 5)), word("ing", {4, 5}, Box::of(11, 0, 6, 5)),
                         word("wood", {6}, Box::of(20, 0, 9, 5))});
    apply_corrections(r, {{{1, 2, 3, 4, 5}, Box::of(0, 0, 17, 5), "grafting"}});
    EXPECT_EQ(r.lines[0].text(), "grafting wood");
    EXPECT_EQ(r.lines[0].words[0].strokes.size(), 5U);
    EXPECT_EQ(r.lines[0].words[0].box, Box::of(0, 0, 17, 5));
    EXPECT_TRUE(r.lines[0].words[0].corrected);
}

TEST(Corrections, JoinAWordToOneOfASingleStroke) {
    Reading r = reading({word("toda", {1, 2, 3, 4}, Box::of(0, 0, 10, 5)), word("y", {5}, Box::of(11, 0, 3, 5))});
    apply_corrections(r, {{{1, 2, 3, 4, 5}, Box::of(0, 0, 14, 5), "today"}});
    EXPECT_EQ(r.lines[0].text(), "today");
}

TEST(Corrections, SplitAWordThatWasReadAsOne) {
    Reading r =
        reading({word("atdawn", {1, 2, 3, 4, 5, 6}, Box::of(10, 0, 30, 5)), word("cold", {7}, Box::of(50, 0, 9, 5))});
    const std::vector<Correction> corrections = {{{1, 2}, Box::of(10, 0, 9, 5), "at"},
                                                 {{3, 4, 5, 6}, Box::of(21, 0, 19, 5), "dawn"}};
    apply_corrections(r, corrections);
    EXPECT_EQ(r.lines[0].text(), "at dawn cold");
    EXPECT_EQ(r.lines[0].words[0].strokes, (std::vector<StrokeId>{1, 2}));
    EXPECT_EQ(r.lines[0].words[1].strokes, (std::vector<StrokeId>{3, 4, 5, 6}));
    EXPECT_LE(r.lines[0].words[0].box.right, r.lines[0].words[1].box.left);
    apply_corrections(r, corrections);
    EXPECT_EQ(r.lines[0].text(), "at dawn cold") << "once more changes nothing";
}

TEST(Corrections, SurviveADotAddedLaterButNotAnotherWord) {
    Reading r = reading({word("x", {1, 2, 3, 9}), word("y", {7, 8})});
    apply_corrections(r, {{{1, 2, 3}, {}, "in"}, {{3, 5, 6}, {}, "out"}});
    EXPECT_EQ(r.lines[0].text(), "in y");
}

TEST(Corrections, FindTheirPlaceInAPicture) {
    Reading r = reading({word("a", {}, Box::of(0, 0, 10, 5)), word("b", {}, Box::of(12, 0, 10, 5))});
    apply_corrections(r, {{{}, Box::of(11.5, 0.2, 10, 5), "bee"}});
    EXPECT_EQ(r.lines[0].text(), "a bee");
}

TEST(Regions, OfAPictureStandTogetherAmongTheOthersByHeight) {
    const auto line = [](int region, double top, const char* word) {
        ReadLine l;
        l.region = region;
        l.box = Box::of(10, top, 50, 6);
        l.words = {{word, 0.9, l.box, {}, {}, false}};
        return l;
    };
    Reading reading{{line(0, 10, "heading"), line(1, 100, "below")}};
    insert_regions(reading, {line(4, 40, "left"), line(4, 50, "left too"), line(5, 40, "right")});
    std::vector<std::pair<int, std::string>> got;
    for (const ReadLine& l : reading.lines) got.emplace_back(l.region, l.text());
    EXPECT_EQ(got, (std::vector<std::pair<int, std::string>>{
                       {0, "heading"}, {1, "left"}, {1, "left too"}, {2, "right"}, {3, "below"}}));
}

TEST(Corrections, TakenBackLetTheirLinesBeReadAnew) {
    Reading reading;
    for (const StrokeId id : {1, 2, 3}) {
        ReadLine line;
        line.input_signature = static_cast<uint64_t>(10 + id);
        line.words = {{"word", 0.9, Box::of(10, 10.0 * static_cast<double>(id), 10, 5), {id}, {}, false}};
        reading.lines.push_back(line);
    }
    reading.lines[2].words[0].strokes.clear();  // read in a picture
    forget(reading, {{{2}, {}, "words"}});
    EXPECT_EQ(reading.lines[0].input_signature, 11U);
    EXPECT_EQ(reading.lines[1].input_signature, 0U);
    EXPECT_EQ(reading.lines[2].input_signature, 13U);
    forget(reading, {{{}, Box::of(12, 31, 4, 4), "in the picture"}});
    EXPECT_EQ(reading.lines[0].input_signature, 11U);
    EXPECT_EQ(reading.lines[2].input_signature, 0U);
}

TEST(Reading, WhatAPersonSaysOfAFigureHoldsAndTheOthersStayBesideIt) {
    const auto of_kind = [](ShapeKind kind, double certainty) {
        return ShapeCandidate{{kind, {{0, 0}, {20, 0}, {20, 10}, {0, 10}}}, certainty, 0.2};
    };
    ReadLine drawing;
    drawing.kind = RegionKind::drawing;
    drawing.shapes = {{{1, 2}, {of_kind(ShapeKind::rectangle, 0.7), of_kind(ShapeKind::parallelogram, 0.2)}},
                      {{3}, {of_kind(ShapeKind::rectangle, 0.9)}}};
    Reading reading{{drawing}};
    apply_corrections(reading, {{{2, 1}, {}, "parallelogram", InkClass::shape}});
    const std::vector<ReadShape>& shapes = reading.lines[0].shapes;
    EXPECT_EQ(shapes[0].best().shape.kind, ShapeKind::parallelogram);
    EXPECT_EQ(shapes[0].best().certainty, 1);
    EXPECT_EQ(shapes[0].candidates[1].shape.kind, ShapeKind::rectangle);
    EXPECT_EQ(shapes[1], drawing.shapes[1]) << "only those strokes were spoken of";
    apply_corrections(reading, {{{3}, {}, "", InkClass::shape}});
    ASSERT_EQ(shapes.size(), 1U) << "left as ink";
    EXPECT_EQ(reading.lines[0].ink, (std::vector<StrokeId>{3}));
    apply_corrections(reading, {{{1, 2}, {}, "star", InkClass::shape}});
    EXPECT_EQ(shapes[0].best().shape.kind, ShapeKind::parallelogram) << "it can't be one";
    apply_corrections(reading, {{{1, 4}, {}, "", InkClass::shape}});
    EXPECT_EQ(shapes.size(), 1U) << "a stroke of it was not spoken of";
    apply_corrections(reading, {{{4, 2, 1}, {}, "", InkClass::shape}});
    EXPECT_TRUE(shapes.empty()) << "whatever is within what was said to be no shape";
}

// Corrections of formulas, which are one word of LaTeX.
Reading formula_of(const std::vector<StrokeId>& ink) {
    ReadLine line;
    line.kind = RegionKind::math;
    line.box = Box::of(10, 10, 40, 8);
    line.ink = ink;
    line.words = {{"h=14", 0.7, line.box, ink, {{"a=14", 0.1}}}};
    return {{line}};
}

TEST(Corrections, AFormulaTakesWhatWasTypedForAllOfIt) {
    Reading reading = formula_of({1, 2, 3, 4});
    apply_corrections(reading, {{{4, 3, 2, 1}, {}, "h=1.4"}});
    ASSERT_EQ(reading.lines.size(), 1U);
    ASSERT_EQ(reading.lines[0].words.size(), 1U);
    EXPECT_EQ(reading.lines[0].words[0].text, "h=1.4");
    EXPECT_TRUE(reading.lines[0].words[0].corrected);
    EXPECT_EQ(reading.lines[0].words[0].certainty, 1);
}

TEST(Corrections, AFormulaIsNeitherSplitNorJoinedByWhatWasSaidOfPartOfIt) {
    Reading reading = formula_of({1, 2, 3, 4});
    apply_corrections(reading, {{{1}, {}, "b"}, {{3, 4, 9}, {}, "c"}});
    ASSERT_EQ(reading.lines[0].words.size(), 1U);
    EXPECT_EQ(reading.lines[0].words[0].text, "h=14");
    EXPECT_FALSE(reading.lines[0].words[0].corrected);
}

TEST(Corrections, AFormulaThatWasCorrectedIsReadAnewWhenThatIsTakenBack) {
    Reading reading = formula_of({1, 2, 3, 4});
    reading.lines[0].input_signature = 77;
    forget(reading, {{{2, 3}, {}, "x"}});
    EXPECT_EQ(reading.lines[0].input_signature, 0U);
    reading.lines[0].input_signature = 77;
    forget(reading, {{{8, 9}, {}, "x"}});
    EXPECT_EQ(reading.lines[0].input_signature, 77U);
}

}  // namespace
}  // namespace fernleaf
