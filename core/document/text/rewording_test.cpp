#include "document/text/rewording.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

// Two paragraphs, the second with a bold end.
TextBlock block() {
    TextBlock b;
    b.paragraphs = {{{{"saw and wax", {}}}}, {{{"tape ", {}}, {"and string", {.bold = true}}}}};
    return b;
}

TEST(Rewording, ReplacesOneWordInItsStyle) {
    TextBlock b = block();
    ASSERT_TRUE(replace_word(b, 5, "twine"));
    EXPECT_EQ(plain_text(b), "saw and wax\ntape and twine");
    EXPECT_TRUE(b.paragraphs[1].runs[1].style.bold);
    ASSERT_TRUE(replace_word(b, 0, "The saw"));
    EXPECT_EQ(plain_text(b), "The saw and wax\ntape and twine");
    EXPECT_FALSE(replace_word(b, 99, "nothing"));
}

TEST(Rewording, AWordAcrossTwoStylesIsReplacedWhole) {
    TextBlock b;
    b.paragraphs = {{{{"fro", {}}, {"st tonight", {.italic = true}}}}};
    ASSERT_TRUE(replace_word(b, 0, "hail"));
    EXPECT_EQ(plain_text(b), "hail tonight");
}

TEST(Rewording, TakesWordsOutWithTheirBlank) {
    TextBlock b = block();
    ASSERT_TRUE(remove_words(b, 1, 1));
    EXPECT_EQ(plain_text(b), "saw wax\ntape and string");
    ASSERT_TRUE(remove_words(b, 1, 1));
    EXPECT_EQ(plain_text(b), "saw\ntape and string") << "the last of a paragraph goes with the blank before it";
    ASSERT_TRUE(remove_words(b, 0, 0));
    EXPECT_EQ(plain_text(b), "tape and string") << "and an empty paragraph with its last word";
    ASSERT_TRUE(remove_words(b, 0, 2));
    EXPECT_FALSE(has_text(b));
    EXPECT_FALSE(remove_words(b, 0, 0));
}

TEST(Rewording, SplitsAWordBetweenCharacters) {
    TextBlock b;
    b.paragraphs = {{{{"früherfrost", {}}}}};
    ASSERT_TRUE(split_word(b, 0, 6));
    EXPECT_EQ(plain_text(b), "früher frost");
    EXPECT_FALSE(split_word(b, 1, 0));
    EXPECT_FALSE(split_word(b, 1, 5)) << "nothing would be left behind it";
    EXPECT_FALSE(split_word(b, 7, 1));
}

TEST(Rewording, JoinsWordsOfOneParagraph) {
    TextBlock b = block();
    ASSERT_TRUE(join_words(b, 0));
    EXPECT_EQ(plain_text(b), "sawand wax\ntape and string");
    EXPECT_FALSE(join_words(b, 1)) << "the next word begins another paragraph";
}

TEST(Rewording, BeginsParagraphsAndRunsThemOn) {
    TextBlock b = block();
    EXPECT_FALSE(begin_paragraph(b, 0));
    EXPECT_FALSE(begin_paragraph(b, 3));
    ASSERT_TRUE(begin_paragraph(b, 5));
    EXPECT_EQ(plain_text(b), "saw and wax\ntape and\nstring");
    EXPECT_TRUE(b.paragraphs[2].runs[0].style.bold);
    EXPECT_FALSE(run_on(b, 3)) << "its paragraph does not end there";
    ASSERT_TRUE(run_on(b, 4));
    EXPECT_EQ(plain_text(b), "saw and wax\ntape and string");
    EXPECT_FALSE(run_on(b, 5)) << "no paragraph follows";
}

TEST(Rewording, StylesWordsAndNothingElse) {
    TextBlock b = block();
    ASSERT_TRUE(style_words(b, 2, 3, [](TextStyle& s) { s.italic = true; }));
    const auto styles = word_styles(b);
    ASSERT_EQ(styles.size(), 6U);
    for (size_t n = 0; n < 6; ++n) EXPECT_EQ(styles[n]->italic, n == 2 || n == 3) << n;
    EXPECT_TRUE(styles[4]->bold) << "what was bold stays so";
    EXPECT_EQ(plain_text(b), plain_text(block()));
    EXPECT_FALSE(style_words(b, 2, 9, [](TextStyle&) {}));
}

TEST(Rewording, MakesHeadingsBoldAndLargerOnce) {
    TextBlock b = block();
    const double size = b.paragraphs[0].runs[0].style.size_mm;
    ASSERT_TRUE(set_heading(b, 1, 2, 1.5));
    EXPECT_EQ(b.paragraphs[0].heading, 2);
    EXPECT_TRUE(b.paragraphs[0].runs[0].style.bold);
    EXPECT_DOUBLE_EQ(b.paragraphs[0].runs[0].style.size_mm, 1.5 * size);
    ASSERT_TRUE(set_heading(b, 1, 1, 1.5));
    EXPECT_DOUBLE_EQ(b.paragraphs[0].runs[0].style.size_mm, 1.5 * size) << "it has grown before";
    EXPECT_FALSE(set_heading(b, 1, 1, 1.5)) << "it is one";
    EXPECT_EQ(b.paragraphs[1].heading, 0);
}

}  // namespace
}  // namespace fernleaf
