#include "transcript/proof_mark.h"

#include <gtest/gtest.h>

#include <cmath>

#include "transcript/proof_page.h"

namespace fernleaf {
namespace {

class Marked : public testing::Test {
protected:
    std::optional<Proof> drawn(const std::vector<Point>& corners, ProofMarks wanted = all_proof_marks()) {
        const Stroke s = on_.mark(corners);
        return proof_mark(s, on_.page, on_.reading, wanted);
    }

    ProofPage on_;
};

class ProofMarksOnInk : public Marked {
protected:
    ProofMarksOnInk() {
        on_.write({20, 40}, {"frost", "alarm", "at", "dawn"});  // 20-30, 34-44, 48-52, 56-64
        on_.write({20, 60}, {"ring", "the", "bell"});
    }
    static std::vector<Point> bow(double left, double right, double y, double sagitta) {
        std::vector<Point> points;
        for (int i = 0; i <= 20; ++i)
            points.push_back({left + (right - left) * i / 20.0, y - 4 * sagitta * i / 20.0 * (1 - i / 20.0)});
        return points;
    }
};

TEST_F(ProofMarksOnInk, ALineThroughWordsStrikesThemOut) {
    const auto proof = drawn({{33, 38.6}, {53, 38.4}});
    ASSERT_TRUE(proof);
    EXPECT_EQ(proof->mark, ProofMark::strike_out);
    EXPECT_EQ(proof->line, 0);
    EXPECT_EQ(proof->first, 1);
    EXPECT_EQ(proof->last, 2);
}

TEST_F(ProofMarksOnInk, ALineThroughHalfAWordOrPastItIsInk) {
    EXPECT_FALSE(drawn({{33, 38.6}, {50.1, 38.6}})) << "half of the second word";
    EXPECT_FALSE(drawn({{2, 38.6}, {31, 38.6}})) << "it comes from far";
    EXPECT_FALSE(drawn({{35, 38.6}, {38, 38.6}})) << "a bar across a letter";
    EXPECT_FALSE(drawn({{20, 48}, {60, 48}})) << "between the lines";
}

TEST_F(ProofMarksOnInk, ALineUnderInkIsEmphasisAndNoMark) { EXPECT_FALSE(drawn({{33, 41}, {46, 41}})); }

TEST_F(ProofMarksOnInk, ACaretInAGapInserts) {
    const auto proof = drawn({{30.5, 43}, {32, 39.5}, {33.5, 43}});
    ASSERT_TRUE(proof);
    EXPECT_EQ(proof->mark, ProofMark::insert);
    EXPECT_EQ(proof->first, 0);
    EXPECT_EQ(proof->last, 1);
    EXPECT_FALSE(drawn({{65, 43}, {66.5, 39.5}, {68, 43}})) << "behind the line one just writes on";
    EXPECT_FALSE(drawn({{30.5, 40}, {32, 36.5}, {33.5, 40}})) << "on the line it is a letter";
}

TEST_F(ProofMarksOnInk, AGapWithInkInItIsNone) {
    ASSERT_TRUE(drawn(bow(28.5, 35, 36.5, 1.5)));
    on_.page.strokes.push_back(on_.mark({{31, 37}, {33, 39}}));  // a dash between the words, say
    on_.page.strokes.back().id = 9000;
    EXPECT_FALSE(drawn(bow(28.5, 35, 36.5, 1.5)));
}

TEST_F(ProofMarksOnInk, WhereTextWasWrittenOverAnotherNothingIsMeant) {
    on_.write({20.5, 40.4}, {"later", "words", "on", "them"});
    EXPECT_FALSE(drawn(bow(28.5, 35, 36.5, 1.5)));
    EXPECT_FALSE(drawn({{33, 38.6}, {53, 38.4}}));
    EXPECT_FALSE(drawn({{39, 34.5}, {39.2, 42}}));
    EXPECT_FALSE(drawn({{30.5, 43}, {32, 39.5}, {33.5, 43}}));
    // Elsewhere on the page marks are marks.
    EXPECT_TRUE(drawn({{19, 58.6}, {29, 58.4}}));
}

TEST_F(ProofMarksOnInk, AnUprightThroughAWordSeparates) {
    const auto proof = drawn({{39, 34.5}, {39.2, 42}});
    ASSERT_TRUE(proof);
    EXPECT_EQ(proof->mark, ProofMark::separate);
    EXPECT_EQ(proof->first, 1);
    EXPECT_NEAR(proof->at.x, 39.1, 0.2);
    EXPECT_FALSE(drawn({{32, 34.5}, {32, 42}})) << "in a gap";
    EXPECT_FALSE(drawn({{39, 37}, {39, 40}})) << "a letter's height";
}

TEST_F(ProofMarksOnInk, ABowOverOrUnderAGapClosesUp) {
    for (const bool over : {true, false}) {
        const auto proof = drawn(over ? bow(28.5, 35, 36.5, 1.5) : bow(28.5, 35, 40.5, -1.5));
        ASSERT_TRUE(proof);
        EXPECT_EQ(proof->mark, ProofMark::close_up);
        EXPECT_EQ(proof->first, 0);
        EXPECT_EQ(proof->last, 1);
    }
    EXPECT_FALSE(drawn(bow(36, 42, 36.5, 1.5))) << "over a word";
}

TEST_F(ProofMarksOnInk, ACornerBeforeAWordBeginsAParagraph) {
    const auto proof = drawn({{46, 41.5}, {46, 35.5}, {51, 35.5}});
    ASSERT_TRUE(proof);
    EXPECT_EQ(proof->mark, ProofMark::paragraph);
    EXPECT_EQ(proof->first, 2);
    EXPECT_FALSE(drawn({{70, 41.5}, {70, 35.5}, {75, 35.5}})) << "over nothing";
}

TEST_F(ProofMarksOnInk, ALineFromEndToBeginningRunsOn) {
    const auto proof = drawn({{65, 39}, {70, 44}, {60, 49}, {25, 51}, {16, 54}, {18, 58.5}});
    ASSERT_TRUE(proof);
    EXPECT_EQ(proof->mark, ProofMark::run_on);
    EXPECT_EQ(proof->line, 0);
    EXPECT_EQ(proof->next_line, 1);
    EXPECT_FALSE(drawn({{65, 39}, {70, 44}, {60, 49}, {45, 50}})) << "it ends nowhere";
}

TEST_F(ProofMarksOnInk, EachMarkCanBeTurnedOff) {
    ProofMarks wanted = all_proof_marks();
    wanted.reset(static_cast<size_t>(ProofMark::strike_out));
    EXPECT_FALSE(drawn({{33, 38.6}, {53, 38.4}}, wanted));
    EXPECT_TRUE(drawn({{39, 34.5}, {39.2, 42}}, wanted));
    EXPECT_FALSE(drawn({{39, 34.5}, {39.2, 42}}, {}));
}

TEST_F(ProofMarksOnInk, AHighlighterMarksNothing) {
    Stroke s = on_.mark({{33, 38.6}, {53, 38.4}});
    s.pen.kind = PenKind::highlighter;
    EXPECT_FALSE(proof_mark(s, on_.page, on_.reading, all_proof_marks()));
}

class ProofMarksOnType : public Marked {
protected:
    ProofMarksOnType() { on_.type({20, 40}, {"frost alarm at dawn", "ring the bell"}); }
};

TEST_F(ProofMarksOnType, LinesUnderWordsAreItalicAndWavesBold) {
    const auto italic = drawn({{32, 44.5}, {42, 44.6}});
    ASSERT_TRUE(italic);
    EXPECT_EQ(italic->mark, ProofMark::italic);
    EXPECT_EQ(italic->first, 1);
    EXPECT_EQ(italic->last, 1);
    std::vector<Point> wave;
    for (double x = 32; x <= 46; x += 0.25) wave.push_back({x, 44.8 + 0.4 * std::sin(3 * x)});
    const auto bold = drawn(wave);
    ASSERT_TRUE(bold);
    EXPECT_EQ(bold->mark, ProofMark::bold);
    EXPECT_EQ(bold->last, 2);
}

TEST_F(ProofMarksOnType, AreTheSameAsOnInk) {
    EXPECT_EQ(drawn({{32, 42.8}, {42, 42.9}})->mark, ProofMark::strike_out);
    EXPECT_EQ(drawn({{42, 46}, {43, 43.4}, {44, 46}})->mark, ProofMark::insert);
    EXPECT_EQ(drawn({{36, 39}, {36, 46}})->mark, ProofMark::separate);
    EXPECT_EQ(drawn({{49, 45}, {49, 40}, {54, 40}})->mark, ProofMark::paragraph);
    EXPECT_EQ(drawn({{60, 42}, {64, 45}, {40, 46}, {17, 48}, {18, 51}})->mark, ProofMark::run_on);
}

TEST_F(ProofMarksOnType, ARingedLetterBesideALineMakesItAHeading) {
    std::vector<Point> ring;
    for (int i = 0; i <= 40; ++i) ring.push_back({9 + 4 * std::cos(i / 6.3), 42 + 4 * std::sin(i / 6.3)});
    EXPECT_FALSE(drawn(ring)) << "around nothing";
    on_.write({8, 43}, {"b"});
    const auto proof = drawn(ring);
    ASSERT_TRUE(proof);
    EXPECT_EQ(proof->mark, ProofMark::heading);
    EXPECT_EQ(proof->level, 2);
    EXPECT_NE(on_.word(static_cast<size_t>(proof->line), static_cast<size_t>(proof->first)).block, 0);
}

}  // namespace
}  // namespace fernleaf
