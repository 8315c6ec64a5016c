#include "document/card/card.h"

#include <gtest/gtest.h>

#include <limits>

namespace fernleaf {
namespace {

using Traits = ElementTraits<Card>;

Card file_card() {
    Card card;
    card.box = Box::of(20, 30, kCardWidthMm, kCardHeightMm);
    card.name = "Soil report – Süd.pdf";
    card.file = std::string(64, 'a');
    card.bytes = 48'000;
    return card;
}

Card page_card() {
    Card card;
    card.box = Box::of(20, 30, kCardWidthMm, kCardHeightMm);
    card.name = "Frost watch, page 2";
    card.page = 17;
    card.page_made_ms = 1'790'000'000'000;
    return card;
}

TEST(Cards, ComeBackAsTheyWere) {
    for (Card card : {file_card(), page_card()}) {
        card.group = 5;
        const auto back = Traits::decode(Traits::encode(card));
        ASSERT_TRUE(back);
        EXPECT_EQ(*back, card);
    }
    EXPECT_EQ(Traits::files(file_card()), std::vector{std::string(64, 'a')});
    EXPECT_TRUE(Traits::files(page_card()).empty());
}

TEST(Cards, DamagedOnesAreErrors) {
    for (const char* bytes :
         {"", "{}", "[]", R"({"box":[0,0,10,5],"name":"x"})", R"({"box":[0,0,1e9,5],"name":"x","page":3,"made":1})",
          R"({"box":[10,0,0,5],"name":"x","page":3,"made":1})", R"({"box":[0,0,10,5],"name":7,"page":3,"made":1})",
          R"({"box":[0,0,10,5],"name":"x","file":"a","bytes":-1})",
          R"({"box":[0,0,10,5],"name":"x","file":"a","bytes":1,"page":3,"made":1})"})
        EXPECT_FALSE(Traits::decode(bytes)) << bytes;
    Card nowhere = file_card();
    nowhere.box.left = std::numeric_limits<double>::quiet_NaN();
    EXPECT_TRUE(Traits::validation_error(nowhere));
}

TEST(Cards, MoveAndGrowAndStayUpright) {
    const Card moved = Traits::transformed(file_card(), Affine::shift({5, -3}));
    EXPECT_EQ(moved.box, Box::of(25, 27, kCardWidthMm, kCardHeightMm));
    EXPECT_TRUE(Traits::covers(moved, {30, 30}, 0));
    EXPECT_FALSE(Traits::covers(moved, {10, 30}, 1));
    EXPECT_TRUE(Traits::mostly_inside(moved, {{0, 0}, {200, 0}, {200, 200}, {0, 200}}));
}

}  // namespace
}  // namespace fernleaf
