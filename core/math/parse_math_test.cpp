#include "math/parse_math.h"

#include <gtest/gtest.h>

#include "math/math_text.h"

namespace fernleaf {
namespace {

std::string read(const std::string& text) {
    const auto tree = parse_math(text);
    return tree ? math_text(*tree) : "! " + tree.error().message;
}

TEST(ParseMath, ReadsLatexAndPlainFormsAlike) {
    EXPECT_EQ(read("x^2-16=0"), "x^2 - 16 = 0");
    EXPECT_EQ(read("x^{2} - 16 = 0"), "x^2 - 16 = 0");
    EXPECT_EQ(read("\\frac{3}{4}+\\frac12"), "3/4 + 1/2");
    EXPECT_EQ(read("2 \\cdot 3 \\times 4 \\div 5"), "2*3*4/5");
    EXPECT_EQ(read("\\sqrt{16} + \\sqrt[3]{8}"), "sqrt(16) + root(3, 8)");
    EXPECT_EQ(read("\\left(x+1\\right)^2"), "(x + 1)^2");
    EXPECT_EQ(read("2(a+b)"), "2*(a + b)");
    EXPECT_EQ(read("|x-1|"), "abs(x - 1)");
    EXPECT_EQ(read("√(2)·3²"), "sqrt(2)*3^2");
    EXPECT_EQ(read("12.5 \\% \\cdot 80"), "12.5%*80");
}

TEST(ParseMath, MultipliesWhatStandsTogetherAndKnowsFunctions) {
    EXPECT_EQ(read("2xy"), "2*x*y");
    EXPECT_EQ(read("\\sin 2x"), "sin(2*x)");
    EXPECT_EQ(read("\\sin x \\cos x"), "sin(x)*cos(x)");
    EXPECT_EQ(read("\\sin^2 x + \\cos^2 x"), "sin(x)^2 + cos(x)^2");
    EXPECT_EQ(read("\\sin^{-1}(1)"), "arcsin(1)");
    EXPECT_EQ(read("\\log_{2} 8"), "log(8, 2)");
    EXPECT_EQ(read("\\ln e"), "ln(e)");
    EXPECT_EQ(read("sin(30°)"), "sin(30°)");
    EXPECT_EQ(read("\\cos 60^\\circ"), "cos(60°)");
    EXPECT_EQ(read("v_0 t + \\alpha_{1}"), "v_0*t + alpha_1");
    EXPECT_EQ(read("5! + 17 \\bmod 5"), "5! + 17 mod 5");
}

TEST(ParseMath, MinusAndPowersBindAsTheyAreWritten) {
    EXPECT_EQ(read("-x^2"), "-x^2");
    EXPECT_EQ(read("(-x)^2"), "(-x)^2");
    EXPECT_EQ(read("2^{-1}"), "2^(-1)");
    EXPECT_EQ(read("2^3^2"), "2^(3^2)");
    EXPECT_EQ(read("2^10"), "2^10");
    EXPECT_EQ(read("a - (b - c)"), "a - (b - c)");
    EXPECT_EQ(read("a / b / c"), "a/b/c");
    EXPECT_EQ(read("3 \\cdot -2"), "3*(-2)");
}

TEST(ParseMath, ReadsAnalysis) {
    EXPECT_EQ(read("\\int_0^1 x^2 \\, dx"), "int_(0)^(1) x^2 dx");
    EXPECT_EQ(read("\\int x dx"), "int x dx");
    EXPECT_EQ(read("\\int_{0}^{\\pi} \\sin x dx"), "int_(0)^(pi) sin(x) dx");
    EXPECT_EQ(read("\\sum_{k=1}^{n} k^2"), "sum_over(k^2, k, 1, n)");
    EXPECT_EQ(read("\\lim_{x \\to 0} \\frac{\\sin x}{x}"), "limit(sin(x)/x, x, 0)");
    EXPECT_EQ(read("\\lim_{x \\to 0^+} \\frac{1}{x}"), "limit_above(1/x, x, 0)");
    EXPECT_EQ(read("\\frac{d}{dx} x^3"), "derivative(x^3, x, 1)");
    EXPECT_EQ(read("\\frac{d^2}{dx^2} x^3"), "derivative(x^3, x, 2)");
}

TEST(ParseMath, ReadsSystemsMatricesAndQuestions) {
    EXPECT_EQ(read("\\begin{cases} x+y=5 \\\\ x-y=1 \\end{cases}"), "x + y = 5, x - y = 1");
    EXPECT_EQ(read("\\begin{aligned} x &= 3+4 \\\\ &= 7 \\end{aligned}"), "x = 3 + 4 = 7");
    EXPECT_EQ(read("\\begin{aligned} 3+4 &= \\\\ &= 7 \\end{aligned}"), "3 + 4 = 7");
    EXPECT_EQ(read("\\begin{aligned} x &= 2 \\\\ y &= 3 \\end{aligned}"), "x = 2, y = 3");
    EXPECT_EQ(read("x+y=5; x-y=1"), "x + y = 5, x - y = 1");
    EXPECT_EQ(read("\\begin{pmatrix} 1 & 2 \\\\ 3 & 4 \\end{pmatrix}"), "[[1, 2], [3, 4]]");
    EXPECT_EQ(read("\\begin{vmatrix} 1 & 2 \\\\ 3 & 4 \\end{vmatrix}"), "det([[1, 2], [3, 4]])");
    EXPECT_EQ(read("3 + 4 ="), "3 + 4 =");
    EXPECT_EQ(read("1 < x \\le 3"), "1 < x <= 3");
}

TEST(ParseMath, ACommaIsADecimalSignWhereItIs) {
    EXPECT_EQ(math_text(*parse_math("1,5 + 2", true)), "1.5 + 2");
    EXPECT_EQ(math_text(*parse_math(".5")), "0.5");
}

TEST(ParseMath, SaysWhatIsWrong) {
    EXPECT_EQ(read(""), "! There is no formula.");
    EXPECT_EQ(read("\\frac{1}{2"), "! Something is missing at the end: “}”.");
    EXPECT_EQ(read("(1+2"), "! A bracket is not closed.");
    EXPECT_EQ(read("1+"), "! The formula ends too early.");
    EXPECT_EQ(read("\\unknowncommand{3}"), "! “\\unknowncommand” is unknown or out of place.");
    EXPECT_EQ(read("2 + ♞"), "! “♞” can't stand in a formula.");
    EXPECT_EQ(read("\\int x"), "! An integral ends with d and what it is taken over, such as dx.");
    EXPECT_EQ(read("\\begin{pmatrix} 1 & 2 \\\\ 3 \\end{pmatrix}"), "! The rows of a matrix are of different lengths.");
    EXPECT_EQ(read("1 } 2"), "! “}” is out of place.");
}

TEST(ParseMath, NestedWithoutEndIsAnErrorAndNoCrash) {
    for (const char* piece : {"(", "{", "\\sqrt{", "-", "|", "2^", "\\frac{", "\\sin ", "[", "x_"}) {
        std::string text;
        for (int i = 0; i < 3000; ++i) text += piece;
        EXPECT_FALSE(parse_math(text)) << piece;
    }
    EXPECT_FALSE(parse_math(std::string(20'000, '(') + "1" + std::string(20'000, ')')));
    std::string sum = "1";
    for (int i = 0; i < 9000; ++i) sum += "+1";
    EXPECT_FALSE(parse_math(sum)) << "larger than is worked with";
}

TEST(ParseMath, ColumnsOfNumbersOverALineAreSums) {
    const auto asked = parse_math("\\begin{array}{r} 12 \\\\ +30 \\\\ -2 \\\\ \\hline \\end{array}");
    ASSERT_TRUE(asked) << asked.error().message;
    EXPECT_EQ(*asked, *parse_math("12+30-2="));
    const auto checked = parse_math("\\begin{array}{r} 12 \\\\ 30 \\\\ \\hline 42 \\end{array}");
    ASSERT_TRUE(checked) << checked.error().message;
    EXPECT_EQ(*checked, *parse_math("12+30=42"));
    EXPECT_FALSE(parse_math("\\begin{array}{r} 12 \\\\ \\hline 42 \\end{array}")) << "one number is no sum";
    EXPECT_FALSE(parse_math("\\begin{array}{r} 12 \\\\ 30 \\\\ \\hline 42"));
    // Without a line, relations hold together as before.
    EXPECT_EQ(parse_math("\\begin{array}{l} x=1 \\\\ y=2 \\end{array}")->kind, MathKind::all_of);
}

}  // namespace
}  // namespace fernleaf
