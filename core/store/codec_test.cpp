#include "store/codec.h"

#include <gtest/gtest.h>

#include <random>

namespace fernleaf {
namespace {

TEST(Codec, PointsComeBackAsTheyWentIn) {
    std::mt19937 random(4);
    std::uniform_real_distribution<double> place(-500, 500);
    std::uniform_real_distribution<float> unit(0, 1);
    Stroke s;
    for (int i = 0; i < 500; ++i)
        s.points.push_back({{place(random), place(random)},
                            unit(random),
                            90 * unit(random),
                            -90 * unit(random),
                            static_cast<uint32_t>(random() % 100'000)});
    s = quantised(s);
    const auto back = decode_points(encode_points(s.points));
    ASSERT_TRUE(back);
    EXPECT_EQ(*back, s.points);
}

TEST(Codec, AMouseStrokeIsSmall) {
    Stroke s;
    for (uint32_t i = 0; i < 100; ++i) s.points.push_back({{20 + 0.3 * i, 30}, 0.5F, 0, 0, 8 * i});
    EXPECT_LT(encode_points(s.points).size(), 350U);
}

TEST(Codec, DamagedBytesAreRefused) {
    Stroke s;
    s.points = {{{1, 2}}, {{3, 4}}};
    const std::string good = encode_points(s.points);
    for (size_t cut = 0; cut < good.size(); ++cut) EXPECT_FALSE(decode_points(good.substr(0, cut)));
    EXPECT_FALSE(decode_points(good + "x"));
    EXPECT_FALSE(decode_points(std::string("\x01\x00\xFF\xFF\xFF\xFF\xFF\xFF\xFF\xFF\x7F", 11)));
    std::mt19937 random(9);
    for (int i = 0; i < 20'000; ++i) {
        std::string bytes = good;
        bytes[random() % bytes.size()] = static_cast<char>(random());
        static_cast<void>(decode_points(bytes));  // must not crash, whatever it says
    }
}

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
