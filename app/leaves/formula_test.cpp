// Formulas in the real window: written with the mouse, shown in type with what they come to, chosen and corrected.
#include "leaves/text_leaf.h"

#include <QClipboard>

#include "document/elements.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class Formulas : public Window {
protected:
    void SetUp() override {
        Window::SetUp();
        page_ = start_with_page();
    }
    void seven(double x, double y) { mouse_stroke({{x, y - 6}, {x + 3.6, y - 6}, {x + 1.2, y}}); }
    void plus(double x, double y) {
        mouse_stroke({{x, y - 2.5}, {x + 4, y - 2.5}});
        mouse_stroke({{x + 2, y - 4.5}, {x + 2, y - 0.5}});
    }
    void equals(double x, double y) {
        mouse_stroke({{x, y - 3.2}, {x + 4, y - 3.2}});
        mouse_stroke({{x, y - 1.7}, {x + 4, y - 1.7}});
    }
    // 7 + 7 =
    void write_sum(double y = 60) {
        seven(30, y), plus(36, y), seven(42, y), equals(48, y);
        session_->wait_idle();
    }
    const ReadLine* formula() const {
        const auto& lines = session_->reading().lines;
        const auto found = std::ranges::find(lines, RegionKind::math, &ReadLine::kind);
        return found == lines.end() ? nullptr : &*found;
    }
    // Dark pixels on the text leaf in a band about a height of the page, mm.
    int type_at(double y_mm) {
        const QImage shown = text()->grab().toImage();
        const double scale = (text()->width() - 44.0) / session_->page()->info.width_mm;
        const int middle = 22 + static_cast<int>(y_mm * scale);
        int dark = 0;
        for (int y = std::max(0, middle - 20); y < std::min(shown.height(), middle + 20); ++y)
            for (int x = 60; x < shown.width() - 60; ++x) dark += qGray(shown.pixel(x, y)) < 120;
        return dark;
    }
    PageId page_ = 0;
};

TEST_F(Formulas, ASumWrittenWithTheMouseGetsItsResult) {
    EXPECT_EQ(type_at(57), 0);
    write_sum();
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->words.at(0).text, "7+7=");
    EXPECT_EQ(formula()->result, "14");
    EXPECT_EQ(formula()->signs.size(), 4U);
    EXPECT_EQ(formula()->ink.size(), 6U);
    EXPECT_GT(type_at(57), 30) << "it stands on the text leaf";
}

TEST_F(Formulas, WithAFurtherStrokeItIsWorkedOutAgain) {
    write_sum();
    ASSERT_TRUE(formula());
    seven(55, 60);
    session_->wait_idle();
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->words.at(0).text, "7+7=7");
    EXPECT_EQ(formula()->result, "false: 14");
    session_->editing().undo();
    session_->wait_idle();
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->result, "14");
}

TEST_F(Formulas, AreThereAfterReopeningWithTheirSignsAndResults) {
    write_sum();
    ASSERT_TRUE(formula());
    const ReadLine before = *formula();
    reopen();
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->words.at(0).text, before.words.at(0).text);
    EXPECT_EQ(formula()->result, before.result);
    EXPECT_EQ(formula()->signs.size(), before.signs.size());
    EXPECT_EQ(formula()->ink, before.ink);
}

TEST_F(Formulas, AreChosenAndCorrectedAsWordsAre) {
    write_sum();
    ASSERT_TRUE(formula());
    const auto line = static_cast<int>(formula() - session_->reading().lines.data());
    text()->set_chosen({line, 0});
    EXPECT_EQ(text()->chosen(), (ReadPlace{line, 0}));
    EXPECT_FALSE(session_->correcting().can_split({line, 0}));
    session_->correcting().correct({line, 0}, "x^2=49");
    session_->wait_idle();
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->words.at(0).text, "x^2=49");
    EXPECT_TRUE(formula()->words.at(0).corrected);
    EXPECT_EQ(formula()->result, "x = -7 or x = 7");
    session_->editing().undo();
    session_->wait_idle();
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->result, "14");
}

TEST_F(Formulas, SignsAreChosenOnBothLeavesAndCorrectedOneByOne) {
    write_sum();
    ASSERT_TRUE(formula());
    const auto line = static_cast<int>(formula() - session_->reading().lines.data());
    const ReadPlace first = ReadPlace::of_sign(line, 0);
    // A click on the sign's type, and on its ink.
    QTest::mouseClick(text(), Qt::LeftButton, {}, text()->place_of(first).center().toPoint());
    EXPECT_EQ(text()->chosen(), first);
    EXPECT_TRUE(text()->formula_card()->isVisibleTo(text()));
    EXPECT_FALSE(text()->card()->isVisibleTo(text()));
    text()->set_chosen({});
    const Point written = formula()->signs.at(2).box.centre();
    take(Tool::choose);
    QTest::mouseClick(ink(), Qt::LeftButton, {}, at(written.x, written.y));
    EXPECT_EQ(text()->chosen(), ReadPlace::of_sign(line, 2));
    session_->correcting().correct(first, "1");
    session_->wait_idle();
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->words.at(0).text, "1+7=");
    EXPECT_EQ(formula()->result, "8");
    EXPECT_TRUE(formula()->signs.at(0).corrected);
    reopen();
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->words.at(0).text, "1+7=");
    session_->readings().read_all_anew();
    session_->wait_idle();
    EXPECT_EQ(formula()->words.at(0).text, "1+7=") << "it outlasts every later reading";
    session_->editing().undo();
    session_->wait_idle();
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->words.at(0).text, "7+7=");
    QString problem;
    QObject::connect(&session_->messages(), &Messages::problem, [&](const QString& told) { problem = told; });
    session_->correcting().correct(first, "frost");
    EXPECT_FALSE(problem.isEmpty());
    EXPECT_EQ(formula()->words.at(0).text, "7+7=");
}

TEST_F(Formulas, WhatIsCorrectedTeachesOtherPagesAndIsKnownAfterAStart) {
    write_sum();
    ASSERT_TRUE(formula());
    const auto line = static_cast<int>(formula() - session_->reading().lines.data());
    session_->correcting().correct(ReadPlace::of_sign(line, 0), "1");
    session_->wait_idle();
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->words.at(0).text, "1+7=") << "the other symbol was left as it is";
    session_->model().add_page();
    session_->wait_idle();
    write_sum();
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->words.at(0).text.substr(0, 2), "1+") << "what looks like it is the same";
    reopen();
    session_->model().add_page();
    session_->wait_idle();
    write_sum();
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->words.at(0).text.substr(0, 2), "1+");
}

TEST_F(Formulas, AreWalkedThroughWithTheKeyboard) {
    write_sum();
    ASSERT_TRUE(formula());
    const auto line = static_cast<int>(formula() - session_->reading().lines.data());
    text()->set_chosen({line, 0});
    QTest::keyClick(text(), Qt::Key_Right);
    EXPECT_EQ(text()->chosen(), ReadPlace::of_sign(line, 0));
    QTest::keyClick(text(), Qt::Key_Right);
    EXPECT_EQ(text()->chosen(), ReadPlace::of_sign(line, 1));
    QTest::keyClick(text(), Qt::Key_Left);
    QTest::keyClick(text(), Qt::Key_Left);
    EXPECT_EQ(text()->chosen(), (ReadPlace{line, 0}));
    QTest::keyClick(text(), Qt::Key_Right);
    QTest::keyClick(text(), Qt::Key_Escape);
    EXPECT_EQ(text()->chosen(), (ReadPlace{line, 0})) << "from a sign to its formula";
    QTest::keyClick(text(), Qt::Key_Right);
    QTest::keyClicks(text(), "x");
    FormulaCard* card = text()->formula_card();
    EXPECT_EQ(card->field()->text(), "x");
    QTest::keyClick(card->field(), Qt::Key_Return);
    session_->wait_idle();
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->words.at(0).text, "x+7=");
    // What is no sign is not taken.
    text()->set_chosen(ReadPlace::of_sign(line, 0));
    card->field()->setText("frost");
    QTest::keyClick(card->field(), Qt::Key_Return);
    session_->wait_idle();
    EXPECT_EQ(formula()->words.at(0).text, "x+7=");
}

TEST_F(Formulas, AreCopiedAndMadeIntoOthersFromTheirCard) {
    write_sum();
    ASSERT_TRUE(formula());
    const auto line = static_cast<int>(formula() - session_->reading().lines.data());
    session_->correcting().correct({line, 0}, "x^2-9=0");
    session_->wait_idle();
    text()->set_chosen({line, 0});
    FormulaCard* card = text()->formula_card();
    const auto pick = [&](QMenu* menu, const QString& name) {
        emit menu->aboutToShow();
        for (QAction* action : menu->actions())
            if (action->text() == name) return action->trigger(), true;
        return false;
    };
    ASSERT_TRUE(pick(card->copies(), "LaTeX"));
    EXPECT_EQ(QGuiApplication::clipboard()->text(), "x^2-9=0");
    ASSERT_TRUE(pick(card->copies(), "MathML"));
    EXPECT_TRUE(QGuiApplication::clipboard()->text().startsWith("<math"));
    ASSERT_TRUE(pick(card->copies(), "Picture"));
    EXPECT_GT(QGuiApplication::clipboard()->image().width(), 100);
    ASSERT_TRUE(pick(card->workings(), "Factor"));
    session_->wait_idle();
    EXPECT_EQ(card->reworked(), "(x − 3)·(x + 3) = 0");
    ASSERT_TRUE(pick(card->workings(), "Solve for x"));
    session_->wait_idle();
    EXPECT_EQ(card->reworked(), "x = −3 or x = 3");
}

TEST_F(Formulas, WhatIsCalledTextIsReadAsWords) {
    write_sum();
    ASSERT_TRUE(formula());
    session_->correcting().say_kind(formula()->ink, InkClass::text);
    session_->wait_idle();
    EXPECT_FALSE(formula());
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_TRUE(formula());
}

TEST_F(Formulas, WhatIsCalledMathIsReadAsAFormula) {
    seven(30, 60);
    session_->wait_idle();
    EXPECT_FALSE(formula()) << "a number by itself is none";
    session_->correcting().say_kind({session_->page()->strokes.at(0).id}, InkClass::math);
    session_->wait_idle();
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->words.at(0).text, "7");
    EXPECT_EQ(formula()->result, "");
}

TEST_F(Formulas, SetInTypeTheyAreElementsThatGoBackToInk) {
    write_sum();
    ASSERT_TRUE(formula());
    const Box ink_box = formula()->box;
    const size_t strokes = session_->page()->strokes.size();
    session_->typesetting().set_in_type({});
    session_->wait_idle();
    ASSERT_EQ(session_->page()->formulas.size(), 1U);
    EXPECT_TRUE(session_->page()->strokes.empty());
    const SetFormula set = session_->page()->formulas[0];
    EXPECT_EQ(set.latex, "7+7=");
    EXPECT_TRUE(drawn_box(set).meets(ink_box));
    EXPECT_LE(drawn_box(set).height(), ink_box.height() + 1);
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->result, "14") << "it is worked out as before";
    EXPECT_EQ(session_->library().load_page(page_)->formulas, session_->page()->formulas);
    // Where it went its ink goes, too.
    take(Tool::lasso);
    ink()->choosing().select({set.id});
    EXPECT_TRUE(ink()->choosing().made_from_ink()) << "its bar offers the way back";
    ink()->choosing().move(Affine::shift({0, 40}), "Move");
    session_->wait_idle();
    session_->typesetting().back_to_ink({});
    session_->wait_idle();
    EXPECT_TRUE(session_->page()->formulas.empty());
    ASSERT_EQ(session_->page()->strokes.size(), strokes);
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->words.at(0).text, "7+7=");
    EXPECT_NEAR(formula()->box.top, ink_box.top + 40, 0.1);
}

TEST_F(Formulas, SetInTypeTheyAreChangedWhereTheyStand) {
    write_sum();
    session_->typesetting().set_in_type({});
    session_->wait_idle();
    ASSERT_EQ(session_->page()->formulas.size(), 1U);
    const SetFormula before = session_->page()->formulas[0];
    const auto line = static_cast<int>(formula() - session_->reading().lines.data());
    text()->set_chosen({line, 0});
    EXPECT_TRUE(text()->formula_card()->isVisibleTo(text()));
    session_->correcting().correct({line, 0}, "x^2=49");
    session_->wait_idle();
    ASSERT_EQ(session_->page()->formulas.size(), 1U);
    EXPECT_EQ(session_->page()->formulas[0].latex, "x^2=49");
    EXPECT_NEAR(drawn_box(session_->page()->formulas[0]).left, drawn_box(before).left, 1e-6);
    ASSERT_TRUE(formula());
    EXPECT_EQ(formula()->result, "x = -7 or x = 7");
    QString problem;
    QObject::connect(&session_->messages(), &Messages::problem, [&](const QString& told) { problem = told; });
    session_->correcting().correct({line, 0}, "\\nonsense{");
    EXPECT_FALSE(problem.isEmpty());
    EXPECT_EQ(session_->page()->formulas[0].latex, "x^2=49");
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(session_->page()->formulas.at(0).latex, "7+7=");
}

TEST_F(Formulas, CopiedAsTextTheyAreLatex) {
    write_sum();
    session_->typesetting().set_in_type({TypePlace::clipboard});
    session_->wait_idle();
    EXPECT_EQ(QGuiApplication::clipboard()->text(), "7+7=");
    EXPECT_EQ(session_->page()->strokes.size(), 6U);
}

}  // namespace
}  // namespace fernleaf
