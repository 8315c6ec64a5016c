// What a person says of a reading, taken back and said again.
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class Corrections : public Window {
protected:
    void SetUp() override {
        Window::SetUp();
        start_with_page();
        write_hill(30, 60);
        write_hill(70, 60);
        session_->wait_idle();
        before_ = said();
    }
    std::string said() {
        std::string out;
        for (const ReadLine& line : session_->reading().lines)
            for (const ReadWord& word : line.words) out += (out.empty() ? "" : " ") + word.text;
        return out;
    }
    void undo() {
        session_->editing().undo();
        session_->wait_idle();
    }
    std::string before_;
};

TEST_F(Corrections, AreTakenBackAndMadeAgain) {
    session_->correcting().correct({0, 0}, "Hallow");
    EXPECT_TRUE(said().starts_with("Hallow")) << "at once";
    EXPECT_EQ(session_->document().undo_state().undo, "Correct");
    session_->correcting().correct({0, 0}, "Hello");
    session_->wait_idle();
    undo();
    EXPECT_TRUE(said().starts_with("Hallow"));
    undo();
    EXPECT_EQ(said(), before_);
    EXPECT_FALSE(session_->reading().lines[0].words[0].corrected);
    session_->editing().redo();
    session_->wait_idle();
    EXPECT_TRUE(said().starts_with("Hallow"));
    reopen();
    EXPECT_TRUE(said().starts_with("Hallow"));
    undo();
    EXPECT_EQ(said(), before_) << "also after reopening";
}

TEST_F(Corrections, AreTakenBackWhileAReadingIsUnderWay) {
    session_->correcting().correct({0, 0}, "Hallow");
    mouse_stroke({{30, 90}, {40, 90}});  // begins one
    session_->editing().undo();
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(said(), before_);
}

TEST_F(Corrections, JoinedWordsComeApartAgain) {
    ASSERT_TRUE(session_->correcting().can_join({0, 0}));
    session_->correcting().join_with_next({0, 0});
    EXPECT_EQ(said().find(' '), std::string::npos);
    session_->wait_idle();
    EXPECT_EQ(session_->document().undo_state().undo, "Join words");
    undo();
    EXPECT_EQ(said(), before_);
}

TEST_F(Corrections, LinesArePartedAndJoinedAgain) {
    const auto lines = [this] { return session_->reading().lines.size(); };
    ASSERT_EQ(lines(), 1U);
    std::vector<StrokeId> second, all;
    for (const Stroke& s : session_->page()->strokes) {
        all.push_back(s.id);
        if (s.box().left > 60) second.push_back(s.id);
    }
    session_->correcting().say_kind(second, InkClass::one_line);
    session_->wait_idle();
    EXPECT_EQ(lines(), 2U);
    EXPECT_EQ(session_->document().undo_state().undo, "This is one line");
    session_->correcting().say_kind(all, InkClass::one_line);
    session_->wait_idle();
    EXPECT_EQ(lines(), 1U);
    EXPECT_EQ(said(), before_);
    undo();
    EXPECT_EQ(lines(), 2U);
}

TEST_F(Corrections, WhatWasCalledADrawingIsReadAgain) {
    std::vector<StrokeId> ink;
    for (const Stroke& s : session_->page()->strokes) ink.push_back(s.id);
    session_->correcting().say_kind(ink, InkClass::drawing);
    session_->wait_idle();
    EXPECT_EQ(said(), "");
    undo();
    EXPECT_EQ(said(), before_);
}

TEST_F(Corrections, WhatWasCalledMathIsKeptApartAsMathUntilUndone) {
    std::vector<StrokeId> ink;
    for (const Stroke& s : session_->page()->strokes) ink.push_back(s.id);
    session_->correcting().say_kind(ink, InkClass::math);
    session_->wait_idle();
    ASSERT_EQ(session_->reading().lines.size(), 1U);
    EXPECT_EQ(session_->reading().lines[0].kind, RegionKind::math);
    EXPECT_EQ(session_->document().undo_state().undo, "This is math");
    undo();
    EXPECT_EQ(said(), before_);
}

TEST_F(Corrections, AFormulaTypedForInkIsWorkedOutAndLasts) {
    std::vector<StrokeId> ink;
    for (const Stroke& s : session_->page()->strokes) ink.push_back(s.id);
    session_->correcting().say_kind(ink, InkClass::math);
    session_->wait_idle();
    ASSERT_EQ(session_->reading().lines.size(), 1U);
    ASSERT_EQ(session_->reading().lines[0].words.size(), 1U) << "it is read as a formula";
    EXPECT_FALSE(session_->reading().lines[0].signs.empty());
    EXPECT_FALSE(session_->correcting().can_split({0, 0}));
    session_->correcting().correct({0, 0}, "12+21=");
    session_->wait_idle();
    const auto expect_sum = [&] {
        ASSERT_EQ(session_->reading().lines.size(), 1U);
        const ReadLine& line = session_->reading().lines[0];
        EXPECT_EQ(line.kind, RegionKind::math);
        EXPECT_EQ(line.words[0].text, "12+21=");
        EXPECT_TRUE(line.words[0].corrected);
        EXPECT_EQ(line.result, "33");
    };
    expect_sum();
    reopen();
    session_->wait_idle();
    expect_sum();
    undo();
    EXPECT_NE(session_->reading().lines[0].words[0].text, "12+21=");
    EXPECT_EQ(session_->reading().lines[0].kind, RegionKind::math);
}

}  // namespace
}  // namespace fernleaf
