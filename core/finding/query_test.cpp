#include "finding/query.h"

#include <gtest/gtest.h>

#include <algorithm>

namespace fernleaf {
namespace {

TEST(Query, UnderstandsWordsPhrasesAndNarrowing) {
    const auto q = parse_query("Frost \"late  Apple\" notebook:\"Press house\" after:2026-05-01 before:2026-06-01");
    ASSERT_TRUE(q);
    ASSERT_EQ(q->phrases.size(), 2U);
    EXPECT_EQ(q->phrases[0].words, (std::vector<std::string>{"frost"}));
    EXPECT_FALSE(q->phrases[0].whole);
    EXPECT_EQ(q->phrases[1].words, (std::vector<std::string>{"late", "apple"}));
    EXPECT_TRUE(q->phrases[1].whole);
    EXPECT_EQ(q->notebook, "press house");
    EXPECT_EQ(*q->before_ms - *q->after_ms, 31LL * 86'400'000);
}

TEST(Query, ArrowsAskForLinks) {
    const auto phrases = [](const char* text) { return parse_query(text)->phrases; };
    const auto linked = [](const std::vector<std::string>& words) {
        std::vector<std::string> out;
        for (const std::string& word : words) out.push_back(in_outline(word));
        return out;
    };
    for (const char* text : {"pump → Tank", "pump -> tank", "pump->tank", "pump --> tank"}) {
        ASSERT_EQ(phrases(text).size(), 1U) << text;
        EXPECT_EQ(phrases(text)[0].words, linked({"pump", "tank"})) << text;
        EXPECT_FALSE(phrases(text)[0].whole);
    }
    auto some = phrases("frost \"cold room\" -> \"old press\" -> mill late");
    ASSERT_EQ(some.size(), 4U);
    EXPECT_EQ(some[0].words, (std::vector<std::string>{"frost"}));
    EXPECT_EQ(some[1].words, linked({"cold", "room", "old", "press"}));
    EXPECT_EQ(some[2].words, linked({"old", "press", "mill"}));
    EXPECT_EQ(some[3].words, (std::vector<std::string>{"late"}));
    EXPECT_EQ(phrases("\"pump → tank\"")[0].words, linked({"pump", "tank"}));
    some = phrases("pump -> ");
    ASSERT_EQ(some.size(), 1U) << "while it is being typed";
    EXPECT_EQ(some[0].words, (std::vector<std::string>{"pump"}));
    EXPECT_EQ(phrases("-> tank")[0].words, (std::vector<std::string>{"tank"}));
    EXPECT_FALSE(parse_query("->"));
}

TEST(Query, RefusesNothingAndIllFormedDays) {
    EXPECT_FALSE(parse_query("  "));
    EXPECT_FALSE(parse_query("?!"));
    EXPECT_FALSE(parse_query("notebook:frost"));
    EXPECT_FALSE(parse_query("frost before:yesterday"));
    EXPECT_FALSE(parse_query("frost before:2026-02-31"));
}

TEST(Query, KeepsTimesAndUrlsAsWords) {
    const auto q = parse_query("7:30");
    ASSERT_TRUE(q);
    EXPECT_EQ(q->phrases[0].words, (std::vector<std::string>{"7", "30"}));
}

TEST(Terms, HoldAlternativesAtThePlaceOfTheirWord) {
    ReadLine line;
    line.words = {{"half-hardy", 0.9, {}, {}, {}, false}, {"pear", 0.6, {}, {}, {{"Peár", 0.1}, {"bear", 0.2}}, false}};
    const auto terms = terms_of(line);
    const auto at = [&](const std::string& word) { return *std::ranges::find(terms, word, &Term::word); };
    EXPECT_EQ(at("half").position, 0);
    EXPECT_EQ(at("hardy").position, 1);
    EXPECT_EQ(at("pear").position, 2);
    EXPECT_EQ(at("bear").position, 2);
    EXPECT_NEAR(at("pear").certainty, 0.7, 1e-9);
    for (const Term& term : terms_of(line, LineKind::outline)) EXPECT_TRUE(term.word.starts_with("→")) << term.word;
}

}  // namespace
}  // namespace fernleaf
