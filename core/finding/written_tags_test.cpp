#include "finding/written_tags.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

Reading reading_of(const std::vector<std::pair<std::string, double>>& words) {
    Reading out;
    out.lines.emplace_back();
    for (const auto& [text, certainty] : words) {
        ReadWord word;
        word.text = text;
        word.certainty = certainty;
        out.lines[0].words.push_back(word);
    }
    return out;
}

TEST(WrittenTags, AreWordsBehindASign) {
    EXPECT_EQ(written_tags(reading_of({{"Gate", 1}, {"#frost,", 0.9}, {"and", 1}, {"#süd-hang.", 0.8}, {"#frost", 1}})),
              (std::vector<std::string>{"frost", "süd-hang"}));
    EXPECT_EQ(written_tags(reading_of({{"#", 0.9}, {"weather", 0.9}})), std::vector<std::string>{"weather"});
}

TEST(WrittenTags, AreNotTakenFromWhatIsDoubtfulOrANumber) {
    EXPECT_TRUE(written_tags(reading_of({{"#frost", 0.3}, {"#3", 1}, {"#", 1}})).empty());
    EXPECT_TRUE(written_tags(reading_of({{"#", 1}, {"weather", 0.2}})).empty());
    Reading corrected = reading_of({{"#frost", 0.1}});
    corrected.lines[0].words[0].corrected = true;
    EXPECT_EQ(written_tags(corrected), std::vector<std::string>{"frost"});
    Reading formula = reading_of({{"#frost", 1}});
    formula.lines[0].kind = RegionKind::math;
    EXPECT_TRUE(written_tags(formula).empty());
    EXPECT_TRUE(written_tags({}).empty());
}

}  // namespace
}  // namespace fernleaf
