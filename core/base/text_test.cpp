#include "base/text.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

TEST(Text, FoldsCaseAndAccents) {
    EXPECT_EQ(fold("Straße"), "strasse");
    EXPECT_EQ(fold("ÉLÈVE"), "eleve");
    EXPECT_EQ(fold("Œuvre"), "oeuvre");
    EXPECT_EQ(fold("Łódź"), "lodz");
    EXPECT_EQ(fold("e\u0301te\u0301"), "ete");
}

TEST(Text, FoldsBeyondLatin) {
    EXPECT_EQ(fold("ΟΔΥΣΣΕΎΣ"), fold("οδυσσεύς"));
    EXPECT_EQ(fold("ЁЖ"), "еж");
    EXPECT_EQ(fold("İSTANBUL"), "istanbul");
    EXPECT_EQ(fold("Việt"), "viet");
    EXPECT_EQ(fold("ﬁrn ＡＢ"), "firn ab");
    EXPECT_EQ(fold("Þórr Øre Đak Ħal ıl"), "thorr ore dak hal il");
    EXPECT_EQ(fold_words("Ἀθῆναι, Київ"), (std::vector<std::string>{"αθηναι", "киів"}));
}

TEST(Text, SplitsIntoSearchableWords) {
    EXPECT_EQ(fold_words("Frost: −3.5 °C, half-hardy"),
              (std::vector<std::string>{"frost", "3", "5", "c", "half", "hardy"}));
    EXPECT_TRUE(fold_words(" ... ").empty());
}

TEST(Text, IllFormedBytesBecomeReplacementCharacters) {
    EXPECT_FALSE(valid_utf8("\xC3"));
    EXPECT_FALSE(valid_utf8("\xED\xA0\x80"));  // a surrogate
    EXPECT_TRUE(valid_utf8("grün €"));
    EXPECT_EQ(decode_utf8("a\xFFz"), U"a\uFFFDz");
    EXPECT_EQ(encode_utf8(decode_utf8("½ → 𝛼")), "½ → 𝛼");
}

TEST(Text, LowerKeepsPairedLettersTogether) {
    EXPECT_EQ(lower(U'Ž'), U'ž');
    EXPECT_EQ(lower(U'ž'), U'ž');
    EXPECT_EQ(lower(U'Ÿ'), U'ÿ');
    EXPECT_EQ(lower(U'×'), U'×');
}

}  // namespace
}  // namespace fernleaf
