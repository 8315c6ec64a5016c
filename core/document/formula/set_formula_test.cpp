#include "document/formula/set_formula.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

using SetFormulaTraits = ElementTraits<SetFormula>;

SetFormula quadratic() {
    SetFormula f;
    f.middle = {60, 40}, f.size_mm = 5, f.width_mm = 30, f.ascent_mm = 5, f.descent_mm = 1;
    f.latex = "x^{2}-16=0";
    return f;
}

TEST(SetFormula, ComesBackAsItWentIn) {
    SetFormula f = quadratic();
    f.angle = 12, f.colour = 0x2E6B4F, f.ink = {4, 9}, f.group = 3;
    f = SetFormulaTraits::transformed(f, Affine::shift({5, -2}));
    EXPECT_EQ(*SetFormulaTraits::decode(SetFormulaTraits::encode(f)), f);
    EXPECT_EQ(*SetFormulaTraits::decode(SetFormulaTraits::encode(quadratic())), quadratic());
    const std::string bytes = SetFormulaTraits::encode(f);
    for (size_t cut = 0; cut < bytes.size(); ++cut) EXPECT_FALSE(SetFormulaTraits::decode(bytes.substr(0, cut)));
    EXPECT_FALSE(SetFormulaTraits::decode(R"({"middle":[0,0],"size":1e9,"box":[1,1,1],"latex":"x","colour":0})"));
    EXPECT_FALSE(SetFormulaTraits::decode(R"({"middle":[0,1e300],"size":5,"box":[1,1,1],"latex":"x","colour":0})"));
}

TEST(SetFormula, GrowsInItsProportionsAndTurns) {
    EXPECT_TRUE(SetFormulaTraits::covers(quadratic(), {46, 41}, 1));
    EXPECT_FALSE(SetFormulaTraits::covers(quadratic(), {46, 48}, 1));
    const SetFormula wider = SetFormulaTraits::transformed(quadratic(), Affine::scale(4, 1, {60, 40}));
    EXPECT_NEAR(wider.size_mm, 10, 1e-9);
    EXPECT_NEAR(wider.width_mm, 60, 1e-9);
    EXPECT_NEAR(wider.ascent_mm, 10, 1e-9);
    EXPECT_GE(SetFormulaTraits::transformed(quadratic(), Affine::scale(1e-9, 1e-9, {0, 0})).size_mm, kLeastFormulaMm);
    const SetFormula upright = SetFormulaTraits::transformed(quadratic(), Affine::turn(std::numbers::pi / 2, {60, 40}));
    EXPECT_NEAR(SetFormulaTraits::bounds(upright).height(), 30, 1e-9);
}

}  // namespace
}  // namespace fernleaf
