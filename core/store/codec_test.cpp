#include "store/codec.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

TEST(Codec, WordsComeBackAsTheyWentIn) {
    const std::vector<ReadWord> words{{"grün \"q\"", 0.5, Box::of(1, 2, 3, 4), {7, 9}, {{"grim", 0.25}}, true}};
    const auto back = decode_words(encode_words(words));
    ASSERT_TRUE(back);
    EXPECT_EQ((*back)[0].text, words[0].text);
    EXPECT_EQ((*back)[0].strokes, words[0].strokes);
    EXPECT_EQ((*back)[0].alternatives, words[0].alternatives);
    EXPECT_TRUE((*back)[0].corrected);
    EXPECT_FALSE(decode_words("[{}]"));
    EXPECT_FALSE(decode_words("no"));
}

TEST(Codec, Sha256IsTheStandards) {
    EXPECT_EQ(sha256("abc"), "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
}

}  // namespace
}  // namespace fernleaf
