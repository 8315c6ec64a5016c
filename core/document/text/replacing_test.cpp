#include "document/text/replacing.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

TextStyle bold() {
    TextStyle out;
    out.bold = true;
    return out;
}

TextBlock typed(std::vector<TextRun> runs) {
    TextBlock out;
    out.paragraphs = {{std::move(runs)}};
    return out;
}

TEST(Replacing, TakesTheStyleOfWhatItReplaces) {
    TextBlock block = typed({{"the old ", {}}, {"gate", bold()}, {" and the old gate", {}}});
    EXPECT_EQ(replace_text(block, "gate", "lower gate"), 2U);
    EXPECT_EQ(block.paragraphs[0].runs,
              (std::vector<TextRun>{{"the old ", {}}, {"lower gate", bold()}, {" and the old lower gate", {}}}));
}

TEST(Replacing, FindsWhatGoesFromStyleToStyle) {
    TextBlock block = typed({{"frost ga", {}}, {"te open", bold()}});
    EXPECT_EQ(replace_text(block, "gate", "door"), 1U);
    EXPECT_EQ(block.paragraphs[0].runs, (std::vector<TextRun>{{"frost door", {}}, {" open", bold()}}));
    EXPECT_EQ(replace_text(block, "frost door open", ""), 1U);
    EXPECT_EQ(block.paragraphs[0].runs.size(), 1U) << "a paragraph without any text keeps a style";
    EXPECT_TRUE(block.paragraphs[0].runs[0].text.empty());
}

TEST(Replacing, DoesNotOverlapAndChangesNothingWhereNothingIsFound) {
    TextBlock block = typed({{"aaaaa", {}}});
    EXPECT_EQ(replace_text(block, "aa", "b"), 2U);
    EXPECT_EQ(block.paragraphs[0].runs[0].text, "bba");
    const TextBlock before = block;
    EXPECT_EQ(replace_text(block, "A", "x"), 0U);
    EXPECT_EQ(replace_text(block, "", "x"), 0U);
    EXPECT_EQ(block, before);
    TextBlock empty = typed({});
    EXPECT_EQ(replace_text(empty, "a", "b"), 0U);
}

TEST(Replacing, MayGrowWithinItself) {
    TextBlock block = typed({{"süß süß", {}}});
    EXPECT_EQ(replace_text(block, "süß", "süß süß"), 2U);
    EXPECT_EQ(block.paragraphs[0].runs[0].text, "süß süß süß süß");
}

}  // namespace
}  // namespace fernleaf
