// Tables drawn fair: chosen, typed into, changed, sorted, pasted and copied, in the real window; and words in figures.
#include <QClipboard>
#include <QMimeData>

#include "document/elements.h"
#include "drawing/words_within.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class FairTables : public Window {
protected:
    const Page& page() { return *session_->page(); }
    const FairTable& table() { return page().tables.front(); }
    // What stands in its rows, as it is read.
    std::vector<std::string> rows() {
        session_->wait_idle();
        std::vector<std::string> out;
        for (const ReadLine& line : session_->reading().lines)
            if (line.table)
                out.resize(static_cast<size_t>(line.table->rows));
            else if (line.cell >= 0)
                out[static_cast<size_t>(line.cell) / table().columns_mm.size()] += line.text() + ";";
        return out;
    }
    void paste(const QString& text) {
        QGuiApplication::clipboard()->setText(text);
        QTest::keyClick(ink(), Qt::Key_L);
        QTest::keyClick(ink(), Qt::Key_V, Qt::ControlModifier);
        session_->wait_idle();
    }
    void tap(int row, int column) {
        const Point middle = to_page(table(), box_of(table(), {row, column}).centre());
        QTest::mouseClick(ink(), Qt::LeftButton, {}, at(middle.x, middle.y));
    }
    ChosenTable& chosen() { return ink()->table(); }
};

TEST_F(FairTables, WhatASpreadsheetCopiedIsATableOnThePage) {
    const PageId id = start_with_page();
    paste("tree\tkg\npear\t120\napple\t9.5\n");
    ASSERT_EQ(page().tables.size(), 1U);
    EXPECT_EQ(rows(), (std::vector<std::string>{"tree;kg;", "pear;120;", "apple;9.5;"}));
    EXPECT_TRUE(table().head);
    EXPECT_EQ(session_->library().load_page(id)->tables, page().tables) << "kept";
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_TRUE(page().tables.empty());
    EXPECT_TRUE(page().texts.empty()) << "one step";
}

TEST_F(FairTables, RowsPastedIntoItsCellsTakeTheirPlaces) {
    start_with_page();
    paste("tree\tkg\npear\t120\n");
    tap(1, 1);
    QGuiApplication::clipboard()->setText("130\tripe\n9.5\tlate\n");
    QTest::keyClick(ink(), Qt::Key_V, Qt::ControlModifier);
    session_->wait_idle();
    ASSERT_EQ(page().tables.size(), 1U);
    EXPECT_EQ(table().columns_mm.size(), 3U);
    EXPECT_EQ(rows(), (std::vector<std::string>{"tree;kg;", "pear;130;ripe;", "9.5;late;"}));
    session_->editing().undo();
    EXPECT_EQ(rows(), (std::vector<std::string>{"tree;kg;", "pear;120;"}));
}

TEST_F(FairTables, AWebPagesTableIsOneAsWell) {
    start_with_page();
    auto* data = new QMimeData;
    data->setHtml("<p>Yields</p><table><tr><th>tree</th><th>kg</th></tr><tr><td>quince</td><td>48</td></tr></table>");
    data->setText("Yields tree kg quince 48");
    QGuiApplication::clipboard()->setMimeData(data);
    QTest::keyClick(ink(), Qt::Key_L);
    QTest::keyClick(ink(), Qt::Key_V, Qt::ControlModifier);
    ASSERT_EQ(page().tables.size(), 1U);
    EXPECT_EQ(rows(), (std::vector<std::string>{"tree;kg;", "quince;48;"}));
}

TEST_F(FairTables, ATapChoosesTheTableAndACellThenWhatStandsInIt) {
    start_with_page();
    paste("tree\tkg\npear\t120\n");
    QTest::keyClick(ink(), Qt::Key_Escape);
    tap(1, 0);
    ASSERT_TRUE(chosen().table());
    EXPECT_EQ(chosen().cell(), (TableCell{1, 0}));
    EXPECT_EQ(ink()->selection().chosen().texts.size(), 4U) << "with all that stands in it";
    tap(1, 1);
    EXPECT_EQ(chosen().cell(), (TableCell{1, 1}));
    QTest::keyClick(ink(), Qt::Key_Backtab);
    EXPECT_EQ(chosen().cell(), (TableCell{1, 0}));
    tap(1, 0);
    EXPECT_FALSE(chosen().table());
    ASSERT_EQ(ink()->selection().chosen().texts.size(), 1U);
    EXPECT_EQ(plain_text(ink()->selection().chosen().texts[0]), "pear");
}

TEST_F(FairTables, RowsAndColumnsComeGoMoveAndAreSorted) {
    start_with_page();
    paste("tree\tkg\npear\t120\napple\t9.5\nquince\t48");
    tap(1, 1);
    choose_in_menu(button("Rows, columns, sorting"), "Sort by this column, ascending");
    EXPECT_EQ(rows(), (std::vector<std::string>{"tree;kg;", "apple;9.5;", "quince;48;", "pear;120;"}));
    ASSERT_TRUE(chosen().table()) << "it stays chosen";
    EXPECT_EQ(chosen().cell(), (TableCell{1, 1}));
    choose_in_menu(button("Rows, columns, sorting"), "Add a row below");
    EXPECT_EQ(chosen().cell(), (TableCell{2, 1}));
    EXPECT_EQ(rows(), (std::vector<std::string>{"tree;kg;", "apple;9.5;", "", "quince;48;", "pear;120;"}));
    choose_in_menu(button("Rows, columns, sorting"), "Delete row");
    choose_in_menu(button("Rows, columns, sorting"), "Move column left");
    EXPECT_EQ(rows(), (std::vector<std::string>{"kg;tree;", "9.5;apple;", "48;quince;", "120;pear;"}));
    for (int i = 0; i < 4; ++i) {
        session_->editing().undo();
        session_->wait_idle();
    }
    EXPECT_EQ(rows(), (std::vector<std::string>{"tree;kg;", "pear;120;", "apple;9.5;", "quince;48;"}));
}

TEST_F(FairTables, TypingGoesFromCellToCellAndTheLastOneAddsARow) {
    start_with_page();
    session_->editing().add_table();
    ASSERT_EQ(page().tables.size(), 1U);
    QTest::keyClick(ink(), Qt::Key_L);
    tap(3, 1);
    QTest::keyClick(ink(), Qt::Key_Return);
    ASSERT_TRUE(ink()->editor()->is_open());
    QTest::keyClicks(ink()->editor()->viewport(), "medlar");
    QTest::keyClick(ink()->editor(), Qt::Key_Tab);
    QTest::keyClicks(ink()->editor()->viewport(), "12");
    QTest::keyClick(ink()->editor(), Qt::Key_Tab);
    ASSERT_EQ(table().rows_mm.size(), 5U);
    QTest::keyClicks(ink()->editor()->viewport(), "sloe");
    QTest::keyClick(ink()->editor(), Qt::Key_Escape);
    EXPECT_EQ(rows(), (std::vector<std::string>{"", "", "", "medlar;12;", "sloe;"}));
}

TEST_F(FairTables, ARowGrowsWithWhatIsTypedInIt) {
    start_with_page();
    paste("tree\tkg\npear\t120\n");
    const double before = table().rows_mm[1];
    tap(1, 0);
    QTest::keyClick(ink(), Qt::Key_Return);
    QTest::keyClick(ink()->editor()->viewport(), Qt::Key_End);
    QTest::keyClicks(ink()->editor()->viewport(), " that stood by the well until the storm");
    QTest::keyClick(ink()->editor(), Qt::Key_Escape);
    EXPECT_GT(table().rows_mm[1], before + 2);
    for (const TextBlock& text : page().texts) EXPECT_LE(text.width_mm, table().columns_mm[0]);
}

TEST_F(FairTables, ARuleIsPulledAndWordsWrapAnew) {
    start_with_page();
    paste("tree\tkg\npear by the well\t120\n");
    tap(0, 0);
    const double width = table().columns_mm[0];
    const Point top = to_page(table(), {width, 0});
    const QPoint grip = at(top.x, top.y) - QPoint(0, 17);
    QTest::mousePress(ink(), Qt::LeftButton, {}, grip);
    const QPoint to = grip - (at(10, 0) - at(0, 0));
    QMouseEvent move(QEvent::MouseMove, to, ink()->mapToGlobal(QPointF(to)), Qt::NoButton, Qt::LeftButton, {});
    QCoreApplication::sendEvent(ink(), &move);
    QTest::mouseRelease(ink(), Qt::LeftButton, {}, to);
    session_->wait_idle();
    EXPECT_NEAR(table().columns_mm[0], width - 10, 0.5);
    EXPECT_EQ(rows().size(), 2U);
}

TEST_F(FairTables, ADrawnTableBecomesFairAndItsInkComesBack) {
    const PageId id = start_with_page();
    for (const double y : {30.0, 45.0, 60.0}) mouse_stroke({{30, y}, {120, y}});
    for (const double x : {30.0, 75.0, 120.0}) mouse_stroke({{x, 30}, {x, 60}});
    write_hill(36, 41);
    write_hill(82, 56);
    session_->wait_idle();
    const auto ink_before = session_->library().load_page(id)->strokes;
    session_->drawing().draw_fair({});
    session_->wait_idle();
    ASSERT_EQ(page().tables.size(), 1U);
    EXPECT_EQ(page().strokes.size(), ink_before.size() - 6) << "what is written in it stays ink";
    EXPECT_EQ(rows(), (std::vector<std::string>{"HILL;", "HILL;"}));
    QTest::keyClick(ink(), Qt::Key_L);
    tap(0, 1);
    chosen().insert(Lines::rows, false);
    EXPECT_EQ(rows(), (std::vector<std::string>{"", "HILL;", "HILL;"})) << "ink moves with its cell";
    session_->editing().undo();
    session_->wait_idle();
    session_->typesetting().back_to_ink({});
    session_->wait_idle();
    EXPECT_TRUE(page().tables.empty());
    EXPECT_EQ(page().strokes, ink_before);
}

TEST_F(FairTables, ItsCopyIsATableForOthers) {
    start_with_page();
    paste("tree\tkg\npear\t120\n");
    tap(0, 0);
    QTest::keyClick(ink(), Qt::Key_C, Qt::ControlModifier);
    const QMimeData* copied = QGuiApplication::clipboard()->mimeData();
    EXPECT_EQ(copied->text(), "tree\tkg\npear\t120\n");
    EXPECT_TRUE(copied->html().contains("<td>pear</td>"));
    QTest::keyClick(ink(), Qt::Key_V, Qt::ControlModifier);
    session_->wait_idle();
    EXPECT_EQ(page().tables.size(), 2U) << "and for us the same again";
    EXPECT_EQ(page().texts.size(), 8U);
}

TEST_F(FairTables, WordsTypedInAFigureWrapInItAndItGrows) {
    start_with_page();
    mouse_stroke({{30, 30}, {70, 30}, {70, 45}, {30, 45}, {30, 30}});
    session_->wait_idle();
    session_->drawing().draw_fair({});
    session_->wait_idle();
    ASSERT_EQ(page().shapes.size(), 1U);
    const Box before = box_of(page().shapes[0].shape);
    write_text(50, 38, "open the lower valves and light the burners along the wall");
    ASSERT_EQ(page().texts.size(), 1U);
    const Box after = box_of(page().shapes[0].shape);
    EXPECT_GT(after.height(), before.height() + 3);
    EXPECT_NEAR(after.top, before.top, 0.1);
    const Box words = page().texts[0].box();
    EXPECT_TRUE(after.grown(0.1).contains({words.left, words.top}) &&
                after.grown(0.1).contains({words.right, words.bottom}));
}

}  // namespace
}  // namespace fernleaf
