#include "exchange/formula_file.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

ReadLine formula(const char* latex, const char* result = "") {
    ReadLine out;
    out.kind = RegionKind::math;
    out.words = {{latex, 1, {}, {}, {}}};
    out.result = result;
    return out;
}

TEST(FormulaFile, HoldsEachPagesFormulasWithTheirResults) {
    Reading first, second;
    ReadLine words;
    words.words = {{"frost", 1, {}, {}, {}}};
    first.lines = {words, formula("\\frac{273}{420}=", "13/20 ≈ 0.65"), formula("12.5%\\cdot 80=", "10")};
    second.lines = {words, formula("x^{2}-16=0", "x = -4 or x = 4"), formula("2+2=4", "true")};
    const std::string text = formulas_tex({first, Reading{}, second});
    EXPECT_TRUE(text.starts_with("\\documentclass{article}"));
    EXPECT_TRUE(text.ends_with("\\end{document}\n"));
    EXPECT_NE(text.find("% page 1\n\\[ \\frac{273}{420}= \\qquad \\text{13/20 $\\approx$ 0.65} \\]"),
              std::string::npos);
    EXPECT_NE(text.find("\\[ 12.5\\%\\cdot 80="), std::string::npos) << "a percent sign would hide the rest";
    EXPECT_NE(text.find("% page 3\n\\[ x^{2}-16=0"), std::string::npos);
    EXPECT_EQ(text.find("frost"), std::string::npos);
    EXPECT_NE(text.find("\\[ 2+2=4 \\]"), std::string::npos) << "that it is right need not be said";
    EXPECT_EQ(text.find("% page 2"), std::string::npos);
}

TEST(FormulaFile, IsNoneWithoutFormulas) {
    EXPECT_EQ(formulas_tex({Reading{}}), "");
    EXPECT_EQ(formulas_tex({}), "");
}

TEST(FormulaFile, EscapesOnlyOnce) {
    EXPECT_EQ(document_latex("5\\%+3%"), "5\\%+3\\%");
    EXPECT_EQ(document_latex(""), "");
}

}  // namespace
}  // namespace fernleaf
