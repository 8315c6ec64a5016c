#include "math/math_text.h"

#include <gtest/gtest.h>

#include "math/parse_math.h"

namespace fernleaf {
namespace {

const std::vector<std::string> kFormulas = {"x^2-16=0",
                                            "\\frac{3}{4}+2",
                                            "-\\frac{a}{b+c}",
                                            "\\sqrt[3]{x+1}",
                                            "\\sin^2 x",
                                            "\\log_2 8",
                                            "2^{-1}",
                                            "(a+b)(c-d)",
                                            "\\int_0^1 x^2 dx",
                                            "\\sum_{k=1}^{n} k",
                                            "\\lim_{x\\to0}\\frac{\\sin x}{x}",
                                            "\\frac{d}{dx} x^3",
                                            "5!",
                                            "|x|+1",
                                            "\\begin{cases}x+y=5\\\\x-y=1\\end{cases}",
                                            "\\begin{pmatrix}1&2\\\\3&4\\end{pmatrix}",
                                            "1<x\\le3",
                                            "x\\ne2",
                                            "3+4=",
                                            "\\alpha_1+v_0",
                                            "12.5\\%",
                                            "\\cos 60^\\circ",
                                            "\\binom{5}{2}",
                                            "2\\cdot3\\cdot x",
                                            "(-2)^2",
                                            "a-(b-c)",
                                            "3\\cdot(-2)"};

TEST(MathText, LatexIsReadAsTheSameTree) {
    for (const std::string& formula : kFormulas) {
        const auto tree = parse_math(formula);
        ASSERT_TRUE(tree) << formula << ": " << tree.error().message;
        const std::string latex = math_latex(*tree);
        const auto again = parse_math(latex);
        ASSERT_TRUE(again) << latex << ": " << again.error().message;
        EXPECT_EQ(math_text(*again), math_text(*tree)) << latex;
    }
}

TEST(MathText, IsAsPeopleWriteIt) {
    EXPECT_EQ(math_latex(*parse_math("x^2/2")), "\\frac{x^{2}}{2}");
    EXPECT_EQ(math_latex(*parse_math("2x")), "2 x");
    EXPECT_EQ(math_latex(*parse_math("2*3")), "2 \\cdot 3");
    EXPECT_EQ(math_latex(*parse_math("sqrt(2)*alpha")), "\\sqrt{2} \\cdot \\alpha") << "letters of a plain form";
    EXPECT_EQ(math_text(*parse_math("\\frac{x+1}{2y}")), "(x + 1)/(2*y)");
}

TEST(MathText, WhatIsTypedPlainlyBecomesLatex) {
    EXPECT_EQ(latex_of_typed("sqrt(2)/3", false), "\\frac{\\sqrt{2}}{3}");
    EXPECT_EQ(latex_of_typed(" x^2-16=0 ", false), "x^2-16=0") << "it is LaTeX already";
    EXPECT_EQ(latex_of_typed("1/2+3/4=", false), "\\frac{1}{2} + \\frac{3}{4} =");
    EXPECT_EQ(latex_of_typed("\\frac{1}{2}", false), "\\frac{1}{2}");
    EXPECT_EQ(latex_of_typed("ab", false), "a b");
    EXPECT_EQ(latex_of_typed("{x", false), "");
    EXPECT_EQ(latex_of_typed("x/(", false), "x/(") << "what makes no sense can be set nevertheless";
}

}  // namespace
}  // namespace fernleaf
