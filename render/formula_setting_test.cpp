#include "render/formula_setting.h"

#include <gtest/gtest.h>

#include <QImage>

namespace fernleaf {
namespace {

QRect ink_of(const SetFormula& formula) {
    constexpr int kPxPerMm = 8;
    QImage image(100 * kPxPerMm, 60 * kPxPerMm, QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.scale(kPxPerMm, kPxPerMm);
    draw_formula(painter, formula, light_page());
    painter.end();
    QRect out;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            if (qGray(image.pixel(x, y)) < 128) out |= QRect(x, y, 1, 1);
    return {out.topLeft() / kPxPerMm, out.bottomRight() / kPxPerMm};
}

TEST(FormulaSetting, IsDrawnWhereItsBoxIs) {
    for (const double angle : {0.0, 90.0}) {
        auto formula = formula_at({20, 30}, "\\frac{x^{2}}{3}-16", 6);
        ASSERT_TRUE(formula);
        *formula = ElementTraits<SetFormula>::transformed(
            *formula, Affine::turn(angle * std::numbers::pi / 180, formula->middle));
        const QRect ink = ink_of(*formula);
        const Box box = drawn_box(*formula).grown(0.5);
        ASSERT_FALSE(ink.isEmpty());
        EXPECT_GE(ink.left(), std::floor(box.left));
        EXPECT_LE(ink.right(), box.right);
        EXPECT_GE(ink.top(), std::floor(box.top));
        EXPECT_LE(ink.bottom(), box.bottom);
        EXPECT_GT(angle == 0 ? ink.width() : ink.height(), 0.8 * formula->width_mm - 2);
    }
}

TEST(FormulaSetting, KeepsItsLineWhenItSaysSomethingElse) {
    SetFormula formula = *formula_at({20, 30}, "x", 6);
    EXPECT_NEAR(drawn_box(formula).left, 20, 1e-9);
    const double baseline = drawn_box(formula).bottom - formula.descent_mm;
    EXPECT_NEAR(baseline, 30, 1e-9);
    formula.latex = "\\frac{1}{x}+\\sqrt{y}";
    ASSERT_TRUE(measure(formula));
    EXPECT_NEAR(drawn_box(formula).left, 20, 1e-9);
    EXPECT_NEAR(drawn_box(formula).bottom - formula.descent_mm, 30, 1e-9);
    const SetFormula before = formula;
    formula.latex = "\\frac{1}{";
    EXPECT_FALSE(measure(formula));
    EXPECT_EQ(formula.width_mm, before.width_mm);
    EXPECT_FALSE(formula_at({20, 30}, "x^{", 6));
}

}  // namespace
}  // namespace fernleaf
