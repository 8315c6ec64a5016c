// Plots in the real window: made from a formula's card and from tables, looked into, changed, following values; and
// formulas set in type.
#include <QCheckBox>
#include <QClipboard>
#include <QSignalSpy>
#include <QWheelEvent>

#include "leaves/plot_card.h"
#include "leaves/text_leaf.h"
#include "render/formula_setting.h"
#include "render/plot_look.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class Plots : public Window {
protected:
    const Page& page() { return *session_->page(); }
    const Plot& plot() { return page().plots.front(); }
    void set_formula(const char* latex, double y) {
        auto formula = formula_at({25, y}, latex, 6);
        formula->id = session_->editing().new_id();
        session_->editing().add({.formulas = {*formula}}, "Set in type");
        session_->wait_idle();
    }
    ReadPlace place_of(const char* latex) {
        const auto& lines = session_->reading().lines;
        for (size_t i = 0; i < lines.size(); ++i)
            if (lines[i].kind == RegionKind::math && lines[i].words.at(0).text == latex)
                return {static_cast<int>(i), 0};
        return {};
    }
    // As its card does it.
    void plot_from_card(const char* latex) {
        text()->set_chosen(place_of(latex));
        QMenu* menu = text()->formula_card()->plots();
        emit menu->aboutToShow();
        ASSERT_FALSE(menu->actions().isEmpty());
        ASSERT_TRUE(menu->actions().front()->isEnabled()) << menu->actions().front()->text().toStdString();
        menu->actions().front()->trigger();
        session_->wait_idle();
    }
    // In leaf px, of numbers of the plot.
    QPoint in_plot(double x, double y) {
        const QRectF field = plot_field(plot());
        const PlotRange& r = plot().range;
        return at(field.left() + (x - r.left) / (r.right - r.left) * field.width(),
                  field.bottom() - (y - r.bottom) / (r.top - r.bottom) * field.height());
    }
    void turn_wheel(QPoint where) {
        QWheelEvent event(where, ink()->mapToGlobal(where), {}, {0, 120}, Qt::NoButton, Qt::NoModifier,
                          Qt::NoScrollPhase, false);
        QCoreApplication::sendEvent(ink(), &event);
    }
    PlotCard* card() { return ink()->findChild<PlotCard*>(); }
    QLineEdit* field(const QString& name) {
        for (QLineEdit* one : card()->findChildren<QLineEdit*>())
            if (one->accessibleName() == name) return one;
        return nullptr;
    }
    void SetUp() override {
        Window::SetUp();
        start_with_page();
    }
};

TEST_F(Plots, AFormulaIsPlottedFromItsCardAndStaysUnderUndo) {
    set_formula("y=x^{2}-16", 40);
    plot_from_card("y=x^{2}-16");
    ASSERT_EQ(page().plots.size(), 1U);
    EXPECT_EQ(plot().curves.at(0).formula, "y=x^{2}-16");
    EXPECT_GT(plot().box.top, drawn_box(page().formulas.at(0)).bottom - 1);
    EXPECT_LE(plot().box.right, page().info.width_mm);
    EXPECT_LT(plot().range.left, -4);
    EXPECT_LT(plot().range.bottom, -16);
    EXPECT_TRUE(ink()->selection().contains(plot().id)) << "it is chosen, to be moved";
    EXPECT_EQ(session_->library().load_page(page().info.id)->plots, page().plots) << "kept";
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_TRUE(page().plots.empty());
    session_->editing().redo();
    session_->wait_idle();
    EXPECT_EQ(page().plots.size(), 1U);
}

TEST_F(Plots, FollowTheValuesOfTheirNames) {
    set_formula("a=2", 30);
    set_formula("y=ax", 45);
    plot_from_card("y=ax");
    EXPECT_EQ(plot().values, (std::map<std::string, double>{{"a", 2}}));
    QSignalSpy redrawn(&session_->document(), &PageDocument::redrawn);
    session_->correcting().correct(place_of("a=2"), "a=3");
    session_->wait_idle();
    EXPECT_EQ(plot().values, (std::map<std::string, double>{{"a", 3}}));
    EXPECT_GE(redrawn.count(), 1);
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(plot().values, (std::map<std::string, double>{{"a", 2}}));
    EXPECT_TRUE(session_->library().load_page(page().info.id)->plots.at(0).values.empty()) << "these are not kept";
    reopen();
    EXPECT_EQ(plot().values, (std::map<std::string, double>{{"a", 2}}));
}

TEST_F(Plots, WhatCantBePlottedSaysWhy) {
    set_formula("u v + w", 40);
    text()->set_chosen(place_of("u v + w"));
    QMenu* menu = text()->formula_card()->plots();
    emit menu->aboutToShow();
    ASSERT_EQ(menu->actions().size(), 1);
    EXPECT_FALSE(menu->actions().front()->isEnabled());
    EXPECT_TRUE(menu->actions().front()->text().contains("u, v, w"));
}

TEST_F(Plots, DraggingAndTheWheelChangeTheRange) {
    set_formula("y=x", 40);
    plot_from_card("y=x");
    ink()->plot().look_into(true);
    EXPECT_TRUE(card()->isVisibleTo(ink()));
    const PlotRange before = plot().range;
    const Box box = plot().box;
    const double step = (before.right - before.left) / 8;
    const QPoint from = in_plot(0, 0), to = in_plot(step, 0);
    QTest::mousePress(ink(), Qt::LeftButton, {}, from);
    QTest::mouseMove(ink(), to);
    EXPECT_EQ(plot().range, before) << "kept when it is let go";
    QTest::mouseRelease(ink(), Qt::LeftButton, {}, to);
    session_->wait_idle();
    EXPECT_NEAR(plot().range.left, before.left - step, step / 8);
    EXPECT_NEAR(plot().range.bottom, before.bottom, 1e-9);
    EXPECT_EQ(plot().box, box) << "the plot itself stays where it is";
    EXPECT_TRUE(ink()->plot().looked_into());
    const PlotRange moved = plot().range;
    QSignalSpy edited(&session_->document(), &PageDocument::edited);
    turn_wheel(in_plot(0, 0)), turn_wheel(in_plot(0, 0));
    ASSERT_TRUE(edited.wait());
    session_->wait_idle();
    EXPECT_EQ(edited.count(), 1) << "turns close together are one step";
    EXPECT_NEAR((moved.right - moved.left) / (plot().range.right - plot().range.left), 1.44, 0.01);
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(plot().range, moved);
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(plot().range, before);
}

TEST_F(Plots, TheWheelIsNotLostWhenThePageIsTurned) {
    const PageId first = page().info.id;
    set_formula("y=x", 40);
    plot_from_card("y=x");
    ink()->plot().look_into(true);
    const PlotRange before = plot().range;
    turn_wheel(in_plot(0, 0));
    session_->model().add_page();
    session_->wait_idle();
    ASSERT_NE(page().info.id, first);
    EXPECT_NE(session_->library().load_page(first)->plots.at(0).range, before);
}

TEST_F(Plots, TheCardAddsChangesAndTakesOutCurves) {
    set_formula("y=x", 40);
    plot_from_card("y=x");
    ink()->plot().look_into(true);
    QLineEdit* another = field("Add a formula");
    another->setText("x^2 +");
    QTest::keyClick(another, Qt::Key_Return);
    EXPECT_EQ(plot().curves.size(), 1U) << "what makes no sense is not taken";
    EXPECT_EQ(another->text(), "x^2 +");
    another->setText("x^2 - 3");
    QTest::keyClick(another, Qt::Key_Return);
    session_->wait_idle();
    ASSERT_EQ(plot().curves.size(), 2U);
    EXPECT_EQ(plot().curves[1].formula, "x^2 - 3");
    EXPECT_NE(plot().curves[1].colour, plot().curves[0].colour);
    EXPECT_TRUE(card()->isVisibleTo(ink())) << "for the next one";
    EXPECT_EQ(another->text(), "");
    QLineEdit* right = field("Right end");
    right->selectAll();
    QTest::keyClicks(right, "25");
    QTest::keyClick(right, Qt::Key_Return);
    session_->wait_idle();
    EXPECT_EQ(plot().range.right, 25);
    right->selectAll();
    QTest::keyClicks(right, "-400");
    QTest::keyClick(right, Qt::Key_Return);
    EXPECT_EQ(plot().range.right, 25) << "it can't end before it begins";
    card()->findChild<QCheckBox*>()->click();
    session_->wait_idle();
    EXPECT_FALSE(plot().marks);
    for (QToolButton* button : card()->findChildren<QToolButton*>())
        if (button->isVisibleTo(card())) {
            button->click();
            break;
        }
    session_->wait_idle();
    ASSERT_EQ(plot().curves.size(), 1U);
    EXPECT_EQ(plot().curves[0].formula, "x^2 - 3");
}

TEST_F(Plots, ATablesColumnsArePoints) {
    QGuiApplication::clipboard()->setText("hour\tlitres\tnote\n1\t2,5 l\tfirst\n2\t5\t\n3\t7.5\t\n");
    QTest::keyClick(ink(), Qt::Key_L);
    QTest::keyClick(ink(), Qt::Key_V, Qt::ControlModifier);
    session_->wait_idle();
    ASSERT_EQ(page().tables.size(), 1U);
    const auto tables = tables_of(session_->reading());
    ASSERT_EQ(tables.size(), 1U);
    session_->math().plot_table(tables[0], drawn_box(page().tables[0]));
    session_->wait_idle();
    ASSERT_EQ(page().plots.size(), 1U);
    ASSERT_EQ(plot().points.size(), 1U) << "a column of words is none";
    EXPECT_EQ(plot().points[0].name, "litres");
    EXPECT_EQ(plot().points[0].at, (std::vector<Point>{{2, 5}, {3, 7.5}})) << "in English 2,5 is no number";
    EXPECT_FALSE(drawn_box(plot()).meets(drawn_box(page().tables[0])));
}

TEST_F(Plots, AreMovedCopiedAndErasedAsAllElementsAre) {
    set_formula("y=x", 40);
    plot_from_card("y=x");
    const Box before = plot().box;
    ink()->choosing().move(Affine::shift({5, 7}), "Move");
    session_->wait_idle();
    EXPECT_NEAR(plot().box.left, before.left + 5, 1e-9);
    ink()->choosing().copy();
    ink()->choosing().paste();
    session_->wait_idle();
    EXPECT_EQ(page().plots.size(), 2U);
    ink()->choosing().remove();
    session_->wait_idle();
    EXPECT_EQ(page().plots.size(), 1U);
}

TEST_F(Plots, AFormulaIsInsertedWhereThereIsRoomAndWorkedOut) {
    set_formula("a=3", 40);
    session_->math().insert("a+1=");
    session_->wait_idle();
    ASSERT_EQ(page().formulas.size(), 2U);
    const Box first = drawn_box(page().formulas[0]), second = drawn_box(page().formulas[1]);
    EXPECT_FALSE(first.meets(second));
    EXPECT_GT(second.top, first.top);
    EXPECT_TRUE(page().formulas[1].ink.empty());
    const ReadPlace place = place_of("a+1=");
    ASSERT_GE(place.line, 0);
    EXPECT_EQ(session_->reading().lines[static_cast<size_t>(place.line)].result, "4");
    session_->math().insert("{x");
    EXPECT_EQ(page().formulas.size(), 2U) << "what can't be set is not put there";
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(page().formulas.size(), 1U);
}

}  // namespace
}  // namespace fernleaf
