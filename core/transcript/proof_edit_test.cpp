#include "transcript/proof_edit.h"

#include <gtest/gtest.h>

#include "transcript/proof_page.h"

namespace fernleaf {
namespace {

class ProofEdits : public testing::Test {
protected:
    // Makes the edit, and the page so.
    std::optional<Edit> make(ProofMark mark, int line, int first, int last, Point at = {}) {
        const Stroke stroke = on_.mark({{1, 1}, {2, 2}});
        Proof proof{mark, line, first, last, line + 1, at, 1, {}, 0};
        return make(proof, stroke);
    }
    std::optional<Edit> make(const Proof& proof, const Stroke& stroke) {
        const TypeMeans means{[this] { return ++on_.id; }, [](TextBlock& b) { b.height_mm = 8; },
                              [](const std::string& text, const TextStyle&) { return double(text.size()); }};
        before_ = on_.page;
        auto edit = edit_for_proof_mark(on_.page, on_.reading, proof, stroke, means);
        if (edit) {
            apply(on_.page, *edit);
            Page back = on_.page;
            apply(back, edit->reversed());
            EXPECT_EQ(static_cast<Elements&>(back), static_cast<Elements&>(before_)) << "one undo brings all back";
            EXPECT_EQ(std::ranges::count(on_.page.strokes, stroke.id, &Stroke::id), 0) << "the mark is gone";
        }
        return edit;
    }
    Box box(size_t stroke) const { return on_.page.strokes.at(stroke).box(); }
    std::string text() const { return plain_text(on_.page.texts.at(0)); }

    ProofPage on_;
    Page before_;
};

TEST_F(ProofEdits, StruckInkIsGone) {
    on_.write({20, 40}, {"frost", "at", "dawn"});
    const auto edit = make(ProofMark::strike_out, 0, 0, 1);
    ASSERT_TRUE(edit);
    EXPECT_EQ(edit->label, "Strike out");
    EXPECT_EQ(on_.page.strokes.size(), 4U);
}

TEST_F(ProofEdits, InsertingMovesTheRestOfTheLine) {
    on_.write({20, 40}, {"frost", "at", "dawn"});
    const double before = on_.word(0, 1).box.left;
    ASSERT_TRUE(make(ProofMark::insert, 0, 0, 1, {32, 38}));
    const auto moved = std::ranges::max_element(on_.page.strokes, {}, [](const Stroke& s) { return s.box().right; });
    EXPECT_GT(moved->box().right, on_.word(0, 2).box.right + 2);
    EXPECT_EQ(std::ranges::count_if(on_.page.strokes, [&](const Stroke& s) { return s.box().right < before; }), 5);
    // A line that reaches the edge has no room.
    on_.write({124, 80}, {"full", "line"});
    EXPECT_FALSE(make(ProofMark::insert, 1, 0, 1, {134, 78}));
}

TEST_F(ProofEdits, ASeparatedWordIsTwo) {
    on_.write({20, 40}, {"todie", "for"});
    ASSERT_TRUE(make(ProofMark::separate, 0, 0, 0, {23.8, 38}));
    EXPECT_LT(box(1).right, 23.9);
    std::vector<double> lefts;
    for (const Stroke& s : on_.page.strokes) lefts.push_back(s.box().left);
    std::ranges::sort(lefts);
    EXPECT_GT(lefts[2] - lefts[1], 2.5) << "the second letter and the third stand apart";
    EXPECT_NEAR(lefts[3] - lefts[2], 2, 1e-6) << "the rest keeps together";
}

TEST_F(ProofEdits, SeparatingCutsJoinedLetters) {
    on_.reading.lines.push_back({});
    Stroke joined = on_.mark({{20, 40}, {22, 37}, {24, 40}, {26, 37}, {28, 40}});
    ReadWord word{"nn", 0.9, joined.box(), {joined.id}, {}, false};
    on_.reading.lines[0].box = word.box;
    on_.reading.lines[0].words.push_back(word);
    ASSERT_TRUE(make(ProofMark::separate, 0, 0, 0, {24, 38.5}));
    ASSERT_EQ(on_.page.strokes.size(), 2U);
    EXPECT_GT(box(1).left - box(0).right, 0.8);
}

TEST_F(ProofEdits, ClosingUpBringsTheRestOfTheLineBack) {
    on_.write({20, 40}, {"bee", "hive", "stands"});
    const double gap = on_.word(0, 1).box.left - on_.word(0, 0).box.right;
    const double end = on_.word(0, 2).box.right;
    ASSERT_TRUE(make(ProofMark::close_up, 0, 0, 1, {27.8, 38}));
    double right = 0;
    for (const Stroke& s : on_.page.strokes) right = std::max(right, s.box().right);
    EXPECT_NEAR(end - right, gap, 0.4);
    EXPECT_LT(end - right, gap);
}

TEST_F(ProofEdits, RunningOnTakesTheWordsThatFit) {
    on_.write({20, 40}, {"frost"});
    on_.write({20, 60}, {"at", "dawn"});
    ASSERT_TRUE(make(ProofMark::run_on, 0, 0, 0));
    for (const Stroke& s : on_.page.strokes) EXPECT_NEAR(s.box().bottom, 40, 1) << "all in one line";
    on_.write({130, 100}, {"full"});
    on_.write({20, 120}, {"overflowing"});
    EXPECT_FALSE(make(ProofMark::run_on, 2, 0, 0));
}

TEST_F(ProofEdits, AParagraphOfInkBeginsALineOfItsOwn) {
    on_.write({20, 40}, {"frost", "at", "dawn"});
    on_.write({20, 60}, {"next"});
    ASSERT_TRUE(make(ProofMark::paragraph, 0, 1, 1));
    std::vector<double> feet;
    for (const Stroke& s : on_.page.strokes) feet.push_back(s.box().bottom);
    EXPECT_EQ(std::ranges::count(feet, 40), 5) << "the first word stays";
    EXPECT_EQ(std::ranges::count(feet, 48), 6) << "the rest stands on the next rule";
    EXPECT_EQ(std::ranges::count(feet, 68), 4) << "what followed makes room";
    for (const Stroke& s : on_.page.strokes) EXPECT_GE(s.box().left, 20);
}

TEST_F(ProofEdits, OnTypeTheTextIsChanged) {
    on_.type({20, 40}, {"frost alarm at dawn", "ring the bell"});
    ASSERT_TRUE(make(ProofMark::strike_out, 0, 1, 2));
    EXPECT_EQ(text(), "frost dawn\nring the bell");
}

TEST_F(ProofEdits, TypeIsSeparatedJoinedDividedAndRunOn) {
    on_.type({20, 40}, {"frostalarm at dawn", "ring the bell"});
    auto edit = make(ProofMark::separate, 0, 0, 0, {20 + 10.2, 42});
    ASSERT_TRUE(edit);
    EXPECT_EQ(text(), "frost alarm at dawn\nring the bell");
    on_ = {};
    on_.type({20, 40}, {"frost alarm at dawn", "ring the bell"});
    ASSERT_TRUE(make(ProofMark::close_up, 0, 0, 1));
    EXPECT_EQ(text(), "frostalarm at dawn\nring the bell");
    on_ = {};
    on_.type({20, 40}, {"frost alarm at dawn", "ring the bell"});
    ASSERT_TRUE(make(ProofMark::paragraph, 0, 2, 2));
    EXPECT_EQ(text(), "frost alarm\nat dawn\nring the bell");
    on_ = {};
    on_.type({20, 40}, {"frost alarm at dawn", "ring the bell"});
    EXPECT_FALSE(make(ProofMark::paragraph, 0, 0, 0)) << "one begins there";
    ASSERT_TRUE(make(ProofMark::run_on, 0, 3, 3));
    EXPECT_EQ(text(), "frost alarm at dawn ring the bell");
}

TEST_F(ProofEdits, TypeIsStyled) {
    on_.type({20, 40}, {"frost alarm at dawn"});
    ASSERT_TRUE(make(ProofMark::italic, 0, 1, 2));
    EXPECT_FALSE(word_styles(on_.page.texts[0])[0]->italic);
    EXPECT_TRUE(word_styles(on_.page.texts[0])[1]->italic);
    EXPECT_TRUE(word_styles(on_.page.texts[0])[2]->italic);
}

TEST_F(ProofEdits, ARingedLetterGoesWithItsRingAndLeavesAHeading) {
    on_.type({20, 40}, {"Frost alarm"});
    on_.write({8, 43}, {"a"});
    const Stroke ring = on_.mark({{5, 40}, {12, 40}, {12, 44}, {5, 44}, {5, 40}});
    ASSERT_TRUE(make({ProofMark::heading, 0, 0, 0, 0, {}, 1, {}, on_.word(1, 0).strokes[0]}, ring));
    EXPECT_TRUE(on_.page.strokes.empty());
    EXPECT_EQ(on_.page.texts[0].paragraphs[0].heading, 1);
}

TEST_F(ProofEdits, ABlockWithNothingLeftGoes) {
    on_.type({20, 40}, {"frost"});
    ASSERT_TRUE(make(ProofMark::strike_out, 0, 0, 0));
    EXPECT_TRUE(on_.page.texts.empty());
}

}  // namespace
}  // namespace fernleaf
