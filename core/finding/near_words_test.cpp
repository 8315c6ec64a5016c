#include "finding/near_words.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

TEST(NearWords, CountTheirEdits) {
    EXPECT_EQ(edits_between(U"frost", U"frost", 2), 0);
    EXPECT_EQ(edits_between(U"frost", U"forst", 2), 1) << "swapped";
    EXPECT_EQ(edits_between(U"frost", U"frosts", 2), 1);
    EXPECT_EQ(edits_between(U"frost", U"rost", 2), 1);
    EXPECT_EQ(edits_between(U"frost", U"first", 2), 2);
    EXPECT_EQ(edits_between(U"grafting", U"drattin", 3), 3);
    EXPECT_EQ(edits_between(U"ab", U"", 2), 2);
    EXPECT_EQ(edits_between(U"", U"", 0), 0);
}

TEST(NearWords, StopAtTheMost) {
    EXPECT_EQ(edits_between(U"frost", U"cider", 1), 2);
    EXPECT_EQ(edits_between(U"a", U"abcdefgh", 2), 3);
    EXPECT_EQ(edits_between(U"grafting", U"drattin", 2), 3);
}

TEST(NearWords, ShortOnesHaveNone) {
    EXPECT_EQ(most_edits(U"oak"), 0);
    EXPECT_EQ(most_edits(U"pear"), 1);
    EXPECT_EQ(most_edits(U"grafting"), 2);
}

}  // namespace
}  // namespace fernleaf
