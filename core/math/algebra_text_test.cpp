#include "math/algebra_text.h"

#include <gtest/gtest.h>

#include "math/math_text.h"
#include "math/parse_math.h"

namespace fernleaf {
namespace {

std::string sent(const std::string& formula, AngleUnit unit = AngleUnit::radian) {
    return AlgebraText(unit).of(*parse_math(formula));
}

TEST(AlgebraText, NamesOfThePageAreNotTheProgramsOwn) {
    // Each of these means something to the program.
    for (const char* name : {"x", "E", "\\mathrm{solve}", "\\mathrm{system}", "\\mathrm{read}", "D", "v_1"})
        EXPECT_EQ(sent(name), "v1") << name;
    EXPECT_EQ(sent("a+b+a"), "(v1+v2+v1)");
    EXPECT_EQ(sent("e^{i\\pi}"), "((e)^((i*pi)))");
}

TEST(AlgebraText, DecimalsAreSentExactly) {
    EXPECT_EQ(sent("0.1+12.50"), "((1/10)+(1250/100))");
    EXPECT_EQ(sent("0.0"), "(0/10)");
}

TEST(AlgebraText, AnglesAreInTheUnitThatIsMeant) {
    EXPECT_EQ(sent("\\sin 30"), "sin(30)");
    EXPECT_EQ(sent("\\sin 30", AngleUnit::degree), "sin(30*pi/180)");
    EXPECT_EQ(sent("\\sin 30", AngleUnit::gon), "sin(30*pi/200)");
    EXPECT_EQ(sent("\\sin 30^\\circ", AngleUnit::gon), "sin((30*pi/180))") << "it says itself";
    EXPECT_EQ(sent("\\arctan 1", AngleUnit::degree), "(atan(1)*180/pi)");
}

TEST(AlgebraText, AnswersAreReadBack) {
    AlgebraText text(AngleUnit::radian);
    EXPECT_EQ(text.name_of("x"), "v1");
    EXPECT_EQ(math_text(text.read("2*v1^2-1")->value), "2*x^2 - 1");
    EXPECT_EQ(math_text(text.read("-sqrt(3)/2")->value), "-sqrt(3)/2");
    EXPECT_EQ(math_text(text.read("asin(v1)")->value), "arcsin(x)");
    const auto list = text.read("list[-4,4]");
    ASSERT_TRUE(list);
    EXPECT_EQ(list->parts.size(), 2U);
    const auto range = text.read("list[((v1>-2) and (v1<2))]");
    ASSERT_TRUE(range);
    EXPECT_EQ(range->parts[0].kind, AlgebraAnswer::Kind::all);
    EXPECT_EQ(text.read("1.5e-7")->value.kind, MathKind::product);
}

TEST(AlgebraText, WhatIsNotUnderstoodIsNoAnswer) {
    AlgebraText text(AngleUnit::radian);
    for (const char* said : {"", "error", "erf(1)", "v9", "1+", "list[1,", "(((", "undef", "1 2", "\"text\""})
        EXPECT_FALSE(text.read(said)) << said;
    EXPECT_FALSE(text.read(std::string(100'000, '('))) << "nested without end";
    EXPECT_FALSE(text.read(std::string(100'000, '-') + "1"));
}

}  // namespace
}  // namespace fernleaf
