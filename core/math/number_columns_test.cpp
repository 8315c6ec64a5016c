#include "math/number_columns.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

using Loose = std::vector<std::pair<StrokeId, Box>>;

// Lines of one word each, 6 mm high, that end at x.
class Page {
public:
    Page& line(const char* text, double right, double top) {
        ReadLine out;
        out.box = Box::of(right - 4.0 * static_cast<double>(std::string_view(text).size()), top,
                          4.0 * static_cast<double>(std::string_view(text).size()), 6);
        out.certainty = 0.8;
        out.words = {{text, 0.8, out.box, {static_cast<StrokeId>(reading.lines.size() + 1)}, {}}};
        reading.lines.push_back(std::move(out));
        return *this;
    }
    Reading reading;
};

const Loose kLine{{50, Box::of(28, 37.5, 24, 0.4)}};

TEST(NumberColumns, NumbersOverALineAreASum) {
    Page page;
    page.line("Yield", 60, 5).line("420", 50, 20).line("+1273", 50, 29).line("1693", 50, 40).line("kg", 90, 40);
    const auto columns = number_columns(page.reading, kLine);
    ASSERT_EQ(columns.size(), 1U);
    EXPECT_EQ(columns[0].lines, (std::vector<size_t>{1, 2, 3}));
    EXPECT_EQ(columns[0].line, 50);
    EXPECT_EQ(columns[0].latex, "\\begin{array}{r} 420 \\\\ +1273 \\\\ \\hline 1693 \\end{array}");
    EXPECT_EQ(columns[0].certainty, 0.8);
}

TEST(NumberColumns, WithoutANumberBelowTheLineItIsAsked) {
    Page page;
    page.line("12.5", 50, 11).line("30", 50, 20).line("-7", 50, 29);
    const auto columns = number_columns(page.reading, kLine);
    ASSERT_EQ(columns.size(), 1U);
    EXPECT_EQ(columns[0].latex, "\\begin{array}{r} 12.5 \\\\ 30 \\\\ -7 \\\\ \\hline \\end{array}");
}

TEST(NumberColumns, OtherLinesAreNone) {
    Page one;
    one.line("420", 50, 29).line("1693", 50, 40);
    EXPECT_TRUE(number_columns(one.reading, kLine).empty()) << "one number over a line is underlined";
    Page words;
    words.line("frost", 50, 20).line("1273", 50, 29);
    EXPECT_TRUE(number_columns(words.reading, kLine).empty());
    Page apart;
    apart.line("420", 50, 5).line("1273", 50, 29);
    EXPECT_TRUE(number_columns(apart.reading, kLine).empty()) << "they stand too far apart";
    Page aslant;
    aslant.line("420", 30, 20).line("1273", 50, 29);
    EXPECT_TRUE(number_columns(aslant.reading, kLine).empty()) << "they don't stand below one another";
    Page fine;
    fine.line("420", 50, 20).line("1273", 50, 29);
    EXPECT_TRUE(number_columns(fine.reading, {}).empty()) << "there is no line";
    EXPECT_TRUE(number_columns(fine.reading, {{50, Box::of(28, 37.5, 24, 6)}}).empty()) << "nor is that one";
    EXPECT_TRUE(number_columns(fine.reading, {{50, Box::of(5, 37.5, 160, 0.4)}}).empty()) << "a rule across the page";
    Page date;
    date.line("14/3", 50, 20).line("2.", 50, 29);
    EXPECT_TRUE(number_columns(date.reading, kLine).empty());
}

TEST(NumberColumns, NoNumberIsInTwo) {
    Page page;
    page.line("12", 50, 11).line("30", 50, 20).line("42", 50, 29.5).line("8", 50, 38.5).line("50", 50, 49);
    const auto columns =
        number_columns(page.reading, {{50, Box::of(40, 27.6, 12, 0.3)}, {51, Box::of(40, 46.5, 12, 0.3)}});
    ASSERT_EQ(columns.size(), 1U);
    EXPECT_EQ(columns[0].lines, (std::vector<size_t>{0, 1, 2}));
}

}  // namespace
}  // namespace fernleaf
