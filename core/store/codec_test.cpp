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

TEST(Codec, ShapesComeBackAsTheyWere) {
    ReadShape box;
    box.strokes = {3, 4};
    box.candidates = {{{ShapeKind::rounded_rectangle, {{1, 2}, {30.5, 2}, {30.5, 20}, {1, 20}}, 2.5}, 0.8, 0.2},
                      {{ShapeKind::ellipse, {{15, 2}, {30, 11}, {15, 20}, {1, 11}}}, 0.1, 0.6}};
    const auto back = decode_shapes(encode_shapes({box}));
    ASSERT_TRUE(back) << back.error().message;
    EXPECT_EQ(*back, std::vector{box});
    EXPECT_TRUE(decode_shapes("[]")->empty());
    for (const char* bad :
         {"no", "[{}]", R"([{"strokes":[1],"candidates":[]}])",
          R"([{"strokes":[1],"candidates":[{"kind":"cube","points":[[0,0],[1,1]],"certainty":1,"error":0}]}])",
          R"([{"strokes":[1],"candidates":[{"kind":"line","points":[[0,0]],"certainty":1,"error":0}]}])",
          R"([{"strokes":[1],"candidates":[{"kind":"line","points":[[0,0],[1,1e300]],"certainty":1,"error":0}]}])"})
        EXPECT_FALSE(decode_shapes(bad)) << bad;
}

TEST(Codec, TablesComeBackAsTheyWereAndDamagedOnesAreRefused) {
    const ReadTable table{1, 2, {{0, 0, 1, 1, Box::of(1, 2, 3, 4)}, {0, 1, 1, 1, Box::of(4, 2, 3, 4)}}, {5, 6}};
    EXPECT_EQ(decode_table(encode_table({table, -1}))->table, table);
    EXPECT_EQ(decode_table(encode_table({{}, 3}))->cell, 3);
    EXPECT_EQ(encode_table({}), "");
    EXPECT_EQ(decode_table("")->cell, -1);
    for (const char* bad : {"no", "{}", R"({"cell":-2})", R"({"rows":1,"columns":2,"cells":[],"rules":[]})",
                            R"({"rows":1,"columns":1,"cells":[[0,0,1,2,[0,0,9,9]]],"rules":[]})"})
        EXPECT_FALSE(decode_table(bad)) << bad;
}

}  // namespace
}  // namespace fernleaf
