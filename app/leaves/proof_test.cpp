// Editing by pen with proof marks, in the real window.
#include <QCheckBox>
#include <cmath>

#include "document/text/rewording.h"
#include "window/proof_sheet.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class Proofs : public Window {
protected:
    const Page& page() { return *session_->page(); }
    std::string typed() { return page().texts.empty() ? "" : plain_text(page().texts[0]); }
    Box word(size_t n) { return page().texts[0].words.at(n).box; }
    void mark(const std::vector<Point>& path) {
        take(Tool::pen);
        mouse_stroke(path);
        session_->wait_idle();
    }
    void undo() {
        session_->editing().undo();
        session_->wait_idle();
    }
    // A line through a typed word.
    void strike(size_t n) {
        const Box b = word(n);
        const double y = b.top + 0.6 * b.height();
        mark({{b.left - 0.5, y}, {b.right + 0.5, y}});
    }
    QString notice() {
        for (auto* label : window_->findChildren<QLabel*>())
            if (label->parent()->objectName() == "noticeBar") return label->text();
        return {};
    }
};

TEST_F(Proofs, AStruckWordIsGoneAndUndoBringsTheMarkBackAsInk) {
    start_with_page();
    write_text(30, 60, "late frost at dawn");
    strike(1);
    EXPECT_EQ(typed(), "late at dawn");
    EXPECT_TRUE(page().strokes.empty());
    EXPECT_EQ(session_->document().undo_state().undo, "Strike out");
    EXPECT_EQ(notice(), "Struck out.");
    undo();
    EXPECT_EQ(typed(), "late frost at dawn");
    EXPECT_EQ(page().strokes.size(), 1U) << "the mark, as ink";
    undo();
    EXPECT_TRUE(page().strokes.empty());
}

TEST_F(Proofs, TheNoticeTakesBackOnlyWhatItSpeaksOf) {
    start_with_page();
    write_text(30, 60, "late frost at dawn");
    std::function<void()> back;
    QObject::connect(&session_->messages(), &Messages::undoable, session_.get(),
                     [&](const QString&, const std::function<void()>& take_back) { back = take_back; });
    strike(1);
    ASSERT_TRUE(back);
    back();
    session_->wait_idle();
    EXPECT_EQ(typed(), "late frost at dawn");
    back();
    session_->wait_idle();
    EXPECT_EQ(page().strokes.size(), 1U) << "it was taken back before";
}

TEST_F(Proofs, AWaveSetsInBoldAndALineInItalic) {
    start_with_page();
    write_text(30, 60, "late frost at dawn");
    const Box b = word(1);
    std::vector<Point> wave;
    for (double x = b.left; x <= b.right; x += 0.4) wave.push_back({x, b.bottom + 0.6 * std::sin(2.5 * x)});
    mark(wave);
    mark({{word(3).left, word(3).bottom + 0.3}, {word(3).right, word(3).bottom + 0.3}});
    const auto styles = word_styles(page().texts[0]);
    ASSERT_EQ(styles.size(), 4U);
    for (size_t n = 0; n < 4; ++n) {
        EXPECT_EQ(styles[n]->bold, n == 1) << n;
        EXPECT_EQ(styles[n]->italic, n == 3) << n;
    }
    EXPECT_TRUE(page().strokes.empty());
}

TEST_F(Proofs, ACaretInTypeIsWhereOneGoesOnTyping) {
    start_with_page();
    write_text(30, 60, "late at dawn");
    const double x = (word(0).right + word(1).left) / 2, foot = word(0).top + 0.8 * word(0).height();
    mark({{x - 1.2, foot + 3}, {x, foot}, {x + 1.2, foot + 3}});
    ASSERT_TRUE(ink()->editor()->is_open());
    QTest::keyClicks(ink()->editor()->viewport(), " frost");
    QTest::keyClick(ink()->editor(), Qt::Key_Escape);
    session_->wait_idle();
    EXPECT_EQ(QString::fromStdString(typed()).simplified(), "late frost at dawn");
    EXPECT_TRUE(page().strokes.empty());
}

TEST_F(Proofs, OnInkAStruckWordGoesWithItsStrokes) {
    start_with_page();
    write_hill(30, 60);
    write_hill(70, 60);
    session_->wait_idle();
    ASSERT_EQ(page().strokes.size(), 12U);
    mark({{29, 57.2}, {48.5, 57}});
    ASSERT_EQ(page().strokes.size(), 6U);
    for (const Stroke& s : page().strokes) EXPECT_GT(s.box().left, 60);
    undo();
    EXPECT_EQ(page().strokes.size(), 13U);
}

TEST_F(Proofs, UnderlinedInkIsEmphasisOnTheTextLeafAndInType) {
    start_with_page();
    write_hill(30, 60);
    write_hill(70, 60);
    mark({{30, 61.5}, {47, 61.6}});
    ASSERT_EQ(session_->reading().lines.size(), 1U);
    const auto& words = session_->reading().lines[0].words;
    ASSERT_EQ(words.size(), 2U) << session_->reading().lines[0].text();
    EXPECT_TRUE(words[0].italic);
    EXPECT_FALSE(words[1].italic);
    session_->typesetting().set_in_type({});
    session_->wait_idle();
    ASSERT_EQ(page().texts.size(), 1U);
    EXPECT_TRUE(word_styles(page().texts[0])[0]->italic);
    EXPECT_FALSE(word_styles(page().texts[0])[1]->italic);
    EXPECT_TRUE(page().strokes.empty()) << "the line is part of what was set";
    session_->typesetting().back_to_ink({});
    session_->wait_idle();
    EXPECT_EQ(page().strokes.size(), 13U);
}

TEST_F(Proofs, OnlyMarksThatAreTickedAct) {
    start_with_page();
    write_text(30, 60, "late frost at dawn");
    QTest::keyClick(window_.get(), Qt::Key_F1);
    auto* sheet = window_->findChild<ProofSheet*>();
    ASSERT_TRUE(sheet);
    for (auto* box : sheet->findChildren<QCheckBox*>())
        if (box->text() == "Strike out") box->click();
    sheet->accept();
    strike(1);
    EXPECT_EQ(typed(), "late frost at dawn");
    EXPECT_EQ(page().strokes.size(), 1U);
    reopen();
    const ProofMarks marks = window_->spread()->tray()->tools().proof_marks;
    EXPECT_FALSE(marks.test(static_cast<size_t>(ProofMark::strike_out)));
    EXPECT_TRUE(marks.test(static_cast<size_t>(ProofMark::bold)));
}

TEST_F(Proofs, NoneActWhileGesturesAreOff) {
    start_with_page();
    write_text(30, 60, "late frost at dawn");
    Tools tools = window_->spread()->tray()->tools();
    tools.gestures = false;
    window_->spread()->tray()->set_tools(tools);
    strike(1);
    EXPECT_EQ(typed(), "late frost at dawn");
}

}  // namespace
}  // namespace fernleaf
