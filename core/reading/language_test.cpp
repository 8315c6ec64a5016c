#include "reading/language.h"

#include <gtest/gtest.h>

#include <unistd.h>

#include <cmath>
#include <fstream>

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

const fs::path kShipped = fs::path(FERNLEAF_SOURCE_DIR) / "models" / "language";

// Log-probability of a text, letters before their marks.
double likelihood(const Language& language, const std::u32string& text) {
    Language::Context context = language.start();
    double sum = 0;
    for (const char32_t c : text) sum += language.step(context, c);
    return sum;
}

TEST(Language, ProbabilitiesOfWhatMayFollowSumToOne) {
    const auto english = Language::load(kShipped, "en");
    ASSERT_TRUE(english) << english.error().message;
    for (const std::u32string before : {U"", U"the appl", U"q", U"zzzzzz"}) {
        double sum = 0;
        for (char32_t c = 1; c < 0x2800; ++c) {
            Language::Context context = english->start();
            for (const char32_t b : before) english->step(context, b);
            const double p = english->step(context, c);
            if (p > -11.5) sum += std::exp(p);  // the floor for characters no text holds
        }
        EXPECT_NEAR(sum, 1, 0.12) << before.size();  // probabilities are kept in steps of 1/16 of a logarithm
    }
}

TEST(Language, LikesItsOwnTextBest) {
    const auto english = Language::load(kShipped, "en");
    const auto german = Language::load(kShipped, "de");
    ASSERT_TRUE(english && german);
    EXPECT_GT(likelihood(*english, U"the weather on the hill"), likelihood(*german, U"the weather on the hill"));
    EXPECT_LT(likelihood(*english, U"das Wetter auf dem Hu\u0308gel"),
              likelihood(*german, U"das Wetter auf dem Hu\u0308gel"));
}

TEST(Language, KnowsWordsInTheirUsualCases) {
    const auto german = Language::load(kShipped, "de");
    ASSERT_TRUE(german);
    EXPECT_TRUE(german->knows(U"gru\u0308n"));
    EXPECT_TRUE(german->knows(U"Gru\u0308n"));
    EXPECT_TRUE(german->knows(U"GRU\u0308N"));
    EXPECT_FALSE(german->knows(U"gRu\u0308n"));
    EXPECT_FALSE(german->knows(U"grzn"));
}

TEST(Language, MissingDataIsAnError) { EXPECT_FALSE(Language::load(kShipped, "xx")); }

TEST(Language, EveryShippedLanguageLoads) {
    int count = 0;
    for (const auto& entry : fs::directory_iterator(kShipped)) {
        const std::string name = entry.path().filename();
        if (!name.ends_with(".ngrams.gz")) continue;
        const std::string code = name.substr(0, name.find('.'));
        const auto language = Language::load(kShipped, code);
        EXPECT_TRUE(language) << code;
        ++count;
    }
    EXPECT_EQ(count, 29);
}

class DamagedLanguage : public testing::Test {
protected:
    DamagedLanguage() : folder_(fs::temp_directory_path() / ("fernleaf-language-" + std::to_string(getpid()))) {
        fs::create_directories(folder_);
        for (const char* name : {"en.ngrams.gz", "en.words.gz"})
            fs::copy_file(kShipped / name, folder_ / name, fs::copy_options::overwrite_existing);
    }
    ~DamagedLanguage() override { fs::remove_all(folder_); }
    fs::path folder_;
};

TEST_F(DamagedLanguage, IsRefusedWithItsName) {
    EXPECT_TRUE(Language::load(folder_, "en"));
    fs::resize_file(folder_ / "en.ngrams.gz", fs::file_size(folder_ / "en.ngrams.gz") / 2);
    const auto cut = Language::load(folder_, "en");
    ASSERT_FALSE(cut);
    EXPECT_NE(cut.error().message.find("en.ngrams.gz"), std::string::npos);
    std::ofstream(folder_ / "en.ngrams.gz") << "something else";
    EXPECT_FALSE(Language::load(folder_, "en"));
    fs::remove(folder_ / "en.ngrams.gz");
    EXPECT_NE(Language::load(folder_, "en").error().message.find("no language data"), std::string::npos);
}

TEST_F(DamagedLanguage, NeedsItsWordsToo) {
    fs::remove(folder_ / "en.words.gz");
    EXPECT_FALSE(Language::load(folder_, "en"));
}

}  // namespace
}  // namespace fernleaf
