#include "document/divider/divider.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

using DividerTraits = ElementTraits<Divider>;

Divider rule() {
    Divider d;
    d.middle = {70, 40}, d.length_mm = 100, d.thickness_mm = 0.5;
    return d;
}

TEST(Divider, ComesBackAsItWentIn) {
    Divider d = rule();
    d.angle = -4, d.colour = 0x2E6B4F, d.form = RuleForm::dashed;
    EXPECT_EQ(*DividerTraits::decode(DividerTraits::encode(d)), d);
    EXPECT_EQ(*DividerTraits::decode(DividerTraits::encode(rule())), rule());
    const std::string bytes = DividerTraits::encode(d);
    for (size_t cut = 0; cut < bytes.size(); ++cut) EXPECT_FALSE(DividerTraits::decode(bytes.substr(0, cut)));
    EXPECT_FALSE(DividerTraits::decode(R"({"middle":[0,0],"length":1e300,"thickness":1,"colour":0})"));
    EXPECT_FALSE(DividerTraits::decode(R"({"middle":[0,0],"length":9,"thickness":900,"colour":0})"));
}

TEST(Divider, IsFoundNearItsRuleAndTurnsWithIt) {
    EXPECT_TRUE(DividerTraits::covers(rule(), {30, 41}, 1));
    EXPECT_FALSE(DividerTraits::covers(rule(), {30, 43}, 1));
    EXPECT_NEAR(DividerTraits::bounds(rule()).width(), 100, 1e-9);
    const Divider upright = DividerTraits::transformed(rule(), Affine::turn(std::numbers::pi / 2, {70, 40}));
    EXPECT_NEAR(upright.angle, 90, 1e-9);
    EXPECT_NEAR(DividerTraits::bounds(upright).height(), 100, 1e-9);
    EXPECT_TRUE(DividerTraits::covers(upright, {70.5, 80}, 1));
    EXPECT_NEAR(DividerTraits::transformed(rule(), Affine::scale(0.5, 1, {0, 0})).length_mm, 50, 1e-9);
    EXPECT_EQ(DividerTraits::transformed(rule(), Affine::scale(1e-9, 1, {0, 0})).length_mm, kLeastDividerMm);
}

TEST(Divider, ALassoAboutMostOfItTakesIt) {
    EXPECT_TRUE(DividerTraits::mostly_inside(rule(), {{10, 30}, {130, 30}, {130, 50}, {10, 50}}));
    EXPECT_FALSE(DividerTraits::mostly_inside(rule(), {{10, 30}, {50, 30}, {50, 50}, {10, 50}}));
}

}  // namespace
}  // namespace fernleaf
