#include "leaves/text_layout.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

ReadLine label(const std::string& text, const Box& box) {
    ReadLine out;
    out.box = box;
    ReadWord word;
    word.text = text, word.certainty = 1, word.box = box;
    out.words = {word};
    return out;
}

ReadLine drawing(double certainty) {
    ReadLine out;
    out.kind = RegionKind::drawing;
    out.box = Box::of(20, 20, 60, 30);
    out.shapes = {{{1}, {{{ShapeKind::rectangle, {{20, 20}, {80, 20}, {80, 50}, {20, 50}}}, certainty, 0.2}}}};
    return out;
}

TEST(TextLayout, AFigureStandsWhereItWasDrawnWithItsLabelInItsMiddle) {
    const Reading reading{{drawing(0.9), label("frost", Box::of(24, 32, 14, 4))}};
    TextLayout layout;
    layout.lay_out(reading, {4, 148 * 4.0, 148}, {});
    const SetPage& set = layout.set();
    ASSERT_EQ(set.figures.size(), 1U);
    EXPECT_FALSE(set.figures[0].unsure);
    EXPECT_TRUE(set.captions.empty()) << "it needs no name";
    const QRectF figure = set.figures[0].lines[0].boundingRect();
    EXPECT_NEAR(figure.top(), 20 * 4, 1e-6);
    EXPECT_NEAR(figure.height(), 30 * 4, 1e-6);
    ASSERT_EQ(set.words.size(), 1U);
    EXPECT_TRUE(figure.contains(set.words[0].box));
    EXPECT_NEAR(set.words[0].box.center().x(), figure.center().x(), 1.5);
}

TEST(TextLayout, ADoubtfulFigureIsMarkedAndADrawingNotUnderstoodIsNamed) {
    TextLayout layout;
    layout.lay_out({{drawing(0.4)}}, {4, 148 * 4.0, 148}, {});
    ASSERT_EQ(layout.set().figures.size(), 1U);
    EXPECT_TRUE(layout.set().figures[0].unsure);
    ReadLine plain = drawing(1);
    plain.shapes.clear();
    layout.lay_out({{plain}}, {4, 148 * 4.0, 148}, {});
    EXPECT_TRUE(layout.set().figures.empty());
    EXPECT_EQ(layout.set().captions.size(), 1U);
}

TEST(TextLayout, InkThatWasNotUnderstoodStandsAsItIsUnlessThereIsTooMuchOfIt) {
    ReadLine plain = drawing(1);
    plain.shapes.clear();
    plain.ink = {7};
    Stroke line, other;
    line.id = 7, line.pen.width_mm = 0.5F;
    other.id = 8;
    for (int i = 0; i <= 60; ++i) line.points.push_back({{20.0 + i, 30}}), other.points.push_back({{20.0 + i, 90}});
    std::vector<Stroke> strokes{line, other};
    TextLayout layout;
    layout.lay_out({{plain}}, {4, 148 * 4.0, 148, false, strokes}, {});
    ASSERT_EQ(layout.set().ink.size(), 1U);
    EXPECT_TRUE(layout.set().captions.empty()) << "it needs no name";
    EXPECT_FALSE(layout.set().empty());
    const SetInk& shown = layout.set().ink[0];
    EXPECT_NEAR(shown.line.boundingRect().center().y(), 30 * 4, 1e-6);
    EXPECT_NEAR(shown.width, 2, 1e-6);
    ReadLine both = drawing(1);
    both.ink = {7, 8};
    layout.lay_out({{both}}, {4, 148 * 4.0, 148, false, strokes}, {});
    EXPECT_EQ(layout.set().figures.size(), 1U);
    EXPECT_EQ(layout.set().ink.size(), 2U) << "beside what was understood";
    line.points.clear();
    for (size_t i = 0; i <= kMostSetPoints; ++i) line.points.push_back({{20.0 + static_cast<double>(i % 2), 30}});
    strokes = {line};
    layout.lay_out({{plain}}, {4, 148 * 4.0, 148, false, strokes}, {});
    EXPECT_TRUE(layout.set().ink.empty());
    EXPECT_EQ(layout.set().captions.size(), 1U);
}

TEST(TextLayout, ATableStandsWhereItWasDrawnAndWordsStayInTheirCells) {
    ReadLine grid;
    grid.kind = RegionKind::table;
    grid.certainty = 0.9;
    grid.box = Box::of(20, 20, 60, 10);
    grid.table = ReadTable{1, 2, {{0, 0, 1, 1, Box::of(20, 20, 20, 10)}, {0, 1, 1, 1, Box::of(40, 20, 40, 10)}}, {}};
    ReadLine left = label("a long word in a narrow cell", Box::of(22, 23, 16, 4)),
             right = label("31", Box::of(60, 25, 6, 4));
    left.cell = 0, right.cell = 1;
    TextLayout layout;
    layout.lay_out({{grid, left, right}}, {4, 148 * 4.0, 148}, {});
    const SetPage& set = layout.set();
    ASSERT_EQ(set.figures.size(), 1U);
    ASSERT_EQ(set.figures[0].lines.size(), 3U) << "the cells, and what is about them";
    EXPECT_TRUE(set.captions.empty());
    ASSERT_EQ(set.words.size(), 2U);
    EXPECT_GE(set.words[0].box.left(), set.figures[0].lines[0].boundingRect().left());
    EXPECT_LE(set.words[0].style.px, set.words[1].style.px) << "it is set smaller, as far as can be read";
    EXPECT_TRUE(set.figures[0].lines[1].boundingRect().contains(set.words[1].box));
    EXPECT_NEAR(set.words[0].box.center().y(), set.words[1].box.center().y(), 1) << "of one row at one height";
    const int small = set.words[1].style.px;
    left.words[0].text = "short";
    layout.lay_out({{grid, left, right}}, {4, 148 * 4.0, 148}, {});
    EXPECT_EQ(layout.set().words[0].style.px, layout.set().words[1].style.px) << "all of a table is set in one size";
    EXPECT_GT(layout.set().words[1].style.px, small) << "no smaller than its longest words need";
}

ReadLine formula(const std::string& latex, const std::string& result) {
    ReadLine out;
    out.kind = RegionKind::math;
    out.box = Box::of(20, 40, 50, 10);
    ReadWord word;
    word.text = latex, word.certainty = 0.9, word.box = out.box;
    out.words = {word};
    out.result = result;
    return out;
}

TEST(TextLayout, AFormulaIsSetWhereItWasWrittenWithWhatItComesTo) {
    ReadLine line = formula("\\frac{1}{2}+1=", "3/2 ≈ 1.5");
    for (const auto& [sign, certainty] : std::vector<std::pair<const char*, double>>{
             {"1", 0.9}, {"\\frac", 0.9}, {"2", 0.3}, {"+", 0.9}, {"1", 0.9}, {"=", 0.9}}) {
        ReadWord read;
        read.text = sign, read.certainty = certainty;
        line.signs.push_back(read);
    }
    TextLayout layout;
    const TextLayout::Sheet sheet{4, 148 * 4.0, 148};
    EXPECT_TRUE(layout.measure_some({{line}}, 4));
    layout.lay_out({{line}}, sheet, {});
    ASSERT_EQ(layout.set().words.size(), 1U);
    const SetWord word = layout.set().words[0];
    ASSERT_TRUE(word.formula);
    EXPECT_NEAR(word.box.center().y(), 45 * 4, 1);
    EXPECT_FALSE(word.formula->result.path.isEmpty());
    EXPECT_FALSE(word.formula->wrong);
    ASSERT_EQ(word.formula->doubtful.size(), 1U) << "the 2, which is below the bar";
    EXPECT_GT(word.formula->doubtful[0].top(), word.formula->look.signs[1].bottom() - 1);
    EXPECT_TRUE(layout.word_at(word.box.center()).valid()) << "it is chosen as a word is";
    // Once more it is the same; with another result it isn't.
    layout.lay_out({{line}}, sheet, {});
    EXPECT_TRUE(layout.set().words[0].same(word));
    line.result = "2";
    layout.lay_out({{line}}, sheet, {});
    EXPECT_FALSE(layout.set().words[0].same(word));
}

TEST(TextLayout, AWrongSumIsMarkedAndALongFormulaMadeSmaller) {
    TextLayout layout;
    const TextLayout::Sheet sheet{4, 148 * 4.0, 148};
    layout.lay_out({{formula("380-239=151", "false: 141")}}, sheet, {});
    ASSERT_EQ(layout.set().words.size(), 1U);
    EXPECT_TRUE(layout.set().words[0].formula->wrong);
    layout.lay_out({{formula("420-273=147", "true")}}, sheet, {});
    EXPECT_FALSE(layout.set().words[0].formula->wrong);
    std::string terms = "1";
    for (int i = 0; i < 40; ++i) terms += "+12";
    layout.lay_out({{formula(terms, "481")}}, sheet, {});
    EXPECT_LE(layout.set().words[0].box.right(), 148 * 4.0);
    // What is no LaTeX is shown as it is.
    layout.lay_out({{formula("{x", "")}}, sheet, {});
    EXPECT_FALSE(layout.set().words[0].formula->look.path.isEmpty());
}

TEST(TextLayout, SignsOfAFormulaInAPictureAreMarkedButNotChosenOneByOne) {
    ReadLine sum;
    sum.kind = RegionKind::math;
    sum.box = Box::of(20, 30, 20, 8);
    sum.words = {{"7+1", 0.8, sum.box, {}, {}}};
    for (const char* sign : {"7", "+", "1"}) sum.signs.push_back({sign, 0.4, Box::of(20, 30, 4, 8), {}, {}});
    TextLayout layout;
    layout.lay_out({{sum}}, {4, 148 * 4.0, 148}, {});
    ASSERT_EQ(layout.set().words.size(), 1U);
    EXPECT_EQ(layout.set().words[0].formula->doubtful.size(), 3U);
    EXPECT_FALSE(layout.has_signs({0, 0}));
    EXPECT_EQ(layout.word_at(layout.set().words[0].box.center()), (ReadPlace{0, 0}))
        << "only the whole can be corrected";
    for (ReadWord& sign : sum.signs) sign.strokes = {1};
    layout.lay_out({{sum}}, {4, 148 * 4.0, 148}, {});
    EXPECT_TRUE(layout.has_signs({0, 0}));
}

TEST(TextLayout, APlotStandsWhereItIsAndGivesWayToTypeOnItsLeft) {
    Plot plot;
    plot.box = Box::of(100, 40, 80, 60);
    const auto laid = [&](const Reading& reading) {
        TextLayout layout;
        layout.lay_out(reading, {3, 630, 210, false, {}, {&plot, 1}}, {});
        return layout.take();
    };
    const SetPage alone = laid({});
    ASSERT_EQ(alone.plots.size(), 1U);
    EXPECT_FALSE(alone.empty());
    EXPECT_NEAR(alone.plots[0].at.y(), 120, 1e-9);
    Reading beside{{formula("x^{2}+3x-28=0", "x = -7 or x = 4")}};
    beside.lines[0].box = Box::of(60, 60, 30, 4);
    const SetPage both = laid(beside);
    EXPECT_GE(both.plots[0].at.x(), both.words[0].box.right());
    EXPECT_LT(both.plots[0].scale, alone.plots[0].scale) << "smaller, for it would not end on the leaf";
    EXPECT_FALSE(differences(alone, both).has_value());
}

TEST(TextLayout, WordsAboutAFormulaMakeRoomForIt) {
    ReadLine before = label("Pulp of the day", Box::of(20, 40, 22, 4));
    ReadLine math = formula("147+151=", "298"), after = label("litres", Box::of(66, 40, 12, 4));
    math.box = Box::of(44, 40, 20, 4);
    TextLayout layout;
    layout.lay_out({{before, math, after}}, {4, 148 * 4.0, 148}, {});
    const auto at = [&](int line) { return layout.find({line, 0})->box; };
    EXPECT_GT(at(1).left(), at(0).right());
    EXPECT_GT(at(2).left(), at(1).right()) << "what it comes to counts, too";
    EXPECT_LT(at(1).left(), at(0).right() + 12);
    EXPECT_NEAR(at(0).height(), at(2).height(), 0.1) << "in one size";
}

}  // namespace
}  // namespace fernleaf
