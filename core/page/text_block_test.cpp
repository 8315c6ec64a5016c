#include "page/text_block.h"

#include <gtest/gtest.h>

#include <sstream>

#include "page/page.h"

namespace fernleaf {
namespace {

TextBlock list() {
    TextBlock block;
    block.paragraphs = {{{{"Tools", {}}}},
                        {{{"saw", {}}}, Align::left, ListKind::number},
                        {{{"wax", {}}}, Align::left, ListKind::number},
                        {{{"tape ", {}}, {"and string", {.bold = true}}}, Align::left, ListKind::check}};
    return block;
}

TEST(TextBlock, GivesItsTextWithListSigns) {
    EXPECT_EQ(plain_text(list()), "Tools\n1. saw\n2. wax\n☐ tape and string");
    EXPECT_TRUE(has_text(list()));
    TextBlock blank;
    blank.paragraphs = {{{{"  ", {}}}}};
    EXPECT_FALSE(has_text(blank));
}

TEST(TextBlock, IsLargerOnThePageWhenItIsTurned) {
    TextBlock block;
    block.at = {10, 10}, block.width_mm = 40, block.height_mm = 20;
    EXPECT_EQ(block.box(), Box::of(10, 10, 40, 20));
    block.angle = 90;
    EXPECT_NEAR(block.box().width(), 20, 1e-9);
    EXPECT_NEAR(block.box().height(), 40, 1e-9);
    EXPECT_NEAR(block.box().centre().x, 30, 1e-9);
}

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
    add_typed(reading, {typed("at", Box::of(40, 21, 8, 5))});
    ASSERT_EQ(reading.lines.size(), 1U);
    EXPECT_EQ(reading.lines[0].text(), "frost at dawn");
    EXPECT_NE(reading.lines[0].words[1].block, 0);
}

TEST(TypedWords, StandByThemselvesWhereTheirHeightPutsThem) {
    Reading reading{{written(10, 20, {"first"}, 0), written(10, 60, {"third"}, 1)}};
    TextBlock two = typed("second", Box::of(10, 38, 20, 5));
    two.words.push_back({"line", Box::of(10, 45, 20, 5), 1});
    add_typed(reading, {two});
    ASSERT_EQ(reading.lines.size(), 4U);
    EXPECT_EQ(reading.lines[1].text(), "second");
    EXPECT_EQ(reading.lines[2].text(), "line");
    EXPECT_EQ(reading.lines[1].region, reading.lines[2].region);
    EXPECT_NE(reading.lines[2].region, reading.lines[3].region);
    EXPECT_EQ(reading.lines[3].text(), "third");
}

TEST(TypedWords, OfListsGetTheirSignsWhenTheyAreTakenAway) {
    TextBlock block = list();
    block.id = 7;
    int line = 0;
    for (const char* words : {"Tools", "saw", "wax", "tape and string"}) {
        std::istringstream split(words);
        for (std::string word; split >> word;) block.words.push_back({word, Box::of(10, 20 + 8 * line, 10, 5), line});
        ++line;
    }
    Reading reading;
    add_typed(reading, {block});
    add_list_signs(reading, {block});
    ASSERT_EQ(reading.lines.size(), 4U);
    EXPECT_EQ(reading.lines[0].text(), "Tools");
    EXPECT_EQ(reading.lines[1].text(), "1. saw");
    EXPECT_EQ(reading.lines[2].text(), "2. wax");
    EXPECT_EQ(reading.lines[3].text(), "☐ tape and string");
}

TEST(EndlessPage, GrowsWithWhatIsOnIt) {
    Page page;
    page.info.height_mm = 210;
    Stroke low;
    low.points = {{{10, 500}}};
    page.strokes = {low};
    make_room_below(page);
    EXPECT_EQ(page.info.height_mm, 210) << "an ordinary page keeps its size";
    page.info.endless = true;
    make_room_below(page);
    EXPECT_GE(page.info.height_mm, 560);
    const double tall = page.info.height_mm;
    page.strokes.clear();
    make_room_below(page);
    EXPECT_EQ(page.info.height_mm, tall) << "it never shrinks under the pen";
}

}  // namespace
}  // namespace fernleaf
