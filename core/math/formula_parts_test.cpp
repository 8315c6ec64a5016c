#include "math/formula_parts.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

FormulaPart sign(const char* latex, const Box& box, size_t stroke) {
    FormulaInk ink;
    ink.set(stroke);
    return sign_part(*sign_named(latex), box, ink);
}

const FormulaPart kX = sign("x", {0, 0, 4, 4}, 0);

TEST(FormulaParts, LettersTellTheLineTheyStandOn) {
    EXPECT_DOUBLE_EQ(kX.baseline, 4);
    EXPECT_DOUBLE_EQ(kX.unit, 4);
    const FormulaPart capital = sign("A", {0, -3, 4, 4}, 0), tailed = sign("y", {0, 0, 4, 6.4}, 0);
    EXPECT_DOUBLE_EQ(capital.unit, 4) << "7 mm is four of a small letter";
    EXPECT_NEAR(tailed.baseline, 4, 0.01);
    EXPECT_EQ(sign("+", {0, 0, 3, 3}, 0).told, 0) << "of a plus nobody knows how large it is";
}

TEST(FormulaParts, ARowsLineIsThatOfItsPartsOnTheMean) {
    const FormulaPart row = joined(kX, sign("n", {5, 0.5, 9, 4.5}, 1), Place::right);
    EXPECT_EQ(row.kind, FormulaPart::Kind::row);
    EXPECT_NEAR(row.baseline, 4.25, 0.01);
    EXPECT_EQ(row.ink.count(), 2U);
    const FormulaPart sum = joined(row, sign("+", {10, 0, 13, 3}, 2), Place::right);
    EXPECT_DOUBLE_EQ(sum.baseline, row.baseline) << "a plus tells nothing of it";
}

TEST(FormulaParts, ARowKnowsWhatTheLettersAtItsEndSpell) {
    FormulaPart row = sign("=", {0, 0, 3, 2}, 0);
    const std::array<const char*, 3> letters{"l", "o", "g"};
    for (size_t i = 0; i < letters.size(); ++i) {
        const double left = 5 + 3 * static_cast<double>(i);
        row = joined(row, sign(letters[i], {left, 0, left + 2, 4}, i + 1), Place::right);
    }
    EXPECT_STREQ(row.tail.data(), "log");
    EXPECT_STREQ(row.name.data(), "") << "it holds more than a name";
    EXPECT_STREQ(joined(row, sign("(", {15, -1, 16, 5}, 5), Place::right).tail.data(), "");
    FormulaPart many = sign("a", {0, 0, 2, 2}, 0);
    for (size_t i = 1; i < 12; ++i) {
        const double left = 3 * static_cast<double>(i);
        many = joined(many, sign(i == 11 ? "n" : "s", {left, 0, left + 2, 2}, i), Place::right);
    }
    EXPECT_STREQ(many.tail.data(), "ssssssn");
}

TEST(FormulaParts, WhatMayStandWhere) {
    const FormulaPart two = sign("2", {5, -2, 7, 1}, 1), plus = sign("+", {5, 0, 8, 3}, 1),
                      bar = sign("-", {0, 5, 9, 5}, 2), root = sign("\\sqrt", {0, 0, 20, 9}, 3);
    EXPECT_TRUE(may_stand(kX, two, Place::power));
    EXPECT_FALSE(may_stand(plus, two, Place::power)) << "no power of a plus";
    EXPECT_TRUE(may_stand(bar, two, Place::over));
    EXPECT_FALSE(may_stand(kX, two, Place::over));
    EXPECT_TRUE(may_stand(root, two, Place::inside));
    EXPECT_FALSE(may_stand(root, two, Place::right)) << "a root without anything under it is none";
    const FormulaPart squared = joined(kX, two, Place::power);
    EXPECT_FALSE(may_stand(squared, two, Place::power)) << "one power is enough";
    EXPECT_TRUE(may_stand(squared, two, Place::index));
    EXPECT_FALSE(may_stand(joined(kX, two, Place::index), two, Place::power)) << "the power comes first";
}

TEST(FormulaParts, AFractionStandsAsItsBarDoes) {
    const FormulaPart bar = sign("-", {0, 5, 10, 5}, 2), one = sign("1", {4, -1, 6, 4}, 3),
                      two = sign("2", {4, 6, 6, 11}, 4);
    ASSERT_FALSE(may_stand(bar, two, Place::inside));
    const FormulaPart half = joined(bar, one, Place::over);
    EXPECT_EQ(half.kind, FormulaPart::Kind::dividend);
    EXPECT_TRUE(may_stand(half, two, Place::under));
    EXPECT_FALSE(may_stand(half, two, Place::right));
    const FormulaPart fraction = joined(half, two, Place::under);
    EXPECT_EQ(fraction.kind, FormulaPart::Kind::fraction);
    EXPECT_EQ(fraction.ink.count(), 3U);
    EXPECT_NEAR(fraction.baseline - fraction.unit / 2, 5, 0.01);
    EXPECT_EQ(fraction.first_sign, -1);
}

TEST(FormulaParts, BracketsAreCounted) {
    const FormulaPart open = sign("(", {0, 0, 1, 6}, 0), close = sign(")", {9, 0, 10, 6}, 1);
    const FormulaPart inside = joined(open, kX, Place::right);
    EXPECT_EQ(inside.open, 1);
    const FormulaPart whole = joined(inside, close, Place::right);
    EXPECT_EQ(whole.open, 0);
    EXPECT_EQ(whole.reversed, 0);
    EXPECT_EQ(joined(close, open, Place::right).reversed, 1);
}

TEST(FormulaParts, BoundsStandUnderALimitOnceItsNameIsSpelt) {
    const FormulaPart l = sign("l", {0, 0, 1, 7}, 0), i = sign("i", {2, 2, 3, 7}, 1), m = sign("m", {4, 3, 8, 7}, 2),
                      bound = sign("x", {3, 9, 5, 11}, 3);
    const FormulaPart li = joined(l, i, Place::right);
    EXPECT_FALSE(may_stand(li, bound, Place::under));
    EXPECT_TRUE(may_stand(joined(li, m, Place::right), bound, Place::under));
}

TEST(FormulaParts, PlacesAreNumbersWhateverTheBoxes) {
    const FormulaPart dot = sign(".", {1, 1, 1, 1}, 0), bar = sign("-", {0, 0, 500, 0}, 1);
    for (const float value : place_numbers(dot, bar)) EXPECT_LE(std::abs(value), 6);
    for (const float value : place_numbers(bar, dot)) EXPECT_LE(std::abs(value), 6);
}

}  // namespace
}  // namespace fernleaf
