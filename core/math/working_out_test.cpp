#include "math/working_out.h"

#include <gtest/gtest.h>

#include <chrono>

#include "math/parse_math.h"

namespace fernleaf {
namespace {

std::string worked(const std::string& formula, const WorkingSettings& settings = {}) {
    const auto tree = parse_math(formula);
    return tree ? work_out(*tree, settings).text() : "! " + tree.error().message;
}

struct Known {
    const char *formula, *answer;
};

std::string in_degrees(const std::string& formula) {
    WorkingSettings settings;
    settings.angle = AngleUnit::degree;
    return worked(formula, settings);
}

class Works : public testing::TestWithParam<Known> {};
TEST_P(Works, Out) { EXPECT_EQ(worked(GetParam().formula), GetParam().answer) << GetParam().formula; }

INSTANTIATE_TEST_SUITE_P(Sums, Works,
                         testing::ValuesIn(std::vector<Known>{{"12+21", "33"},
                                                              {"420-273=", "147"},
                                                              {"\\frac{1}{3}+\\frac{1}{6}", "1/2 ≈ 0.5"},
                                                              {"0.1+0.2", "0.3"},
                                                              {"1.5/7", "3/14 ≈ 0.214286"},
                                                              {"2^{10}", "1024"},
                                                              {"\\sqrt{2}", "sqrt(2) ≈ 1.41421"},
                                                              {"\\sqrt{8}", "2*sqrt(2) ≈ 2.82843"},
                                                              {"\\sqrt[3]{27}", "3"},
                                                              {"5!", "120"},
                                                              {"\\binom{5}{2}", "10"},
                                                              {"17 \\bmod 5", "2"},
                                                              {"12.5\\% \\cdot 80", "10"},
                                                              {"|3-8|", "5"},
                                                              {"\\log 1000", "3"},
                                                              {"\\log_2 8", "3"},
                                                              {"\\ln e", "1"},
                                                              {"-3+1", "-2"},
                                                              {"2 \\pm 1", "3 or 1"},
                                                              {"(2+3)(4-1)", "15"}}));

std::string reworked_as(Rework how, const std::string& formula, const std::string& name = {}) {
    const auto tree = parse_math(formula);
    return tree ? reworked(*tree, how, name, {}).text() : "! " + tree.error().message;
}

TEST(WorkingOut, MakesFormulasIntoOthersOnWish) {
    EXPECT_EQ(reworked_as(Rework::factor, "x^2-9"), "(x - 3)*(x + 3)");
    EXPECT_EQ(reworked_as(Rework::factor, "84"), "2^2*3*7");
    EXPECT_EQ(reworked_as(Rework::expand, "(a+b)^2"), "a^2 + b^2 + 2*a*b");
    EXPECT_EQ(reworked_as(Rework::simplify, "\\frac{x^2-1}{x-1}"), "x + 1");
    EXPECT_EQ(reworked_as(Rework::expand, "y=(x+1)^2"), "y = x^2 + 2*x + 1") << "both sides of an equation";
    EXPECT_EQ(reworked_as(Rework::expand, "(x+1)^2="), "x^2 + 2*x + 1") << "also where the result is asked for";
}

TEST(WorkingOut, SolvesForAnyNameOfAnEquation) {
    EXPECT_EQ(reworked_as(Rework::solve, "V=\\pi r^2 h", "h"), "h = V/(pi*r^2)");
    EXPECT_EQ(reworked_as(Rework::solve, "2x+3y=12", "y"), "y = (-2*x + 12)/3");
    EXPECT_EQ(reworked_as(Rework::solve, "x^2-16=0", "x"), "x = -4 or x = 4");
    EXPECT_EQ(reworked_as(Rework::solve, "x+1", "x"), "only an equation can be solved");
    EXPECT_EQ(reworked_as(Rework::factor, "10^{10^{10}}"), "too hard");
}

TEST(WorkingOut, AnglesAreInTheUnitThatIsChosen) {
    EXPECT_EQ(in_degrees("\\sin 30"), "1/2 ≈ 0.5");
    EXPECT_EQ(in_degrees("\\arctan 1"), "45");
    EXPECT_EQ(in_degrees("\\tan 90"), "undefined");
    EXPECT_EQ(worked("\\sin 60^\\circ"), "sqrt(3)/2 ≈ 0.866025") << "it says itself that it is in degrees";
    EXPECT_EQ(worked("\\int_0^{\\pi} \\sin x dx"), "2");
    EXPECT_EQ(worked("\\cos\\frac{\\pi}{3}"), "1/2 ≈ 0.5");
}

INSTANTIATE_TEST_SUITE_P(Equations, Works,
                         testing::ValuesIn(std::vector<Known>{
                             {"x^2-16=0", "x = -4 or x = 4"},
                             {"2x+3=11", "x = 4"},
                             {"3x=1", "x = 1/3 ≈ 0.333333"},
                             {"x^2-2=0", "x = -sqrt(2) ≈ -1.41421 or x = sqrt(2) ≈ 1.41421"},
                             {"x^5-x-1=0", "x ≈ 1.1673"},
                             {"0.5x+1=2.25", "x = 2.5"},
                             {"\\begin{cases}3x+y=2\\\\x+y=1\\end{cases}", "x = 1/2 ≈ 0.5, y = 1/2 ≈ 0.5"},
                             {"e^x=1", "x = 0"},
                             {"x^2+1=0", "no real solution: x = i or x = -i"},
                             {"x+1=x", "no solution"},
                             {"2(x+1)=2x+2", "all numbers"},
                             {"a = 3+4", "a = 7"},
                             {"y = 2x+1", "y = 2*x + 1"},
                             {"x+y=z", "z = x + y"},
                             {"x^2<4", "-2 < x < 2"},
                             {"2x+1\\ge 5", "x >= 2"},
                             {"1<x\\le 3", "1 < x <= 3"},
                             {"420-273=147", "true"},
                             {"420-273=157", "false: 147"},
                             {"3<2", "false"},
                             {"\\pi\\approx 3.14", "true"},
                             {"\\pi\\approx 3", "false"},
                             {"\\begin{cases}x+y=5\\\\x-y=1\\end{cases}", "x = 3, y = 2"},
                             {"x+y=1; x+y=2", "no solution"},
                             {"xy=12; x=z", "x = 12/y, y any, z = 12/y"}}));

INSTANTIATE_TEST_SUITE_P(Analysis, Works,
                         testing::ValuesIn(std::vector<Known>{
                             {"\\int_0^1 x^2 dx", "1/3 ≈ 0.333333"},
                             {"\\int 2x dx", "x^2 + C"},
                             {"\\frac{d}{dx} x^3", "3*x^2"},
                             {"\\sum_{k=1}^{100} k", "5050"},
                             {"\\prod_{k=1}^{5} k", "120"},
                             {"\\lim_{x\\to\\infty} \\frac{1}{x}", "0"},
                             {"\\lim_{x\\to0^+} \\frac{1}{x}", "infinity"},
                             {"\\begin{vmatrix}1&2\\\\3&4\\end{vmatrix}", "-2"},
                             {"\\begin{pmatrix}1&2\\\\3&4\\end{pmatrix}\\cdot\\begin{pmatrix}1\\\\1\\end{pmatrix}",
                              "[[3], [7]]"}}));

INSTANTIATE_TEST_SUITE_P(Pitfalls, Works,
                         testing::ValuesIn(std::vector<Known>{{"1/0", "undefined: division by zero"},
                                                              {"\\frac{5}{3-3}", "undefined: division by zero"},
                                                              {"0^{-1}", "undefined: division by zero"},
                                                              {"0^0", "undefined: zero to the power of zero"},
                                                              {"\\ln 0", "undefined: the logarithm of zero"},
                                                              {"10^{10^{10}}", "too hard"},
                                                              {"1000000!", "too hard"},
                                                              {"x+y=z^2", "several unknowns: x, y, z"}}));

TEST(WorkingOut, ValuesAreKnownWhereTheyAreGiven) {
    WorkingSettings settings;
    settings.values["r"] = math_number("3");
    settings.values["h"] = math_number("2");
    EXPECT_EQ(worked("\\pi r^2 h", settings), "18*pi ≈ 56.5487");
    settings.digits = 3;
    EXPECT_EQ(worked("\\pi r", settings), "3*pi ≈ 9.42");
    settings.exact = true;
    EXPECT_EQ(worked("\\pi r", settings), "3*pi");
    EXPECT_EQ(worked("\\sin\\frac{\\pi}{6}", settings), "1/2");
}

TEST(WorkingOut, NothingTakesLongerThanItMay) {
    for (const char* hard : {"\\sum_{k=1}^{1000000000000} \\frac{1}{k^2+k+\\sqrt{k}}",
                             "\\int_0^1 \\frac{\\sin(e^{x^3})}{\\ln(2+x^7)} dx", "x^9+3x^7-\\sin x=e^{x^2}"}) {
        const auto begin = std::chrono::steady_clock::now();
        const std::string text = worked(hard);
        EXPECT_FALSE(text.empty());
        EXPECT_LT(std::chrono::steady_clock::now() - begin, std::chrono::seconds(20)) << hard << ": it comes to an end";
    }
}

}  // namespace
}  // namespace fernleaf
