#include "math/curves.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

namespace fernleaf {
namespace {

Plot plot_of(std::vector<std::string> formulas) {
    Plot plot;
    plot.box = Box::of(0, 0, 90, 60);
    for (std::string& formula : formulas) plot.curves.push_back({std::move(formula)});
    return plot;
}

PlottedFunction function(const char* formula, const Plot& plot = plot_of({})) {
    auto f = plotted_function(formula, plot);
    EXPECT_TRUE(f) << formula << ": " << (f ? "" : f.error().message);
    return *std::move(f);
}

std::vector<double> across(const std::vector<Point>& places) {
    std::vector<double> out;
    for (const Point p : places) out.push_back(std::round(p.x * 1e6) / 1e6);
    return out;
}

TEST(Curves, ManyWaysToWriteWhatIsPlotted) {
    for (const char* formula : {"x^2-16", "y = x^2-16", "f(x) = x^2-16", "x^2 = 16", "x^2-16 =", "x^2-16=y", "t^2-16"})
        EXPECT_NEAR(function(formula).f(5), 9, 1e-12) << formula;
    EXPECT_NEAR(function("y = 7").f(123), 7, 1e-12);
}

TEST(Curves, NamesWithValuesAreNoUnknowns) {
    Plot plot = plot_of({});
    EXPECT_FALSE(plotted_function("a x^2 + c", plot));
    plot.values = {{"a", 2}, {"c", -1}};
    EXPECT_NEAR(function("a x^2 + c", plot).f(3), 17, 1e-12);
    plot.values["x"] = 4;
    EXPECT_FALSE(plotted_function("b x", plot)) << "x runs all the same";
    EXPECT_NEAR(function("x^2-16", plot).f(5), 9, 1e-12);
    EXPECT_NEAR(function("a x^2 + c", plot).f(3), 17, 1e-12) << "of all that are known x runs";
    const auto error = plotted_function("u v", plot_of({}));
    ASSERT_FALSE(error);
    EXPECT_NE(error.error().message.find("u, v"), std::string::npos);
    EXPECT_FALSE(plotted_function("x < 3", plot));
    EXPECT_FALSE(plotted_function("", plot));
}

TEST(Curves, ASmoothOneIsOnePieceAndCloseToItsFormula) {
    const PlotRange range{-5, 5, -20, 20};
    const auto pieces = curve_of(function("x^3 - 4x"), range);
    ASSERT_EQ(pieces.size(), 1u);
    EXPECT_DOUBLE_EQ(pieces[0].front().x, -5);
    EXPECT_DOUBLE_EQ(pieces[0].back().x, 5);
    EXPECT_TRUE(std::ranges::is_sorted(pieces[0], {}, &Point::x));
    for (size_t i = 1; i < pieces[0].size(); ++i) {
        const Point a = pieces[0][i - 1], b = pieces[0][i];
        const double x = (a.x + b.x) / 2, y = x * x * x - 4 * x;
        if (std::abs(y) < 20) {
            EXPECT_NEAR((a.y + b.y) / 2, y, 0.1);
        }
    }
}

TEST(Curves, BreakOffWhereTheyLeapOrEnd) {
    const PlotRange range{-5, 5, -10, 10};
    const auto inverse = curve_of(function("1/x"), range);
    ASSERT_EQ(inverse.size(), 2u);
    EXPECT_LT(inverse[0].back().x, 0);
    EXPECT_GT(inverse[1].front().x, 0);
    EXPECT_EQ(curve_of(function("\\tan x"), range).size(), 5u);
    EXPECT_EQ(curve_of(function("\\lfloor x \\rfloor"), {0.5, 3.5, -1, 5}).size(), 4u);
    const auto root = curve_of(function("\\sqrt{x}"), range);
    ASSERT_EQ(root.size(), 1u);
    EXPECT_NEAR(root[0].front().x, 0, 0.01);
    EXPECT_TRUE(curve_of(function("\\sqrt{-1-x^2}"), range).empty());
}

TEST(Curves, WildOnesAreLookedAtNoLongerThanTheyMay) {
    size_t points = 0;
    for (const auto& piece : curve_of(function("9\\sin(10^6 x)"), {-5, 5, -10, 10})) points += piece.size();
    EXPECT_LT(points, 10'000u);
}

TEST(Curves, ZerosAndExtremesAreWhereTheyAre) {
    const MarkedPlaces quadratic = marked_places(function("x^2-16"), {-10, 10, -20, 90});
    EXPECT_EQ(across(quadratic.zeros), (std::vector<double>{-4, 4}));
    ASSERT_EQ(quadratic.lowest.size(), 1u);
    EXPECT_NEAR(quadratic.lowest[0].x, 0, 1e-6);
    EXPECT_NEAR(quadratic.lowest[0].y, -16, 1e-6);
    EXPECT_TRUE(quadratic.highest.empty());
    EXPECT_EQ(across(marked_places(function("x^2"), {-3, 3, -1, 9}).zeros), (std::vector<double>{0}));
    EXPECT_TRUE(marked_places(function("1/x"), {-3, 3, -9, 9}).zeros.empty()) << "a pole is none";
    EXPECT_TRUE(marked_places(function("y=2"), {-3, 3, -9, 9}).lowest.empty());
    EXPECT_TRUE(marked_places(function("x^2-16"), {-10, 10, 5, 90}).zeros.empty()) << "not seen";
    EXPECT_TRUE(marked_places(function("\\sin(60x)"), {-9, 9, -2, 2}).zeros.empty()) << "too many";
}

TEST(Curves, TheRangeShowsWhatIsTelling) {
    const PlotRange quadratic = fitting_range(plot_of({"x^2-400"}));
    EXPECT_LT(quadratic.left, -20);
    EXPECT_GT(quadratic.right, 20);
    EXPECT_LT(quadratic.bottom, -400);
    EXPECT_DOUBLE_EQ(std::remainder(quadratic.bottom, 5), 0) << quadratic.bottom;
    const PlotRange pole = fitting_range(plot_of({"1/x"}));
    EXPECT_LT(pole.top, 10);
    EXPECT_GT(pole.top, 1);
    Plot turns = plot_of({"\\sin x"});
    turns.angles = AngleUnit::degree;
    EXPECT_DOUBLE_EQ(fitting_range(turns).right, 360);
    Plot measured = plot_of({});
    measured.points = {{{{100, 2}, {110, 8}}}};
    const PlotRange points = fitting_range(measured);
    EXPECT_LT(points.left, 100);
    EXPECT_GT(points.left, 95);
    EXPECT_GT(points.top, 8);
    EXPECT_TRUE(is_sound(fitting_range(plot_of({"y=3", "10^{10^x}", "no ( formula"}))));
}

TEST(Curves, TicksAreRoundAndSayEnough) {
    EXPECT_EQ(ticks(-10, 10, 4), (std::vector<double>{-10, -5, 0, 5, 10}));
    EXPECT_EQ(ticks(0, 1, 0.2), (std::vector<double>{0, 0.2, 0.4, 0.6000000000000001, 0.8, 1}));
    EXPECT_EQ(tick_text(0.6000000000000001, 0.2, false), "0.6");
    EXPECT_EQ(tick_text(-0.25, 0.05, true), "-0,25");
    EXPECT_EQ(tick_text(1500, 500, false), "1500");
    EXPECT_EQ(tick_text(2e7, 1e7, false), "2e+07");
}

}  // namespace
}  // namespace fernleaf
