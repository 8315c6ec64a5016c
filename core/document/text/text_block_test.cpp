#include "document/text/text_block.h"

#include <gtest/gtest.h>

#include <sstream>

#include "document/page.h"
#include "document/text/test_list.h"

namespace fernleaf {
namespace {

TEST(TextBlock, GivesItsTextWithListSigns) {
    EXPECT_EQ(plain_text(test_list()), "Tools\n1. saw\n2. wax\n☐ tape and string");
    EXPECT_TRUE(has_text(test_list()));
    TextBlock blank;
    blank.paragraphs = {{{{"  ", {}}}}};
    EXPECT_FALSE(has_text(blank));
}

TEST(TextBlock, IsLargerOnThePageWhenItIsTurned) {
    TextBlock block;
    block.at = {10, 10}, block.width_mm = 40, block.height_mm = 20;
    EXPECT_EQ(block.box(), Box::of(10, 10, 40, 20));
    block.angle = 90;
    EXPECT_NEAR(block.box().width(), 20, 1e-9);
    EXPECT_NEAR(block.box().height(), 40, 1e-9);
    EXPECT_NEAR(block.box().centre().x, 30, 1e-9);
}

TextBlock styled() {
    TextBlock text;
    text.at = {12, 34}, text.width_mm = 80, text.height_mm = 9, text.angle = -30, text.pitch_mm = 8;
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
    text.transform_since_set = Affine::turn(0.5, {3, 4}).then(Affine::shift({5, 6}));
    text.words = {{"Öl", Box::of(1, 2, 3, 4), 0}, {"end", Box::of(5, 2, 3, 4), 1}};
    return text;
}

TEST(TextBlock, BlocksOfTextComeBackAsTheyWentIn) {
    const auto back = ElementTraits<TextBlock>::decode(ElementTraits<TextBlock>::encode(styled()));
    ASSERT_TRUE(back);
    EXPECT_EQ(*back, styled());
    const auto plain = ElementTraits<TextBlock>::decode(ElementTraits<TextBlock>::encode(TextBlock{}));
    ASSERT_TRUE(plain);
    EXPECT_EQ(*plain, TextBlock{});
}

TEST(TextBlock, NumbersBeyondWhatIsMeantAreBroughtWithin) {
    const auto text = ElementTraits<TextBlock>::decode(
        R"({"at":[0,0],"width":1,"height":1,"paragraphs":[{"runs":[],"align":9,"list":-3,"heading":70}]})");
    ASSERT_TRUE(text);
    EXPECT_EQ(text->paragraphs[0].align, Align::justified);
    EXPECT_EQ(text->paragraphs[0].list, ListKind::none);
    EXPECT_EQ(text->paragraphs[0].heading, 3);
}

TEST(EndlessPage, GrowsWithWhatIsOnIt) {
    Page page;
    page.info.height_mm = 210;
    Stroke low;
    low.points = {{{10, 500}}};
    page.strokes = {low};
    make_room_below(page);
    EXPECT_EQ(page.info.height_mm, 210) << "an ordinary page keeps its size";
    page.info.endless = true;
    make_room_below(page);
    EXPECT_GE(page.info.height_mm, 560);
    const double tall = page.info.height_mm;
    page.strokes.clear();
    make_room_below(page);
    EXPECT_EQ(page.info.height_mm, tall) << "it never shrinks under the pen";
}

}  // namespace
}  // namespace fernleaf
