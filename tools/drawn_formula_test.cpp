#include "demo/drawn_formula.h"

#include <gtest/gtest.h>

#include "demo/drawn_sign.h"

namespace fernleaf {
namespace {

class DrawnFormulas : public testing::Test {
protected:
    void SetUp() override {
        auto hand = Hand::load(std::string(FERNLEAF_SOURCE_DIR) + "/demo/hands/tobias.json");
        ASSERT_TRUE(hand) << hand.error().message;
        hand_ = *std::move(hand);
    }
    // The formula drawn, and its strokes.
    WrittenFormula draw(const char* latex) {
        WrittenFormula formula = *written_formula(latex);
        std::mt19937 random(3);
        strokes_ = draw_formula(formula, hand_, {3, 0.3, false, {}}, {20, 40}, random);
        return formula;
    }
    Box box(const WrittenFormula& f) const {
        Box out;
        for (const size_t s : f.strokes) out.include(strokes_[s].box());
        for (const WrittenFormula& part : f.parts)
            if (const Box inside = box(part); !inside.empty()) out.include(inside);
        return out;
    }
    static size_t count(const WrittenFormula& f) {
        size_t out = f.strokes.size();
        for (const WrittenFormula& part : f.parts) out += count(part);
        return out;
    }
    Hand hand_;
    std::vector<Stroke> strokes_;
};

TEST_F(DrawnFormulas, EveryStrokeIsOfOneSign) {
    const WrittenFormula formula = draw("\\frac{-b+\\sqrt{b^{2}-4ac}}{2a}=\\sin x");
    EXPECT_EQ(count(formula), strokes_.size());
    EXPECT_GT(strokes_.size(), 15U);
    EXPECT_NEAR(box(formula).left, 20, 1.5);
}

TEST_F(DrawnFormulas, AFractionsPartsStandOverAndUnderItsBarAPowerHigher) {
    const WrittenFormula formula = draw("\\frac{7}{4}");
    const WrittenFormula& fraction = formula.parts[0];
    ASSERT_EQ(fraction.strokes.size(), 1U);
    const Box bar = strokes_[fraction.strokes[0]].box();
    EXPECT_LT(box(fraction.parts[0]).bottom, bar.bottom);
    EXPECT_GT(box(fraction.parts[1]).top, bar.top);
    const WrittenFormula power = draw("x^{2}");
    const WrittenFormula& scripts = power.parts[0];
    EXPECT_LT(box(scripts.parts[2]).centre().y, box(scripts.parts[0]).top + 1);
    EXPECT_LT(box(scripts.parts[2]).height(), 6);
}

TEST_F(DrawnFormulas, NamesAreWrittenLetterByLetterAndBracketsGrow) {
    const WrittenFormula name = draw("\\sin x");
    ASSERT_EQ(name.parts[0].parts.size(), 3U);
    EXPECT_EQ(name.parts[0].parts[1].latex, "i");
    const WrittenFormula tall = draw("(\\frac{1}{2})");
    EXPECT_LE(box(tall.parts[0]).top, box(tall.parts[1]).top + 1);
    EXPECT_FALSE(written_formula("x^{2"));
}

TEST_F(DrawnFormulas, BoundsOfASumStandOverAndUnderItThoseOfAnIntegralBeside) {
    int over = 0, beside = 0;
    for (unsigned seed = 1; seed <= 20; ++seed) {
        std::mt19937 random(seed);
        WrittenFormula sum = *written_formula("\\sum_{k=1}^{n}k"), integral = *written_formula("\\int_{0}^{1}x");
        strokes_ = draw_formula(sum, hand_, {3, 0.3, false, {}}, {20, 40}, random);
        const WrittenFormula& bounds = sum.parts[0];
        over += box(bounds.parts[2]).bottom < box(bounds.parts[0]).top &&
                box(bounds.parts[1]).top > box(bounds.parts[0]).bottom;
        strokes_ = draw_formula(integral, hand_, {3, 0.3, false, {}}, {20, 40}, random);
        const WrittenFormula& limits = integral.parts[0];
        beside += box(limits.parts[2]).left > box(limits.parts[0]).centre().x;
    }
    EXPECT_GT(over, 8) << "mostly";
    EXPECT_LT(over, 20) << "some write them beside";
    EXPECT_EQ(beside, 20);
}

TEST_F(DrawnFormulas, OnesByChanceCanAllBeWrittenDown) {
    std::mt19937 random(5);
    for (int i = 0; i < 300; ++i) {
        const std::string latex = some_formula(random);
        ASSERT_TRUE(written_formula(latex)) << latex;
    }
}

TEST(DrawnSigns, EachFormIsDrawnFromItsLeftEnd) {
    std::mt19937 random(2);
    for (const char* sign : {"\\alpha", "\\int", "\\sum", "\\ne", "\\infty", "\\in"}) {
        ASSERT_GT(sign_forms(sign), 1U) << sign;
        for (size_t form = 0; form < sign_forms(sign); ++form) {
            Box box;
            for (const auto& path : sign_paths(sign, form, random))
                for (const Point& p : path) box.include(p);
            EXPECT_NEAR(box.left, 0, 0.3) << sign;
            EXPECT_GT(box.height(), 0.3) << sign;
            EXPECT_LT(box.width(), 2.5) << sign;
        }
    }
    EXPECT_EQ(sign_forms("7"), 0U) << "hands have it";
}

}  // namespace
}  // namespace fernleaf
