#include "math/written_math.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

std::string xml(const char* latex) {
    const auto written = written_math(latex);
    if (!written) return "none";
    const std::string all = mathml(*written);
    const size_t begin = all.find('>') + 1;
    return all.substr(begin, all.rfind('<') - begin);
}

TEST(WrittenMath, IsWrittenAsMathML) {
    EXPECT_EQ(xml("x^{2}-16=0"),
              "<mrow><msup><mi>x</mi><mrow><mn>2</mn></mrow></msup><mo>−</mo><mn>16</mn><mo>=</mo><mn>0</mn></mrow>");
    EXPECT_EQ(xml("\\frac{1}{2}"), "<mrow><mfrac><mrow><mn>1</mn></mrow><mrow><mn>2</mn></mrow></mfrac></mrow>");
    EXPECT_EQ(xml("\\sqrt{a}"), "<mrow><msqrt><mrow><mi>a</mi></mrow></msqrt></mrow>");
    EXPECT_EQ(xml("\\sqrt[3]{a}"), "<mrow><mroot><mrow><mi>a</mi></mrow><mrow><mn>3</mn></mrow></mroot></mrow>");
    EXPECT_EQ(xml("a_i^2"), "<mrow><msubsup><mi>a</mi><mrow><mi>i</mi></mrow><mrow><mn>2</mn></mrow></msubsup></mrow>");
    EXPECT_EQ(xml("\\sin 3.5"), "<mrow><mi>sin</mi><mn>3.5</mn></mrow>");
    EXPECT_EQ(xml("a<b"), "<mrow><mi>a</mi><mo>&lt;</mo><mi>b</mi></mrow>");
}

TEST(WrittenMath, BoundsOfSumsStandOverAndUnderThoseOfIntegralsBeside) {
    EXPECT_NE(xml("\\sum_{k=1}^{n}k").find("<munderover>"), std::string::npos);
    EXPECT_NE(xml("\\int_{0}^{1}x").find("<msubsup>"), std::string::npos);
    EXPECT_NE(xml("\\lim_{x\\to 0}x").find("<munder><mi>lim</mi>"), std::string::npos);
}

TEST(WrittenMath, PlainFormsAndLettersOfAnyScriptPass) {
    EXPECT_EQ(xml("x^2"), xml("x^{2}"));
    EXPECT_EQ(written_math("µ+ß")->parts.size(), 3U);
    EXPECT_EQ(xml("\\unheardof"), "<mrow><mo>\\unheardof</mo></mrow>");
}

TEST(WrittenMath, WhatIsBrokenIsNone) {
    for (const char* broken :
         {"{", "}", "x^", "^2", "\\frac{1}", "\\sqrt[3", "a_{1", "\\text{open", "\\frac{1}{2", "x^{2}}"})
        EXPECT_FALSE(written_math(broken)) << broken;
    EXPECT_FALSE(written_math(std::string(20'000, '{') + std::string(20'000, '}'))) << "too deep";
    EXPECT_TRUE(written_math("")->parts.empty());
}

TEST(WrittenMath, SignsAreShownAsTheyAreWritten) {
    const auto shows = [](const char* latex) { return shown(written_math(latex)->parts.at(0)); };
    EXPECT_EQ(shows("\\alpha"), "α");
    EXPECT_EQ(shows("-"), "−");
    EXPECT_EQ(shows("\\cdot"), "·");
    EXPECT_EQ(shows("\\sin"), "sin");
    EXPECT_EQ(shows("\\text{total yield}"), "total yield");
    EXPECT_EQ(shows("x"), "x");
    EXPECT_EQ(shows("\\unheardof"), "\\unheardof");
}

TEST(WrittenMath, WhatHasBoundsOverIt) {
    const auto over = [](const char* latex) { return has_bounds_over(written_math(latex)->parts.at(0)); };
    EXPECT_TRUE(over("\\sum"));
    EXPECT_TRUE(over("\\prod"));
    EXPECT_TRUE(over("\\lim"));
    EXPECT_TRUE(over("\\max"));
    EXPECT_FALSE(over("\\int"));
    EXPECT_FALSE(over("\\sin"));
    EXPECT_FALSE(over("x"));
}

TEST(WrittenMath, ScriptsBelongToWhatStandsBeforeThem) {
    const auto written = written_math("2x_{1}^{2}y");
    ASSERT_EQ(written->parts.size(), 3U);
    const WrittenMath& scripts = written->parts[1];
    ASSERT_EQ(scripts.kind, WrittenMath::Kind::scripts);
    EXPECT_EQ(scripts.parts[0].latex, "x");
    EXPECT_EQ(scripts.parts[1].parts.at(0).latex, "1");
    EXPECT_EQ(scripts.parts[2].parts.at(0).latex, "2");
    EXPECT_EQ(*written, *written_math("2x^{2}_{1}y")) << "in either order";
}

TEST(WrittenMath, NumbersAreOneInMathMLAndPointsThatEndASentenceNot) {
    EXPECT_EQ(xml("12.5"), "<mrow><mn>12.5</mn></mrow>");
    EXPECT_EQ(xml("3,5"), "<mrow><mn>3,5</mn></mrow>");
    EXPECT_EQ(xml("5."), "<mrow><mn>5</mn><mo>.</mo></mrow>");
    EXPECT_EQ(xml("2x"), "<mrow><mn>2</mn><mi>x</mi></mrow>");
}

TEST(WrittenMath, GridsHaveRowsCellsAndLines) {
    const auto matrix = written_math("\\begin{pmatrix} 1 & x^2 \\\\ 0 & \\frac{1}{2} \\end{pmatrix}=A");
    ASSERT_TRUE(matrix);
    ASSERT_EQ(matrix->parts.size(), 3U);
    const WrittenMath& grid = matrix->parts[0];
    EXPECT_EQ(grid.kind, WrittenMath::Kind::grid);
    ASSERT_EQ(grid.parts.size(), 2U);
    EXPECT_EQ(grid.parts[1].parts.size(), 2U);
    EXPECT_EQ(brackets_of(grid).first, "(");
    EXPECT_EQ(stands(grid, 0), 'c');
    const auto column = written_math("\\begin{array}{rl} 12 & a \\\\ \\hline 42 \\end{array}");
    ASSERT_TRUE(column);
    ASSERT_EQ(column->parts[0].parts.size(), 3U);
    EXPECT_EQ(column->parts[0].parts[1].kind, WrittenMath::Kind::line);
    EXPECT_EQ(stands(column->parts[0], 0), 'r');
    EXPECT_EQ(stands(column->parts[0], 1), 'l');
    EXPECT_EQ(stands(column->parts[0], 7), 'c');
    EXPECT_NE(mathml(*column).find("rowlines=\"solid \""), std::string::npos);
    EXPECT_NE(mathml(*matrix).find("<mo>(</mo><mtable"), std::string::npos);
}

TEST(WrittenMath, GridsThatDoNotCloseAreNone) {
    for (const char* latex :
         {"\\begin{pmatrix} 1", "\\begin{pmatrix} 1 \\end{cases}", "\\begin{pmatrix} {1 \\end{pmatrix}", "\\begin",
          "\\end{pmatrix}", "\\begin{array}{r} \\end"})
        EXPECT_FALSE(written_math(latex)) << latex;
    EXPECT_TRUE(written_math("\\begin{cases} \\end{cases}"));
    std::string deep;
    for (int i = 0; i < 200; ++i) deep += "\\begin{matrix}";
    EXPECT_FALSE(written_math(deep));
}

TEST(WrittenMath, LettersBehindNumbersMayBeUnits) {
    const auto units = [](const char* latex) {
        std::string out;
        for (const bool unit : parts_of_units(*written_math(latex))) out += unit ? 'u' : '.';
        return out;
    };
    EXPECT_EQ(units("12kg"), "..uu");
    EXPECT_EQ(units("3m+20cm"), ".u...uu");
    EXPECT_EQ(units("90km/h"), "..uu.u");
    EXPECT_EQ(units("4cm^{2}"), ".uu");
    EXPECT_EQ(units("3m+2"), "....") << "a single letter may be anything";
    EXPECT_EQ(units("5mmx"), "....") << "letters multiplied";
    EXPECT_EQ(units("kg"), "..");
}

TEST(WrittenMath, AccentsStandOverWhatTheyBelongTo) {
    const auto vector = written_math("\\vec{v}=\\overline{AB}");
    ASSERT_TRUE(vector);
    EXPECT_EQ(vector->parts[0].kind, WrittenMath::Kind::accent);
    EXPECT_EQ(vector->parts[2].latex, "\\bar");
    EXPECT_NE(mathml(*vector).find("<mover accent=\"true\"><mrow><mi>v</mi></mrow><mo>→</mo></mover>"),
              std::string::npos);
    EXPECT_FALSE(written_math("\\vec{v"));
}

}  // namespace
}  // namespace fernleaf
