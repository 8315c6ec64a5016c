#include "render/formula_look.h"

#include <gtest/gtest.h>

#include <QRawFont>

#include "math/math_signs.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

FormulaLook look(const char* latex) { return formula_look(*written_math(latex), 40); }

TEST(FormulaLook, APowerStandsHigherAndSmallerAnIndexLower) {
    const FormulaLook power = look("x^{2}"), index = look("x_{2}");
    ASSERT_EQ(power.signs.size(), 2U);
    EXPECT_LT(power.signs[1].height(), 0.85 * look("2").signs[0].height());
    EXPECT_LT(power.signs[1].center().y(), power.signs[0].top());
    EXPECT_GT(index.signs[1].bottom(), index.signs[0].bottom());
    EXPECT_GT(power.signs[1].left(), power.signs[0].center().x());
    // With both, the power comes first, as it is read.
    const FormulaLook both = look("x_{i}^{2}");
    ASSERT_EQ(both.signs.size(), 3U);
    EXPECT_LT(both.signs[1].center().y(), both.signs[2].center().y());
}

TEST(FormulaLook, AFractionsPartsStandOverAndUnderItsBar) {
    const FormulaLook half = look("\\frac{1}{a+b}");
    ASSERT_EQ(half.signs.size(), 5U);
    const QRectF bar = half.signs[1];
    EXPECT_LT(half.signs[0].bottom(), bar.top());
    EXPECT_GT(half.signs[2].top(), bar.bottom() - 1);
    EXPECT_NEAR(half.signs[0].center().x(), bar.center().x(), 1);
    EXPECT_LE(half.signs[4].right(), bar.right());
    EXPECT_LT(bar.bottom(), 0) << "the bar is above the baseline";
    EXPECT_GT(half.descent, 10);
}

TEST(FormulaLook, ARootIsAsLongAsWhatStandsUnderIt) {
    const FormulaLook root = look("\\sqrt{b^{2}-4ac}");
    ASSERT_EQ(root.signs.size(), 7U);
    EXPECT_GE(root.path.boundingRect().right(), root.signs[6].right());
    EXPECT_LT(root.path.boundingRect().top(), root.signs[2].top());
}

TEST(FormulaLook, BracketsGrowWithWhatTheyHold) {
    const FormulaLook tall = look("(\\frac{1}{2})"), plain = look("(1)");
    EXPECT_GT(tall.signs[0].height(), 1.3 * plain.signs[0].height());
    EXPECT_LE(tall.signs[0].top(), tall.signs[1].top());
}

TEST(FormulaLook, AccentsStandOverTheirLettersAndAreToldBeforeThem) {
    const FormulaLook vector = formula_look(*written_math("\\vec{v}=1"), 40);
    ASSERT_EQ(vector.signs.size(), 4U);
    EXPECT_LT(vector.signs[0].center().y(), vector.signs[1].top());
    EXPECT_NEAR(vector.signs[0].center().x(), vector.signs[1].center().x(), 4);
    EXPECT_GT(vector.ascent, formula_look(*written_math("v=1"), 40).ascent);
}

TEST(FormulaLook, UnitsStandUprightBehindTheirNumbers) {
    const auto wide = [](const char* latex) { return formula_look(*written_math(latex), 40).width; };
    EXPECT_GT(wide("3kg"), wide("3") + 4) << "with room before them";
}

TEST(FormulaLook, BoundsOfASumStandOverAndUnderIt) {
    const FormulaLook sum = look("\\sum_{k=1}^{n}k");
    ASSERT_EQ(sum.signs.size(), 6U);
    EXPECT_LT(sum.signs[1].bottom(), sum.signs[0].top() + 2);  // n
    EXPECT_GT(sum.signs[2].top(), sum.signs[0].bottom() - 2);  // k = 1
    EXPECT_GT(look("\\int_{0}^{1}x").width, 0);
}

TEST(FormulaLook, EverySignThatFormulasAreReadInIsInTheTextFaceOrDrawn) {
    for (const MathSign& sign : math_signs()) {
        if (std::string_view(sign.latex) == "\\in" || std::string_view(sign.latex) == "\\oint") continue;  // drawn
        const auto written = written_math(std::string_view(sign.latex) == "\\sqrt" ? "x" : sign.latex);
        ASSERT_TRUE(written) << sign.latex;
        ASSERT_EQ(written->parts.size(), 1U) << sign.latex;
        for (const bool italic : {false, true}) {
            QFont face(kTextFace);
            face.setItalic(italic);
            const QString text = QString::fromStdString(shown(written->parts[0]));
            EXPECT_TRUE(QRawFont::fromFont(face).supportsCharacter(text.toUcs4().at(0))) << sign.latex;
        }
    }
    EXPECT_GT(look("\\in").path.boundingRect().width(), 15);
    EXPECT_GT(look("\\oint x").path.elementCount(), look("\\int x").path.elementCount());
}

TEST(FormulaLook, WhatIsWrongHasACrossAndWhatWouldBeRightBehindIt) {
    const FormulaLook tick = judged_look(true, {}, 40), cross = judged_look(false, "141", 40);
    EXPECT_GT(tick.path.boundingRect().width(), 15);
    EXPECT_LE(tick.path.boundingRect().right(), tick.width + 1);
    EXPECT_GE(tick.path.boundingRect().top(), -tick.ascent - 2);
    EXPECT_GT(cross.width, tick.width + plain_look("141", 40).width);
}

TEST(FormulaLook, SetsWhatItDoesNotKnowAsItIs) {
    EXPECT_GT(look("\\unheardof + 1").width, 60);
    EXPECT_EQ(look("").width, 0);
    EXPECT_GT(plain_look("= 33", 20).width, 20);
}

TEST(FormulaLook, ItsMeasuresHoldAllThatIsDrawn) {
    for (const char* latex :
         {"x", "x^{2^{3}}", "\\frac{a}{\\frac{b}{c}}", "\\sqrt{\\frac{1}{2}}", "\\int_{0}^{1}x^{2}dx",
          "\\sum_{k=1}^{n}\\frac{1}{k}", "(a+b)^{2}", "\\lim_{x\\to 0}\\sin x", "f'(x)=2x"}) {
        const FormulaLook set = look(latex);
        const QRectF ink = set.path.boundingRect();
        EXPECT_GE(ink.left(), -3) << latex;
        EXPECT_LE(ink.right(), set.width + 3) << latex;
        EXPECT_GE(ink.top(), -set.ascent - 2) << latex;
        EXPECT_LE(ink.bottom(), set.descent + 2) << latex;
        for (const QRectF& sign : set.signs) EXPECT_TRUE(sign.isValid()) << latex;
    }
}

TEST(FormulaLook, TwiceTheSizeIsTwiceAsWide) {
    const auto written = written_math("\\frac{x^{2}}{3}+1");
    const FormulaLook small = formula_look(*written, 40), large = formula_look(*written, 80);
    EXPECT_NEAR(large.width, 2 * small.width, 0.05 * large.width);
    EXPECT_NEAR(large.ascent, 2 * small.ascent, 0.08 * large.ascent);
    EXPECT_EQ(large.signs.size(), small.signs.size());
}

TEST(FormulaLook, AMinusBetweenTermsStandsFreeOneBeforeATermDoesNot) {
    const FormulaLook between = look("a-b"), before = look("-b");
    const double gap_between = between.signs[2].left() - between.signs[1].right(),
                 gap_before = before.signs[1].left() - before.signs[0].right();
    EXPECT_GT(gap_between, gap_before + 3);
    const FormulaLook equation = look("a=-b");
    EXPECT_NEAR(equation.signs[3].left() - equation.signs[2].right(), gap_before, 1) << "also behind another sign";
}

TEST(FormulaLook, SignsRunFromLeftToRightAndPowersOfPowersGetSmaller) {
    const FormulaLook row = look("12+x=30");
    for (size_t i = 1; i < row.signs.size(); ++i) EXPECT_GE(row.signs[i].left(), row.signs[i - 1].right() - 2) << i;
    const FormulaLook tower = look("x^{x^{x}}");
    ASSERT_EQ(tower.signs.size(), 3U);
    EXPECT_LT(tower.signs[1].height(), tower.signs[0].height());
    EXPECT_LT(tower.signs[2].height(), tower.signs[1].height());
    EXPECT_LT(tower.signs[2].center().y(), tower.signs[1].center().y());
}

TEST(FormulaLook, ARootsIndexStandsInItsTick) {
    const FormulaLook cube = look("\\sqrt[3]{a}"), square = look("\\sqrt{a}");
    ASSERT_EQ(cube.signs.size(), 3U);
    EXPECT_LT(cube.signs[2].right(), cube.signs[1].left()) << "left of what stands under the root";
    EXPECT_LT(cube.signs[2].height(), 0.8 * cube.signs[1].height() + 4);
    EXPECT_EQ(square.signs.size(), 2U);
}

TEST(FormulaLook, AbsoluteValuesAndIndicesOfBracketsAreSet) {
    const FormulaLook bars = look("|\\frac{1}{2}|");
    EXPECT_GT(bars.signs.front().height(), 1.3 * look("|1|").signs.front().height());
    EXPECT_EQ(look("(a)_{1}").signs.size(), 4U);
}

TEST(FormulaLook, NumbersOverALineEndBelowOneAnother) {
    const FormulaLook sum = look("\\begin{array}{r} 7 \\\\ 120 \\\\ \\hline 127 \\end{array}");
    ASSERT_EQ(sum.signs.size(), 8U);  // 7, 1 2 0, the line, 1 2 7
    EXPECT_NEAR(sum.signs[0].right(), sum.signs[3].right(), 1);
    EXPECT_NEAR(sum.signs[3].right(), sum.signs[7].right(), 1);
    const QRectF line = sum.signs[4];
    EXPECT_GT(line.top(), sum.signs[3].bottom());
    EXPECT_LT(line.bottom(), sum.signs[5].top());
    EXPECT_LE(line.left(), sum.signs[5].left());
    EXPECT_LE(sum.path.boundingRect().bottom(), sum.descent + 1);
    EXPECT_GE(sum.path.boundingRect().top(), -sum.ascent - 1);
}

TEST(FormulaLook, BracketsOfAMatrixAreAsHighAsItsRows) {
    const FormulaLook matrix = look("\\begin{pmatrix} 1 & 2 \\\\ 3 & 4 \\end{pmatrix}");
    EXPECT_GT(matrix.ascent + matrix.descent, 70);
    ASSERT_EQ(matrix.signs.size(), 6U);  // its brackets first and last
    EXPECT_LE(matrix.signs[0].top(), matrix.signs[1].top());
    EXPECT_GE(matrix.signs[5].bottom(), matrix.signs[4].bottom());
    EXPECT_LT(matrix.signs[1].right(), matrix.signs[2].left());
    EXPECT_LT(matrix.signs[1].bottom(), matrix.signs[3].top() + 1);
    EXPECT_GT(look("\\begin{cases} x=1 \\\\ y=2 \\end{cases}").width, look("x=1").width);
}

}  // namespace
}  // namespace fernleaf
