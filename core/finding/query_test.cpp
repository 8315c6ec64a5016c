#include "finding/query.h"

#include <gtest/gtest.h>

#include <algorithm>

namespace fernleaf {
namespace {

using Kind = PageFilter::Kind;

constexpr int64_t kDayMs = 86'400'000;

// The phrases of a query that has nothing else.
std::vector<Phrase> phrases(const char* text) {
    std::vector<Phrase> out;
    const auto query = parse_query(text);
    if (!query) return out;
    for (const auto& list : query->all_of) {
        EXPECT_EQ(list.size(), 1U);
        out.push_back(std::get<Phrase>(list[0].what));
    }
    return out;
}

PageFilter only_filter(const std::string& text, int64_t now_ms = 0) {
    const auto query = parse_query(text, now_ms);
    if (!query || query->all_of.size() != 1) return {Kind::todo, "none"};
    return std::get<PageFilter>(query->all_of[0][0].what);
}

TEST(Query, UnderstandsWordsAndPhrases) {
    const auto q = phrases("Frost \"late  Apple\" fro*");
    ASSERT_EQ(q.size(), 3U);
    EXPECT_EQ(q[0].words, (std::vector<std::string>{"frost"}));
    EXPECT_FALSE(q[0].whole);
    EXPECT_EQ(q[1].words, (std::vector<std::string>{"late", "apple"}));
    EXPECT_TRUE(q[1].whole);
    EXPECT_EQ(q[2].words, (std::vector<std::string>{"fro"}));
    EXPECT_FALSE(q[2].whole);
}

TEST(Query, UnderstandsWhatMustBeTrueOfAPage) {
    EXPECT_EQ(only_filter("notebook:\"Press House\""), (PageFilter{Kind::notebook, "press house"}));
    EXPECT_EQ(only_filter("tag:#Fröst"), (PageFilter{Kind::tag, "frost"}));
    EXPECT_EQ(only_filter("folder:old"), (PageFilter{Kind::folder, "old"}));
    EXPECT_EQ(only_filter("lang:de"), (PageFilter{Kind::language, "de"}));
    EXPECT_EQ(only_filter("has:Sound"), PageFilter{Kind::sound});
    const auto may = only_filter("after:2026-05-01"), june = only_filter("before:2026-06-01");
    EXPECT_EQ(may.kind, Kind::after);
    EXPECT_EQ(june.kind, Kind::before);
    EXPECT_EQ(june.number - may.number, 31 * kDayMs);
    EXPECT_EQ(only_filter("day:2026-05-01").number * kDayMs, may.number);
    const int64_t noon = only_filter("day:2026-05-02").number * kDayMs + kDayMs / 2;
    EXPECT_EQ(only_filter("day:yesterday", noon), only_filter("day:2026-05-01"));
}

TEST(Query, LeavesOutAndJoins) {
    const auto q = parse_query("frost OR rime -tag:draft \"OR\" OR -mill");
    ASSERT_TRUE(q);
    ASSERT_EQ(q->all_of.size(), 3U);
    EXPECT_EQ(q->all_of[0].size(), 2U);
    ASSERT_EQ(q->all_of[1].size(), 1U);
    EXPECT_TRUE(q->all_of[1][0].without);
    EXPECT_EQ(std::get<PageFilter>(q->all_of[1][0].what).text, "draft");
    ASSERT_EQ(q->all_of[2].size(), 2U);
    EXPECT_EQ(std::get<Phrase>(q->all_of[2][0].what).words, std::vector<std::string>{"or"});
    EXPECT_TRUE(q->all_of[2][1].without);
    EXPECT_EQ(phrases("frost OR").size(), 1U) << "while it is being typed";
    EXPECT_EQ(phrases("OR frost").size(), 1U);
}

TEST(Query, ArrowsAskForLinks) {
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
    EXPECT_FALSE(parse_query("-frost"));
    EXPECT_FALSE(parse_query("-frost -rime OR mill"));
    EXPECT_FALSE(parse_query("has:pears"));
    EXPECT_FALSE(parse_query("frost before:soon"));
    EXPECT_FALSE(parse_query("frost before:2026-02-31"));
}

TEST(Query, KeepsTimesAndUrlsAsWords) {
    const auto q = phrases("7:30");
    ASSERT_EQ(q.size(), 1U);
    EXPECT_EQ(q[0].words, (std::vector<std::string>{"7", "30"}));
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
