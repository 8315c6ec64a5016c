#include "math/formula_grids.h"

#include <gtest/gtest.h>

#include "math/math_signs.h"
#include "math/test_formula_ink.h"

namespace fernleaf {
namespace {

class FormulaGrids : public WithFormulaWeights {
protected:
    // From x, top to bottom; a bracket that opens, and one that closes.
    void square(double x, double top, double bottom, bool opens) {
        const double to = opens ? x + 3 : x - 3;
        ink_.add({{to, top}, {x, top}, {x, bottom}, {to, bottom}});
    }
    void brace(double x, double top, double bottom) {
        const double middle = (top + bottom) / 2;
        ink_.add({{x + 4, top},
                  {x + 2.4, top + 0.8},
                  {x + 2, top + 2.4},
                  {x + 2, middle - 1.6},
                  {x + 1.4, middle - 0.6},
                  {x, middle},
                  {x + 1.4, middle + 0.6},
                  {x + 2, middle + 1.6},
                  {x + 2, bottom - 2.4},
                  {x + 2.4, bottom - 0.8},
                  {x + 4, bottom}});
    }
    std::string latex(const std::vector<SaidSign>& said = {}) {
        const auto grid = read_grid(ink_.strokes, *weights_, {}, said);
        return grid ? grid->latex : "none";
    }
    DrawnSigns ink_;
};

TEST_F(FormulaGrids, RowsBetweenBracketsAreAMatrix) {
    square(18, 32, 53, true);
    for (const double y : {40.0, 51.0}) ink_.seven(22, y), ink_.seven(36, y);
    square(46, 32, 53, false);
    const auto grid = read_grid(ink_.strokes, *weights_);
    ASSERT_TRUE(grid);
    EXPECT_EQ(grid->latex, "\\begin{bmatrix} 7 & 7 \\\\ 7 & 7 \\end{bmatrix}");
    ASSERT_EQ(grid->signs.size(), 6U);
    EXPECT_EQ(grid->signs.front().latex, "[");
    EXPECT_EQ(grid->signs.front().strokes, (std::vector<size_t>{0}));
    EXPECT_EQ(grid->signs.back().latex, "]");
    EXPECT_EQ(grid->signs[2].strokes, (std::vector<size_t>{2}));
    EXPECT_GT(grid->certainty, 0.2);
}

TEST_F(FormulaGrids, WhatStandsBeforeAndBehindIsReadWithIt) {
    ink_.seven(4, 45), ink_.equals(10, 45);
    square(18, 32, 53, true);
    for (const double y : {40.0, 51.0}) ink_.seven(22, y), ink_.seven(36, y);
    square(46, 32, 53, false);
    ink_.plus(50, 45), ink_.seven(56, 45);
    EXPECT_EQ(latex(), "7=\\begin{bmatrix} 7 & 7 \\\\ 7 & 7 \\end{bmatrix}+7");
}

TEST_F(FormulaGrids, ABraceHoldsEquationsTogether) {
    brace(14, 30, 54);
    for (const double y : {40.0, 51.0})
        ink_.seven(22, y), ink_.plus(28, y), ink_.seven(34, y), ink_.equals(40, y), ink_.seven(47, y);
    EXPECT_EQ(latex(), "\\begin{cases} 7+7=7 \\\\ 7+7=7 \\end{cases}");
    // A sign that a person corrected is what was said in its cell.
    EXPECT_EQ(latex({{{1}, *sign_named("x")}}), "\\begin{cases} x+7=7 \\\\ 7+7=7 \\end{cases}");
}

TEST_F(FormulaGrids, OtherFormulasAreNone) {
    ink_.sum(20, 40);
    EXPECT_EQ(latex(), "none");
    square(18, 30, 44, true);
    EXPECT_EQ(latex(), "none") << "one row";
    // A fraction in brackets has a bar across.
    ink_.strokes.clear();
    square(18, 32, 53, true), ink_.seven(24, 40), ink_.seven(24, 51), ink_.add({{22, 42.5}, {31, 42.5}});
    square(35, 32, 53, false);
    EXPECT_EQ(latex(), "none");
}

TEST_F(FormulaGrids, RowsOfDifferentLengthsAreNone) {
    square(18, 32, 53, true);
    ink_.seven(22, 40), ink_.seven(36, 40), ink_.seven(22, 51);
    square(46, 32, 53, false);
    EXPECT_EQ(latex(), "none");
}

}  // namespace
}  // namespace fernleaf
