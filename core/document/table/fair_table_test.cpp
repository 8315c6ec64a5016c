#include "document/table/fair_table.h"

#include <gtest/gtest.h>

#include "document/elements.h"

namespace fernleaf {
namespace {

using FairTableTraits = ElementTraits<FairTable>;

// Three columns and three rows; the first row's last two places are one.
FairTable yields() {
    FairTable out;
    out.at = {20, 30};
    out.columns_mm = {40, 20, 25};
    out.rows_mm = {8, 10, 12};
    out.merged = {{0, 1, 1, 2}};
    out.head = true;
    out.ink = {5, 6};
    return out;
}

TEST(FairTable, ComesBackAsItWasKept) {
    FairTable table = yields();
    table.angle = 12;
    table.form = BorderForm::dotted;
    table.transform_since_set = Affine::turn(0.5, {3, 4});
    const auto back = FairTableTraits::decode(FairTableTraits::encode(table));
    ASSERT_TRUE(back) << back.error().message;
    EXPECT_EQ(*back, table);
}

TEST(FairTable, DamagedBytesAreAnError) {
    const std::string start = R"({"at":[0,0],"width":0.3,"colour":0,)";
    for (const std::string& bytes :
         {std::string(), std::string("{}"), start + R"("columns":[],"rows":[5]})",
          start + R"("columns":[5],"rows":[-5]})", start + R"("columns":[5],"rows":[1e9]})",
          start + R"("columns":[5],"rows":[5],"merged":[[0,0,2,1]]})",
          start + R"("columns":[5,5],"rows":[5],"merged":[[0,0,1,1]]})",
          start + R"("columns":[5,5],"rows":[5,5],"merged":[[0,0,1,2],[0,1,2,1]]})",
          start + R"("columns":[5],"rows":[5],"angle":1e7})", start + R"("columns":"5","rows":[5]})"})
        EXPECT_FALSE(FairTableTraits::decode(bytes)) << bytes;
}

TEST(FairTable, APlaceIsInTheCellThatTakesIt) {
    const FairTable table = yields();
    EXPECT_EQ(cell_at(table, {25, 32}), (TableCell{0, 0}));
    EXPECT_EQ(cell_at(table, {100, 32}), (TableCell{0, 1, 1, 2})) << "merged";
    EXPECT_EQ(cell_at(table, {100, 55}), (TableCell{2, 2}));
    EXPECT_FALSE(cell_at(table, {19, 32}));
    EXPECT_FALSE(cell_at(table, {25, 61}));
    EXPECT_EQ(box_of(table, {0, 1, 1, 2}), Box::of(40, 0, 45, 8));
    EXPECT_EQ(cells_of(table).size(), 8U);
}

TEST(FairTable, NoRuleIsDrawnThroughWhatIsMerged) {
    for (const auto& [a, b] : rules_of(yields()))
        if (a.x == 80 && b.x == 80) {
            EXPECT_EQ(std::min(a.y, b.y), 38) << "it begins below the merged cell";
        }
    EXPECT_TRUE(FairTableTraits::covers(yields(), {80, 50}, 0.5));
    EXPECT_FALSE(FairTableTraits::covers(yields(), {80, 34}, 0.5));
}

TEST(FairTable, TurnedItsCellsTurnWithIt) {
    const FairTable turned = FairTableTraits::transformed(yields(), Affine::turn(std::numbers::pi / 2, {20, 30}));
    EXPECT_NEAR(turned.angle, 90, 1e-6);
    // What was to the right is below now.
    EXPECT_EQ(cell_at(turned, {16, 50}), (TableCell{0, 0}));
    EXPECT_EQ(cell_at(turned, {16, 100}), (TableCell{0, 1, 1, 2}));
    EXPECT_NEAR(FairTableTraits::bounds(turned).height(), 85 + turned.width_mm, 1e-6);
}

TEST(FairTable, StretchedItsColumnsAreWider) {
    const FairTable wide = FairTableTraits::transformed(yields(), Affine::scale(2, 1, {20, 30}));
    EXPECT_EQ(wide.columns_mm, (std::vector<double>{80, 40, 50}));
    EXPECT_EQ(wide.rows_mm, yields().rows_mm);
    EXPECT_EQ(wide.at, yields().at);
}

TEST(FairTable, TravelsWithOtherElements) {
    Elements elements;
    elements.tables = {yields()};
    const auto back = decode_elements(encode_elements(elements));
    ASSERT_TRUE(back);
    EXPECT_EQ(back->tables, elements.tables);
}

}  // namespace
}  // namespace fernleaf
