#include "drawing/drawing_reading.h"

#include <gtest/gtest.h>

#include "drawing/drawn_ink.h"
#include "drawing/test_ink.h"

namespace fernleaf {
namespace {

ReadWord word(const std::string& text, double x, double y) {
    ReadWord out;
    out.text = text;
    out.box = Box::of(x, y, 2.2 * static_cast<double>(text.size()), 4);
    return out;
}

// All of it drawn, with words about it.
Reading reading_of(const std::vector<Stroke>& strokes, std::vector<ReadWord> words) {
    Reading out;
    out.lines.resize(2);
    out.lines[0].shapes = drawn_ink(strokes, true).shapes(strokes);
    out.lines[1].words = std::move(words);
    return out;
}

// Two boxes one above the other, an arrow down from the first.
std::vector<Stroke> flow() {
    return {drawn({{10, 60}, {50, 60}, {50, 76}, {10, 76}, {10, 60.5}}),
            drawn({{10, 10}, {50, 10}, {50, 26}, {10, 26}, {10, 10.5}}), drawn({{30, 27}, {30, 59}}),
            drawn({{27, 54}, {30, 59}, {33, 54}})};
}

TEST(DrawingReading, ANodeHoldsItsWordsAndALinkThoseBesideIt) {
    const std::vector<ReadWord> words{word("yes", 33, 40), word("gauge", 24, 16), word("Read", 13, 16),
                                      word("Ring", 20, 66), word("elsewhere", 150, 200)};
    const Reading reading = reading_of(flow(), words);
    const DrawingReading drawing = read_drawing(reading);
    ASSERT_EQ(drawing.nodes.size(), 2U);
    ASSERT_EQ(drawing.links.size(), 1U);
    EXPECT_TRUE(drawing.is_diagram());
    EXPECT_EQ(drawing.nodes[0].text(), "Read gauge") << "from the top, from the left";
    EXPECT_EQ(drawing.nodes[1].text(), "Ring");
    EXPECT_EQ(drawing.links[0].from, 0U);
    EXPECT_EQ(drawing.links[0].to, 1U);
    EXPECT_EQ(drawing.links[0].heads, LinkHeads::to);
    EXPECT_EQ(drawing.links[0].text(), "yes");
    EXPECT_EQ(drawing.nodes[0].figure->shape.kind, ShapeKind::rectangle);
    EXPECT_FALSE(drawing.nodes[0].others.empty());
}

TEST(DrawingReading, AnOutlineTellsWhatLeadsToWhatInEachDirectionThereIs) {
    const std::vector<ReadWord> words{word("gauge", 24, 16), word("Read", 13, 16), word("Ring", 20, 66)};
    const Reading directed = reading_of(flow(), words);
    std::vector<ReadLine> lines = outline_lines(read_drawing(directed));
    ASSERT_EQ(lines.size(), 1U);
    EXPECT_EQ(lines[0].text(), "Read gauge → Ring");
    EXPECT_EQ(lines[0].words[2].box, words[2].box) << "its words are those on the page";
    std::vector<Stroke> strokes = flow();
    strokes.pop_back();
    const Reading plain = reading_of(strokes, words);
    lines = outline_lines(read_drawing(plain));
    ASSERT_EQ(lines.size(), 2U);
    EXPECT_EQ(lines[1].text(), "Ring — Read gauge");
    const Reading unlabelled = reading_of(flow(), {words[0]});
    EXPECT_TRUE(outline_lines(read_drawing(unlabelled)).empty()) << "one end says nothing";
}

TEST(DrawingReading, WordsWithoutAFrameAreNodesOfAMap) {
    const std::vector<Stroke> line{drawn({{40, 20}, {80, 20}})};
    const std::vector<ReadWord> words{word("apple", 26, 18), word("old", 82, 18), word("tree", 90, 18)};
    const Reading reading = reading_of(line, words);
    const DrawingReading drawing = read_drawing(reading);
    ASSERT_EQ(drawing.nodes.size(), 2U);
    EXPECT_FALSE(drawing.nodes[0].figure);
    EXPECT_EQ(drawing.nodes[1].text(), "old tree");
    ASSERT_EQ(drawing.links.size(), 1U);
    EXPECT_EQ(drawing.links[0].heads, LinkHeads::none);
}

TEST(DrawingReading, LinesThatLeadNowhereAreLoose) {
    const std::vector<Stroke> lines{drawn({{40, 20}, {80, 20}})};
    const Reading reading = reading_of(lines, {});
    const DrawingReading drawing = read_drawing(reading);
    EXPECT_TRUE(drawing.nodes.empty());
    EXPECT_EQ(drawing.loose.size(), 1U);
    EXPECT_FALSE(drawing.is_diagram());
}

TEST(DrawingReading, WithoutItsLinksADiagramIsShapes) {
    const Reading reading = reading_of(flow(), {word("Ring", 20, 66)});
    const DrawingReading shapes = without_links(read_drawing(reading));
    EXPECT_FALSE(shapes.is_diagram());
    EXPECT_EQ(shapes.nodes.size(), 2U);
    ASSERT_EQ(shapes.loose.size(), 1U);
    EXPECT_EQ(shapes.loose[0].best().shape.kind, ShapeKind::arrow);
    EXPECT_FALSE(shapes.loose[0].strokes.empty());
}

}  // namespace
}  // namespace fernleaf
