#include "document/plot/plot.h"

#include <gtest/gtest.h>

#include <limits>

namespace fernleaf {
namespace {

using PlotTraits = ElementTraits<Plot>;

Plot pump() {
    Plot p;
    p.box = Box::of(20, 30, 90, 60);
    p.curves = {{"y=x^{2}-16", 0x2E6B4F}, {"\\sin x", 0x8A3B6B}};
    p.points = {{{{1, 2}, {3, 4.5}}, "litres", 0x1E2A44}};
    return p;
}

TEST(Plot, ComesBackAsItWentInButForValuesOfNames) {
    Plot p = pump();
    p.angle = -8, p.marks = true, p.angles = AngleUnit::degree, p.decimal_comma = true, p.group = 7;
    p.range = {-5, 5, -20, 4};
    p.values = {{"a", 3}};
    EXPECT_EQ(*PlotTraits::decode(PlotTraits::encode(p)), PlotTraits::as_kept(p));
    const std::string bytes = PlotTraits::encode(p);
    for (size_t cut = 0; cut < bytes.size(); ++cut) EXPECT_FALSE(PlotTraits::decode(bytes.substr(0, cut)));
}

TEST(Plot, NumbersThatCantBeDrawnAreRefused) {
    for (const PlotRange& range : {PlotRange{1, 1, 0, 1}, PlotRange{2, 1, 0, 1}, PlotRange{0, 1e300, 0, 1},
                                   PlotRange{0, std::numeric_limits<double>::quiet_NaN(), 0, 1}}) {
        Plot p = pump();
        p.range = range;
        EXPECT_TRUE(PlotTraits::validation_error(p));
    }
    Plot many = pump();
    many.points[0].at.resize(kMostPlotPoints + 1);
    EXPECT_TRUE(PlotTraits::validation_error(many));
    Plot infinite = pump();
    infinite.points[0].at[0].y = std::numeric_limits<double>::infinity();
    EXPECT_TRUE(PlotTraits::validation_error(infinite));
    EXPECT_FALSE(PlotTraits::decode(R"({"box":[0,0,1,1],"range":[0,1,0,1],"colour":0})")) << "too small to be seen";
}

TEST(Plot, RangesMoveAndAreDrawnLargerAboutAPlace) {
    const PlotRange range{-10, 10, -5, 5};
    EXPECT_EQ(moved(range, {2, -1}), (PlotRange{-8, 12, -6, 4}));
    const PlotRange nearer = zoomed(range, {4, 0}, 2);
    EXPECT_NEAR(nearer.left, -3, 1e-12);
    EXPECT_NEAR(nearer.right, 7, 1e-12);
    PlotRange far = range;
    for (int i = 0; i < 200; ++i) far = zoomed(far, {1, 1}, 0.5);
    EXPECT_TRUE(is_sound(far));
    PlotRange near = range;
    for (int i = 0; i < 200; ++i) near = zoomed(near, {1, 1}, 2);
    EXPECT_TRUE(is_sound(near));
}

TEST(Plot, IsStretchedByItsFrame) {
    const Plot wider = PlotTraits::transformed(pump(), Affine::scale(2, 1, {20, 30}));
    EXPECT_NEAR(wider.box.width(), 180, 1e-9);
    EXPECT_NEAR(wider.box.height(), 60, 1e-9);
    EXPECT_NEAR(PlotTraits::transformed(pump(), Affine::scale(1e-6, 1, {0, 0})).box.width(), kLeastPlotMm, 1e-9);
    EXPECT_EQ(PlotTraits::plain_text(pump()), "y=x^{2}-16\n\\sin x");
}

}  // namespace
}  // namespace fernleaf
