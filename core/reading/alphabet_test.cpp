// Letters with marks, spelt and composed.
#include "reading/alphabet.h"

#include <gtest/gtest.h>

#include "base/text.h"

namespace fernleaf {
namespace {

const Alphabet kAlphabet(U" aeigost\u0301\u030C\u0302\u0323≠=ı");

TEST(Alphabet, SpellsLettersBeforeTheirMarks) {
    EXPECT_EQ(kAlphabet.spelt(U"á š ệ"), U"a\u0301 s\u030C e\u0323\u0302");
    EXPECT_EQ(composed(kAlphabet.spelt(U"á š ệ")), U"á š ệ");
}

TEST(Alphabet, KeepsWhatItHasWhole) { EXPECT_EQ(kAlphabet.spelt(U"a ≠ ı"), U"a ≠ ı"); }

TEST(Alphabet, LeavesWhatItCannotSpell) {
    EXPECT_EQ(kAlphabet.spelt(U"a語"), U"a語");
    EXPECT_EQ(kAlphabet.symbol(U'語'), 0);
    EXPECT_EQ(kAlphabet.symbol(kAlphabet.character(3)), 3);
}

}  // namespace
}  // namespace fernleaf
