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

TextBlock styled() {
    TextBlock text;
    text.at = {12, 34}, text.width_mm = 80, text.height_mm = 9, text.angle = -30, text.pitch_mm = 8, text.order = -4;
    text.fill = 0x00FF00;
    text.paragraphs = {
        {{{"Öl \"q\"", {"Fernleaf Sans", 6, true, true, true, true, 0x8A3B6B, 0xEBCB6B, true}}, {" end", {}}},
         Align::justified,
         ListKind::number,
         3,
         4,
         2},
        {}};
    text.ink = {3, 1, 2};
    text.carried = Affine::turn(0.5, {3, 4}).then(Affine::shift({5, 6}));
    text.words = {{"Öl", Box::of(1, 2, 3, 4), 0}, {"end", Box::of(5, 2, 3, 4), 1}};
    return text;
}

TEST(Codec, BlocksOfTextComeBackAsTheyWentIn) {
    const auto back = decode_text(encode_text(styled()));
    ASSERT_TRUE(back);
    EXPECT_EQ(*back, styled());
    const auto plain = decode_text(encode_text(TextBlock{}));
    ASSERT_TRUE(plain);
    EXPECT_EQ(*plain, TextBlock{});
}

TEST(Codec, CopiedElementsComeBackWithoutIdsAndUnlocked) {
    Picture picture{7, "hash", "näme.png", 2, Box::of(1, 2, 30, 40), 45, {0.1, 0.2, 0.8, 0.9}, true, 11};
    const auto back = decode_elements(encode_elements({{}, {picture}, {styled()}}));
    ASSERT_TRUE(back);
    picture.id = 0, picture.locked = false, picture.order = 0;
    EXPECT_EQ(back->pictures, (std::vector{picture}));
    EXPECT_EQ(back->texts, (std::vector{styled()}));
}

TEST(Codec, AChangeOfPaperComesBackAsItWentIn) {
    SheetChange change;
    change.before.paper = Paper::picture, change.before.picture = "abc";
    change.after.paper = Paper::dotted, change.after.spacing_mm = 5, change.after.colour = 0x123456;
    change.after.endless = true, change.after.width_mm = 297, change.after.height_mm = 420;
    const auto back = decode_sheet_change(encode_sheet_change(change));
    ASSERT_TRUE(back);
    EXPECT_EQ(back->before, change.before);
    EXPECT_EQ(back->after, change.after);
}

Treatment treated_sheet() {
    Treatment out;
    out.outline = SheetOutline{{{{1.5, 2}, {300, 5}, {310.25, 400}, {-4, 390}}}, {{{0.02, -0.01}, {}, {0.1, 0}, {}}}};
    out.quarter_turns = 3, out.turn_deg = -2.5, out.aspect = 1.25, out.look = Look::grey, out.without_rules = true;
    out.dpi = 300, out.lifted = {{0.1, 0.25, 0.30001, 0.5}, {0, 0, 1, 1}};
    return out;
}

TEST(Codec, ATreatmentComesBackAsItWentIn) {
    EXPECT_EQ(encode_treatment({}), "") << "pictures left as they are need nothing";
    EXPECT_TRUE(decode_treatment("")->untouched());
    EXPECT_EQ(*decode_treatment(encode_treatment(treated_sheet())), treated_sheet());
    Treatment turned;
    turned.quarter_turns = 1;
    EXPECT_EQ(*decode_treatment(encode_treatment(turned)), turned);
    Elements copied;
    copied.pictures.push_back({0, "abc", "shed.jpg", 0, Box::of(1, 2, 3, 4)});
    copied.pictures[0].treatment = treated_sheet();
    EXPECT_EQ(decode_elements(encode_elements(copied))->pictures, copied.pictures);
}

TEST(Codec, ATreatmentThatCanNotBeIsRefused) {
    const std::string good = encode_treatment(treated_sheet());
    for (size_t cut = 1; cut < good.size(); ++cut) EXPECT_FALSE(decode_treatment(good.substr(0, cut)));
    const auto with = [](auto change) {
        Treatment t = treated_sheet();
        change(t);
        return decode_treatment(encode_treatment(t));
    };
    EXPECT_TRUE(with([](Treatment&) {}));
    EXPECT_FALSE(with(
        [](Treatment& t) { std::swap(t.outline->corners[0], t.outline->corners[2]), t.outline->corners[1] = {}; }));
    EXPECT_FALSE(with([](Treatment& t) { t.turn_deg = 400; }));
    EXPECT_FALSE(with([](Treatment& t) { t.aspect = 1e300; }));
    EXPECT_FALSE(with([](Treatment& t) { t.aspect = -1; }));
    EXPECT_FALSE(with([](Treatment& t) { t.look = static_cast<Look>(9); }));
    EXPECT_FALSE(with([](Treatment& t) { t.dpi = -1; }));
    EXPECT_FALSE(with([](Treatment& t) { t.lifted[1] = {0.5, 0, 0.25, 1}; })) << "a box that ends before it begins";
    EXPECT_FALSE(decode_treatment("[3]"));
}

TEST(Codec, DamagedJsonIsRefusedAndNeverCrashes) {
    const std::string texts[] = {encode_text(styled()), encode_elements({{}, {{}}, {styled()}}),
                                 encode_sheet_change({})};
    std::mt19937 random(5);
    for (const std::string& good : texts) {
        for (size_t cut = 0; cut < good.size(); ++cut) {
            EXPECT_FALSE(decode_text(good.substr(0, cut)));
            EXPECT_FALSE(decode_elements(good.substr(0, cut)));
            EXPECT_FALSE(decode_sheet_change(good.substr(0, cut)));
        }
        for (int i = 0; i < 3000; ++i) {
            std::string bytes = good;
            bytes[random() % bytes.size()] = static_cast<char>(random());
            static_cast<void>(decode_text(bytes));
            static_cast<void>(decode_elements(bytes));
            static_cast<void>(decode_sheet_change(bytes));
        }
    }
    EXPECT_FALSE(decode_text("[]"));
    EXPECT_FALSE(decode_text(R"({"at": "here", "width": 1, "height": 1})"));
    EXPECT_FALSE(decode_elements(R"({"texts": [7], "pictures": []})"));
}

TEST(Codec, NumbersBeyondWhatIsMeantAreBroughtWithin) {
    const auto text =
        decode_text(R"({"at":[0,0],"width":1,"height":1,"paragraphs":[{"runs":[],"align":9,"list":-3,"heading":70}]})");
    ASSERT_TRUE(text);
    EXPECT_EQ(text->paragraphs[0].align, Align::justified);
    EXPECT_EQ(text->paragraphs[0].list, ListKind::none);
    EXPECT_EQ(text->paragraphs[0].heading, 3);
}

}  // namespace
}  // namespace fernleaf
