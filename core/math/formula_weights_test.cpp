#include "math/formula_weights.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numeric>

#include "ink/test_stroke.h"
#include "math/math_signs.h"
#include "reading/models_directory.h"

namespace fernleaf {
namespace {

double together(const std::vector<float>& chances) { return std::accumulate(chances.begin(), chances.end(), 0.0); }

TEST(DenseNetwork, AddsWhatComesInByItsWeights) {
    // Two numbers in, three out; weights in rows of out.
    const DenseNetwork network({{2, 3, {1, 0, -1, 0, 2, 0}, {0, 0, 0.5F}}});
    EXPECT_EQ(network.inputs(), 2U);
    EXPECT_EQ(network.outputs(), 3U);
    const std::vector<float> chances = network.chances(std::vector<float>{1, 0.25F});
    ASSERT_EQ(chances.size(), 3U);
    EXPECT_NEAR(together(chances), 1, 1e-6);
    // 1, 0.5 and -0.5 before they are chances.
    EXPECT_NEAR(chances[0] / chances[1], std::exp(0.5), 1e-5);
    EXPECT_NEAR(chances[1] / chances[2], std::exp(1.0), 1e-5);
}

TEST(DenseNetwork, WhatIsBelowZeroBetweenLayersIsNothing) {
    const DenseNetwork network({{1, 2, {1, -1}, {0, 0}}, {2, 2, {1, 0, 0, 1}, {0, 0}}});
    const std::vector<float> up = network.chances(std::vector<float>{2}),
                             down = network.chances(std::vector<float>{-2});
    EXPECT_NEAR(up[0] / up[1], std::exp(2.0), 1e-4);
    EXPECT_NEAR(down[1] / down[0], std::exp(2.0), 1e-4);
}

TEST(DenseNetwork, LargeNumbersStayChances) {
    const DenseNetwork network({{1, 2, {1000, -1000}, {0, 0}}});
    const std::vector<float> chances = network.chances(std::vector<float>{5});
    EXPECT_NEAR(chances[0], 1, 1e-6);
    EXPECT_NEAR(chances[1], 0, 1e-6);
}

class SignNetworkTest : public testing::Test {
protected:
    void SetUp() override {
        auto weights = load_formula_weights(models_directory());
        ASSERT_TRUE(weights) << weights.error().message;
        weights_ = *weights;
    }
    std::vector<float> chances(const std::vector<Stroke>& strokes, double usual) const {
        std::vector<const Stroke*> all;
        for (const Stroke& s : strokes) all.push_back(&s);
        std::vector<float> out = weights_->signs.chances(sign_form(all, usual));
        EXPECT_EQ(out.size(), math_signs().size() + 1);
        EXPECT_NEAR(together(out), 1, 1e-4);
        return out;
    }
    // The likeliest sign for some strokes, if they are one.
    std::string likeliest(const std::vector<Stroke>& strokes, double usual) const {
        std::vector<float> all = chances(strokes, usual);
        all.pop_back();
        return math_signs()[static_cast<size_t>(std::ranges::max_element(all) - all.begin())].latex;
    }
    double none(const std::vector<Stroke>& strokes, double usual) const { return chances(strokes, usual).back(); }
    std::shared_ptr<const FormulaWeights> weights_;
};

TEST_F(SignNetworkTest, TellsPlainSigns) {
    EXPECT_EQ(likeliest({stroke_along(1, {{0, 0}, {4, 0}, {1, 7}})}, 6), "7");
    EXPECT_EQ(likeliest({stroke_along(1, {{0, 0}, {5, 0}}), stroke_along(2, {{0, 2}, {5, 2}})}, 6), "=");
    EXPECT_EQ(likeliest({stroke_along(1, {{0, 3}, {6, 3}}), stroke_along(2, {{3, 0}, {3, 6}})}, 6), "+");
    EXPECT_EQ(likeliest({stroke_along(1, {{5, 0}, {0, 3}, {5, 6}})}, 6), "<");
    EXPECT_EQ(likeliest({stroke_along(1, {{0, 4}, {1, 3.6}, {2.5, 7}, {4, 0}, {20, 0}})}, 6), "\\sqrt");
}

TEST_F(SignNetworkTest, TellsWhatIsNoSign) {
    const Stroke seven = stroke_along(1, {{0, 0}, {4, 0}, {1, 7}});
    EXPECT_LT(none({seven}, 6), 0.3);
    // A plus and a seven.
    EXPECT_GT(none({stroke_along(1, {{0, 3}, {5, 3}}), stroke_along(2, {{2.5, 0.5}, {2.5, 5.5}}),
                    stroke_along(3, {{7, 0}, {11, 0}, {8, 7}})},
                   6),
              0.7);
}

}  // namespace
}  // namespace fernleaf
