#include "finding/useful.h"

#include <gtest/gtest.h>

#include <sstream>

namespace fernleaf {
namespace {

constexpr Date kWritten{2026, 3, 14};

std::vector<Useful> in(const std::string& line) {
    Reading reading;
    reading.lines.emplace_back();
    std::istringstream words(line);
    for (std::string word; words >> word;)
        reading.lines[0].words.push_back({word, 0.9, Box::of(0, 0, 5, 5), {1}, {}, false});
    return useful_in(reading, kWritten);
}

void expect_telephone(const std::string& line, const std::string& value) {
    const auto found = in(line);
    ASSERT_EQ(found.size(), 1U) << line;
    EXPECT_EQ(found[0].kind, UsefulKind::telephone) << line;
    EXPECT_EQ(found[0].value, value) << line;
}

void expect_moment(const std::string& line, std::optional<Date> date, std::optional<Time> time = {}) {
    const auto found = in(line);
    ASSERT_EQ(found.size(), 1U) << line;
    EXPECT_EQ(found[0].kind, UsefulKind::moment) << line;
    EXPECT_EQ(found[0].date, date) << line;
    EXPECT_EQ(found[0].time, time) << line;
}

TEST(Useful, FindsTelephoneNumbersAndWhichWordsTheyAre) {
    expect_telephone("Call Mirela 555-0142 about wax", "5550142");
    expect_telephone("office +44 20 7946 0123", "+442079460123");
    expect_telephone("Tel. (020) 7946 0123", "02079460123");
    const auto found = in("Call Mirela 020 7946 0123 tonight");
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].first_word, 2);
    EXPECT_EQ(found[0].last_word, 4);
    EXPECT_EQ(found[0].text, "020 7946 0123");
}

TEST(Useful, FindsAddresses) {
    const auto found = in("write to ines@example.org or see www.example.org/grafts, then example.com");
    ASSERT_EQ(found.size(), 3U);
    EXPECT_EQ(found[0].kind, UsefulKind::mail);
    EXPECT_EQ(found[0].value, "ines@example.org");
    EXPECT_EQ(found[1].kind, UsefulKind::web);
    EXPECT_EQ(found[1].value, "https://www.example.org/grafts");
    EXPECT_EQ(found[2].value, "https://example.com");
}

TEST(Useful, FindsDatesInTheWaysPeopleWriteThem) {
    const Date day{2026, 5, 7};
    expect_moment("until 2026-05-07 at most", day);
    expect_moment("bis 7.5.2026 fertig", day);
    expect_moment("am 7.5. anrufen", day);
    expect_moment("on 7/5/26", day);
    expect_moment("7 May dry and cold", day);
    expect_moment("on the 7th of May, 2026", day);
    expect_moment("May 7th", day);
    expect_moment("7. Mai", day);
    expect_moment("le 7 mai 2026", day);
    expect_moment("5/13/2026", Date{2026, 5, 13});
}

TEST(Useful, ADateWithoutAYearIsTheNearestToThePage) {
    EXPECT_EQ(useful_in({}, kWritten).size(), 0U);
    Reading reading;
    reading.lines.emplace_back();
    for (const char* w : {"3", "January"})
        reading.lines[0].words.push_back({w, 1, Box::of(0, 0, 1, 1), {1}, {}, false});
    EXPECT_EQ(useful_in(reading, {2026, 11, 20}).at(0).date, (Date{2027, 1, 3}));
    EXPECT_EQ(useful_in(reading, {2026, 3, 14}).at(0).date, (Date{2026, 1, 3}));
}

TEST(Useful, JoinsADateAndItsTime) {
    expect_moment("Frost watch 7 May at 5:30", Date{2026, 5, 7}, Time{5, 30});
    expect_moment("7 May, 2.30 pm", Date{2026, 5, 7}, Time{14, 30});
    expect_moment("um 14 Uhr am 7. Mai", Date{2026, 5, 7}, Time{14, 0});
    expect_moment("meet at 9 am", std::nullopt, Time{9, 0});
    EXPECT_EQ(in("7 May the whole long day in the orchard and then 5:30").size(), 2U);
}

TEST(Useful, LeavesOrdinaryNumbersAndWordsAlone) {
    for (const char* line : {"12 sticks pencil thick", "yield 1 250 000 litres", "1.250.000", "row 3/4 done",
                             "x2 - 16 = 0", "31.2.2026 is none", "45:99", "25:00", "price 2.30", "12 marks on the wall",
                             "2026", "page 12345", "v1.2.3 of it", "14 maids a milking"})
        EXPECT_TRUE(in(line).empty()) << line << " gave " << (in(line).empty() ? "" : in(line)[0].text);
}

}  // namespace
}  // namespace fernleaf
