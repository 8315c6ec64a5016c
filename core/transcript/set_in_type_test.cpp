#include "transcript/set_in_type.h"

#include <gtest/gtest.h>

#include <cmath>

namespace fernleaf {
namespace {

double measure(const std::string& text, const TextStyle& style) {
    return 0.45 * style.size_mm * static_cast<double>(text.size());
}

class SetInType : public testing::Test {
protected:
    // A line of writing: every word one stroke, letters 3.5 mm wide.
    void write(double left, double top, const std::vector<std::string>& words, int region = 0, double height = 6,
               uint32_t colour = 0x1E2A44) {
        ReadLine line;
        line.region = region;
        for (const std::string& word : words) {
            const double width = 3.5 * static_cast<double>(word.size());
            Stroke s;
            s.id = ++id_;
            s.pen.colour = colour;
            s.points = {{{left, top}}, {{left + width, top + height}}};
            line.words.push_back({word, 0.9, Box::of(left, top, width, height), {s.id}, {}, false});
            line.box.include(line.words.back().box);
            page_.strokes.push_back(std::move(s));
            left += width + 4;
        }
        reading_.lines.push_back(std::move(line));
    }
    TypesettingResult all() { return set_in_type(page_, reading_, nullptr, measure); }

    Page page_;
    Reading reading_;
    StrokeId id_ = 0;
};

TEST_F(SetInType, RunsLinesOnThatFillTheirBlock) {
    write(20, 20, {"the", "grafts", "on", "row", "three", "have"});
    write(20, 29, {"taken", "well", "this", "spring", "and"});
    write(20, 38, {"leaf"});
    write(20, 47, {"Order", "wax"});
    const TypesettingResult setting = all();
    ASSERT_EQ(setting.blocks.size(), 1U);
    EXPECT_EQ(plain_text(setting.blocks[0]), "the grafts on row three have taken well this spring and leaf\nOrder wax");
    EXPECT_EQ(setting.ink.size(), 14U);
    EXPECT_EQ(setting.blocks[0].ink.size(), 14U);
}

TEST_F(SetInType, StandsWhereTheInkStood) {
    write(20, 20, {"the", "grafts", "on", "row", "three", "have"});
    write(20, 29, {"taken", "well", "this", "spring", "and"});
    write(20, 38, {"leaf"});
    write(20, 47, {"Order", "wax"});
    const TextBlock block = all().blocks.at(0);
    EXPECT_EQ(block.at.x, 20);
    EXPECT_NEAR(block.at.y + block.pitch_mm / 2, 23, 0.01) << "the first line is level with its ink";
    EXPECT_NEAR(block.pitch_mm, 9, 0.01);
    // The second paragraph begins level with its own ink, though the first needs fewer lines in type.
    const double width = block.width_mm;
    double x = 0;
    int lines = 1;
    for (const std::string word :
         {"the", "grafts", "on", "row", "three", "have", "taken", "well", "this", "spring", "and", "leaf"}) {
        const double wide = measure(word + ' ', block.paragraphs[0].runs[0].style);
        if (x > 0 && x + wide > width) x = 0, ++lines;
        x += wide;
    }
    const double second = block.at.y + lines * block.pitch_mm + block.paragraphs[1].before_mm + block.pitch_mm / 2;
    EXPECT_NEAR(second, 50, 0.01);
}

TEST_F(SetInType, KeepsBulletsNumbersIndentsAndHeadings) {
    write(20, 12, {"Tools"}, 0, 12);
    write(20, 30, {"-", "saw", "and", "file"});
    write(20, 39, {"-", "wax"});
    write(32, 48, {"1.", "warm", "it"});
    write(20, 57, {"done", "by", "noon", "they", "said"});
    const auto paragraphs = all().blocks.at(0).paragraphs;
    ASSERT_EQ(paragraphs.size(), 5U);
    EXPECT_EQ(paragraphs[0].heading, 1);
    EXPECT_TRUE(paragraphs[0].runs[0].style.bold);
    EXPECT_EQ(paragraphs[1].list, ListKind::bullet);
    EXPECT_EQ(paragraphs[1].runs[0].text, "saw and file");
    EXPECT_EQ(paragraphs[2].list, ListKind::bullet);
    EXPECT_EQ(paragraphs[3].list, ListKind::number);
    EXPECT_NEAR(paragraphs[3].indent_mm, 12, 0.01);
    EXPECT_EQ(paragraphs[4].list, ListKind::none);
}

TEST_F(SetInType, KeepsColoursAndHighlights) {
    write(20, 20, {"call"}, 0);
    write(40, 20, {"Mirela"}, 0, 6, 0x8A3B6B);
    reading_.lines[0].words.push_back(reading_.lines[1].words[0]);
    reading_.lines[0].box.include(reading_.lines[1].box);
    reading_.lines.pop_back();
    Stroke band;
    band.id = ++id_;
    band.pen = {0xEBCB6B, 4, PenKind::highlighter, Tip::chisel, 0.5F, false};
    band.points = {{{40, 23}}, {{60, 23}}};
    page_.strokes.push_back(band);
    const TypesettingResult setting = all();
    const auto& runs = setting.blocks.at(0).paragraphs.at(0).runs;
    ASSERT_EQ(runs.size(), 2U);
    EXPECT_EQ(runs[0].text, "call ");
    EXPECT_FALSE(runs[0].style.highlight);
    EXPECT_EQ(runs[1].style.colour, 0x8A3B6BU);
    EXPECT_EQ(runs[1].style.highlight, std::optional(0xEBCB6BU));
    EXPECT_EQ(setting.ink.size(), 3U) << "the band goes with the words";
}

TEST_F(SetInType, WordsOfLowCertaintyKeepTheirMark) {
    write(20, 20, {"the", "grafts", "on"});
    reading_.lines[0].words[1].certainty = 0.3;
    reading_.lines[0].words[2].certainty = 0.3;
    reading_.lines[0].words[2].corrected = true;
    TextBlock block = all().blocks.at(0);
    const auto styles = word_styles(block);
    ASSERT_EQ(styles.size(), 3U);
    EXPECT_FALSE(styles[0]->unsure);
    EXPECT_TRUE(styles[1]->unsure);
    EXPECT_FALSE(styles[2]->unsure) << "a person said so";
    for (const char* word : {"the", "grafts", "on"}) block.words.push_back({word, Box::of(20, 20, 10, 6), 0});
    Reading typed;
    add_typed(typed, {{}, {}, {block}});
    EXPECT_LT(typed.lines[0].words[1].certainty, kSureEnough);
    EXPECT_EQ(typed.lines[0].words[0].certainty, 1);
}

TEST_F(SetInType, LinesAndWavesUnderInkAreItalicAndBold) {
    const auto underline = [&](double left, double right, double wave) {
        Stroke s;
        s.id = ++id_;
        for (double x = left; x <= right; x += 0.5) s.points.push_back({{x, 27 + wave * std::sin(2 * x)}});
        page_.strokes.push_back(s);
    };
    write(20, 20, {"the", "grafts", "under"});  // 20-30.5, 34.5-55.5, 59.5-77
    reading_.lines[0].words[1].italic = true;
    reading_.lines[0].words[2].bold = true;
    underline(34.5, 55.5, 0);
    underline(59, 77, 0.4);
    const TypesettingResult setting = all();
    const auto styles = word_styles(setting.blocks.at(0));
    EXPECT_FALSE(styles[0]->italic || styles[0]->bold);
    EXPECT_TRUE(styles[1]->italic);
    EXPECT_TRUE(styles[2]->bold);
    EXPECT_EQ(setting.ink.size(), 5U) << "the lines go with their words";
}

TEST_F(SetInType, ARingedLetterMakesAHeadingAndGoesWithItsLine) {
    write(30, 20, {"the", "grafts"});
    write(30, 29, {"on", "row", "three"});
    reading_.lines[0].heading = 2;
    Stroke letter, ring;
    letter.id = ++id_;
    letter.points = {{{20, 25}}, {{21.5, 20}}, {{23, 25}}};
    ring.id = ++id_;
    for (int i = 0; i <= 40; ++i) ring.points.push_back({{21.5 + 4 * std::cos(i / 6.3), 22.5 + 4 * std::sin(i / 6.3)}});
    page_.strokes.push_back(letter);
    page_.strokes.push_back(ring);
    const TypesettingResult setting = all();
    ASSERT_EQ(setting.blocks.size(), 1U);
    EXPECT_EQ(setting.blocks[0].paragraphs.at(0).heading, 2);
    EXPECT_TRUE(setting.blocks[0].paragraphs[0].runs[0].style.bold);
    EXPECT_EQ(setting.blocks[0].paragraphs.at(1).heading, 0);
    EXPECT_EQ(setting.ink.size(), 7U);
}

TEST_F(SetInType, SetsPartOfALineByItselfAndLeavesTheRest) {
    write(20, 20, {"frost", "at", "dawn"});
    const std::set<StrokeId> chosen = {2};
    const TypesettingResult setting = set_in_type(page_, reading_, &chosen, measure);
    ASSERT_EQ(setting.blocks.size(), 1U);
    EXPECT_EQ(plain_text(setting.blocks[0]), "at");
    EXPECT_EQ(setting.ink.size(), 1U);
    EXPECT_NEAR(setting.blocks[0].at.x, reading_.lines[0].words[1].box.left, 0.01);
}

TEST_F(SetInType, ReadsADrawnBoxAsSomethingToTickOff) {
    ReadLine line;
    Stroke box;
    box.id = ++id_;
    for (const Point p : {Point{20, 20}, Point{25, 20}, Point{25, 25}, Point{20, 25}, Point{20, 20}})
        box.points.push_back({p});
    line.words.push_back({"D", 0.3, Box::of(20, 20, 5, 5), {box.id}, {}, false});
    page_.strokes.push_back(box);
    line.box.include(line.words[0].box);
    reading_.lines.push_back(line);
    write(30, 19, {"order", "wax"});
    auto& words = reading_.lines[0].words;
    words.insert(words.end(), reading_.lines[1].words.begin(), reading_.lines[1].words.end());
    reading_.lines[0].box.include(reading_.lines[1].box);
    reading_.lines.pop_back();
    EXPECT_EQ(plain_text(all().blocks.at(0)), "☐ order wax");
}

TEST_F(SetInType, LeavesDrawingsAndSaysNothingOfAnEmptyPage) {
    EXPECT_TRUE(all().blocks.empty());
    write(20, 20, {"tangle"});
    reading_.lines[0].kind = RegionKind::drawing;
    EXPECT_TRUE(all().blocks.empty());
    EXPECT_TRUE(all().ink.empty());
}

TEST_F(SetInType, MakesTypeSmallerWhereItWouldNotFit) {
    write(20, 20, {"breit"});
    Box& box = reading_.lines[0].words[0].box;
    box.right = box.left + 8;  // narrow writing
    reading_.lines[0].box = box;
    const TextBlock block = all().blocks.at(0);
    EXPECT_LT(block.paragraphs[0].runs[0].style.size_mm, 4);
    EXPECT_LE(measure("breit", block.paragraphs[0].runs[0].style), block.width_mm);
}

}  // namespace
}  // namespace fernleaf
