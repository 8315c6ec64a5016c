#include <gtest/gtest.h>

#include <sstream>

#include "document/text/test_list.h"
#include "transcript/reading.h"

namespace fernleaf {
namespace {

ReadLine written(double left, double top, std::vector<std::string> words, int region) {
    ReadLine line;
    line.region = region;
    StrokeId id = static_cast<StrokeId>(top * 100);
    for (const std::string& w : words) {
        line.words.push_back({w, 0.9, Box::of(left, top, 12, 6), {++id}, {}, false});
        line.box.include(line.words.back().box);
        left += 16;
    }
    return line;
}

TextBlock typed(std::string text, Box box) {
    static TextId next = 1000;
    TextBlock block;
    block.id = next++;
    block.words = {{std::move(text), box, 0}};
    return block;
}

TEST(TypedWords, JoinTheWrittenLineTheyStandIn) {
    Reading reading{{written(10, 20, {"frost", "dawn"}, 0)}};
    reading.lines[0].words[1].box = Box::of(60, 20, 12, 6);
    reading.lines[0].box.include(reading.lines[0].words[1].box);
    add_typed(reading, {{}, {}, {typed("at", Box::of(40, 21, 8, 5))}});
    ASSERT_EQ(reading.lines.size(), 1U);
    EXPECT_EQ(reading.lines[0].text(), "frost at dawn");
    EXPECT_NE(reading.lines[0].words[1].block, 0);
}

TEST(TypedWords, InACellOfATableJoinWhatIsThere) {
    ReadLine grid;
    grid.kind = RegionKind::table;
    grid.table = ReadTable{1, 2, {{0, 0, 1, 1, Box::of(10, 10, 40, 20)}, {0, 1, 1, 1, Box::of(50, 10, 40, 20)}}, {}};
    ReadLine frost = written(12, 15, {"frost"}, 0), dawn = written(54, 15, {"dawn"}, 0);
    frost.cell = 0, dawn.cell = 1;
    Reading reading{{grid, frost, dawn, written(10, 50, {"after"}, 1)}};
    add_typed(reading, {{}, {}, {typed("late", Box::of(30, 15, 12, 6)), typed("below", Box::of(12, 23, 12, 5))}});
    ASSERT_EQ(reading.lines.size(), 5U);
    EXPECT_EQ(reading.lines[1].text(), "frost late") << "in its cell, not with the words of the next";
    EXPECT_EQ(reading.lines[2].text(), "below");
    EXPECT_EQ(reading.lines[2].cell, 0);
    EXPECT_EQ(reading.lines[3].text(), "dawn");
    EXPECT_EQ(reading.lines[4].text(), "after");
}

TEST(TypedWords, StandByThemselvesWhereTheirHeightPutsThem) {
    Reading reading{{written(10, 20, {"first"}, 0), written(10, 60, {"third"}, 1)}};
    TextBlock two = typed("second", Box::of(10, 38, 20, 5));
    two.words.push_back({"line", Box::of(10, 45, 20, 5), 1});
    add_typed(reading, {{}, {}, {two}});
    ASSERT_EQ(reading.lines.size(), 4U);
    EXPECT_EQ(reading.lines[1].text(), "second");
    EXPECT_EQ(reading.lines[2].text(), "line");
    EXPECT_EQ(reading.lines[1].region, reading.lines[2].region);
    EXPECT_NE(reading.lines[2].region, reading.lines[3].region);
    EXPECT_EQ(reading.lines[3].text(), "third");
}

TEST(TypedWords, OfListsGetTheirSignsWhenTheyAreTakenAway) {
    TextBlock block = test_list();
    block.id = 7;
    int line = 0;
    for (const char* words : {"Tools", "saw", "wax", "tape and string"}) {
        std::istringstream split(words);
        for (std::string word; split >> word;) block.words.push_back({word, Box::of(10, 20 + 8 * line, 10, 5), line});
        ++line;
    }
    Reading reading;
    add_typed(reading, {{}, {}, {block}});
    add_list_signs(reading, {block});
    ASSERT_EQ(reading.lines.size(), 4U);
    EXPECT_EQ(reading.lines[0].text(), "Tools");
    EXPECT_EQ(reading.lines[1].text(), "1. saw");
    EXPECT_EQ(reading.lines[2].text(), "2. wax");
    EXPECT_EQ(reading.lines[3].text(), "☐ tape and string");
}

TEST(TypedWords, ADividerPartsWhatStandsAboveItFromWhatStandsBelow) {
    Reading reading{{written(10, 20, {"first"}, 0), written(10, 60, {"second"}, 1)}};
    Divider rule;
    rule.middle = {70, 45};
    add_typed(reading, {{}, {}, {}, {rule}});
    ASSERT_EQ(reading.lines.size(), 3U);
    EXPECT_EQ(reading.lines[1].kind, RegionKind::divider);
    EXPECT_TRUE(reading.lines[1].words.empty());
    EXPECT_EQ(reading.lines[2].text(), "second");
}

}  // namespace
}  // namespace fernleaf
