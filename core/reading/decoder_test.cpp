#include "reading/decoder.h"

#include <gtest/gtest.h>

#include <cmath>
#include <map>

namespace fernleaf {
namespace {

const Alphabet kAbc(U" abcdefghijklmnopqrstuvwxyz");

// Scores that see a text, each character for three steps with two blanks between; sure is the probability of what is
// meant, and doubt names a rival at a position, seen for one step.
cv::Mat seen(const std::u32string& text, double sure = 0.9, std::map<size_t, char32_t> doubt = {}) {
    cv::Mat_<float> p(static_cast<int>(text.size()) * 5 + 2, kAbc.size(), 1e-5F);
    for (int t = 0; t < p.rows; ++t) {
        const auto i = static_cast<size_t>(t / 5);
        const bool active = i < text.size() && t % 5 >= (doubt.contains(i) ? 4 : 2);
        p(t, active ? kAbc.symbol(text[i]) : 0) = static_cast<float>(sure);
        if (active && doubt.contains(i)) {
            p(t, kAbc.symbol(doubt[i])) = 0.52F;
            p(t, kAbc.symbol(text[i])) = 0.44F;
        }
    }
    cv::log(p, p);
    return p;
}

TEST(Decoder, ReadsWhatIsSeen) {
    EXPECT_EQ(decode(seen(U"apple tree"), kAbc, {}).front().text, U"apple tree");
    EXPECT_EQ(decode(seen(U""), kAbc, {}).front().text, U"");
}

TEST(Decoder, LanguageDecidesBetweenLikeLetters) {
    const auto language = Language::load(std::string(FERNLEAF_SOURCE_DIR) + "/models/language", "en");
    ASSERT_TRUE(language) << language.error().message;
    const cv::Mat scores = seen(U"the weather", 0.9, {{5, U'c'}});
    DecoderSettings settings;
    EXPECT_EQ(decode(scores, kAbc, settings).front().text, U"the wcather");
    settings.languages = {&*language};
    EXPECT_EQ(decode(scores, kAbc, settings).front().text, U"the weather");
}

TEST(Decoder, OwnWordsWinOverTheLiteralReading) {
    const auto language = Language::load(std::string(FERNLEAF_SOURCE_DIR) + "/models/language", "en");
    ASSERT_TRUE(language);
    const cv::Mat scores = seen(U"okoro", 0.9, {{3, U'n'}});
    WordList words{U"okoro"};
    DecoderSettings settings;
    settings.languages = {&*language};
    settings.language_weight = 0.2;
    EXPECT_EQ(decode(scores, kAbc, settings).front().text, U"okono");
    settings.words = &words;
    EXPECT_EQ(decode(scores, kAbc, settings).front().text, U"okoro");
}

TEST(Decoder, AlignmentFindsEachCharactersPlace) {
    const auto spans = align(seen(U"abba"), kAbc, U"abba");
    ASSERT_EQ(spans.size(), 4U);
    for (size_t i = 0; i < 4; ++i) {
        EXPECT_EQ(spans[i].begin, static_cast<int>(5 * i + 2));
        EXPECT_EQ(spans[i].end, static_cast<int>(5 * i + 5));
    }
    EXPECT_TRUE(align(seen(U"a"), kAbc, U"far too long for so few steps").empty());
}

}  // namespace
}  // namespace fernleaf
