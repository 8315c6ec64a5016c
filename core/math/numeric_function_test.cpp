#include "math/numeric_function.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "math/parse_math.h"

namespace fernleaf {
namespace {

double at(const char* formula, double x, AngleUnit angle = AngleUnit::radian,
          const std::map<std::string, double>& values = {}) {
    const auto tree = parse_math(formula);
    EXPECT_TRUE(tree) << formula;
    const auto f = NumericFunction::of(*tree, "x", angle, values);
    EXPECT_TRUE(f) << formula;
    return f ? (*f)(x) : 0;
}

bool is_none(const char* formula) { return !NumericFunction::of(*parse_math(formula), "x", AngleUnit::radian, {}); }

TEST(NumericFunction, WorksOutWhatFormulasHold) {
    EXPECT_DOUBLE_EQ(at("x^2-16", 5), 9);
    EXPECT_DOUBLE_EQ(at("a x^2 + b", 3, AngleUnit::radian, {{"a", 2}, {"b", 1}}), 19);
    EXPECT_NEAR(at("\\frac{1}{2}\\sin(x)", std::numbers::pi / 2), 0.5, 1e-12);
    EXPECT_NEAR(at("e^x", 1), std::numbers::e, 1e-12);
    EXPECT_NEAR(at("\\log_2 x", 8), 3, 1e-12);
    EXPECT_NEAR(at("log x", 1000), 3, 1e-12);
    EXPECT_DOUBLE_EQ(at("|x|", -4), 4);
    EXPECT_DOUBLE_EQ(at("x!", 5), 120);
    EXPECT_DOUBLE_EQ(at("\\max(x, 2)", 1), 2);
    EXPECT_NEAR(at("\\sum_{k=1}^{4} k x", 2), 20, 1e-12);
    EXPECT_NEAR(at("\\int_0^x t^2 dt", 3), 9, 1e-9);
    EXPECT_NEAR(at("\\frac{d}{dx} x^3", 2), 12, 1e-5);
}

TEST(NumericFunction, AnglesAreInTheUnitThatIsMeant) {
    EXPECT_NEAR(at("\\sin x", 90, AngleUnit::degree), 1, 1e-12);
    EXPECT_NEAR(at("\\sin x", 100, AngleUnit::gon), 1, 1e-12);
    EXPECT_NEAR(at("\\arctan x", 1, AngleUnit::degree), 45, 1e-12);
    EXPECT_NEAR(at("x \\sin 30°", 2), 1, 1e-12);
}

TEST(NumericFunction, WhatHasNoRealValueIsNoNumber) {
    EXPECT_TRUE(std::isnan(at("\\sqrt{x}", -1)));
    EXPECT_TRUE(std::isnan(at("\\ln x", 0)));
    EXPECT_TRUE(std::isnan(at("1/x", 0)));
    EXPECT_TRUE(std::isnan(at("x^0", 0)));
    EXPECT_TRUE(std::isnan(at("x^{0.5}", -2)));
    EXPECT_TRUE(std::isnan(at("\\arcsin x", 2)));
}

TEST(NumericFunction, OddRootsOfNegativeNumbersAreReal) {
    EXPECT_NEAR(at("x^{1/3}", -8), -2, 1e-12);
    EXPECT_NEAR(at("x^{\\frac{2}{3}}", -8), 4, 1e-12);
    EXPECT_NEAR(at("\\sqrt[3]{x}", -27), -3, 1e-12);
}

TEST(NumericFunction, WhatIsNoNumberIsNoFunction) {
    EXPECT_TRUE(is_none("x + a"));
    EXPECT_TRUE(is_none("x^2 = 16"));
    EXPECT_TRUE(is_none("\\int x dx"));
    EXPECT_TRUE(is_none("\\lim_{t \\to 0} t x"));
    EXPECT_TRUE(is_none("\\begin{pmatrix} x & 1 \\\\ 2 & 3 \\end{pmatrix}"));
}

TEST(NumericFunction, SumsWithinSumsEndInTime) {
    EXPECT_TRUE(std::isnan(at("\\sum_{k=1}^{9000000} \\sum_{m=1}^{9000000} k m x", 1)));
}

TEST(NumericFunction, ANumberIsWhatHoldsNoUnknown) {
    EXPECT_NEAR(*number_of(*parse_math("3 \\cdot 4 + a"), AngleUnit::radian, {{"a", 1}}), 13, 1e-12);
    EXPECT_FALSE(number_of(*parse_math("3 x"), AngleUnit::radian, {}));
    EXPECT_FALSE(number_of(*parse_math("1/0"), AngleUnit::radian, {}));
}

}  // namespace
}  // namespace fernleaf
