// Pens, eraser and their cards, used as a person would.
#include "desk/tools.h"

#include <QCheckBox>
#include <QPushButton>
#include <QSlider>

#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class ToolsInHand : public Window {
protected:
    ToolTray* tray() { return window_->spread()->tray(); }
    const std::vector<Stroke>& strokes() { return session_->page()->strokes; }
    void key(int code) { QTest::keyClick(ink(), static_cast<Qt::Key>(code)); }
    void click(QWidget* card, const QString& name) {
        for (auto* b : card->findChildren<QAbstractButton*>())
            if (b->accessibleName().startsWith(name) || b->text() == name)
                return QTest::mouseClick(b, Qt::LeftButton, {}, {12, b->height() / 2});  // a box stands at the left
        ADD_FAILURE() << "no button " << name.toStdString();
    }
};

TEST_F(ToolsInHand, EachPenOfTheTrayWritesItsOwnInk) {
    const PageId page = start_with_page();
    for (int i = 0; i < 5; ++i) {
        key(Qt::Key_1 + i);
        mouse_stroke({{30, 40.0 + 10 * i}, {60, 40.0 + 10 * i}});
    }
    session_->wait_idle();
    const auto kept = session_->library().load_page(page);
    ASSERT_EQ(kept->strokes.size(), 5U);
    for (size_t i = 0; i < 5; ++i) EXPECT_EQ(kept->strokes[i].pen, Tools::usual().pens[i]) << i;
}

TEST_F(ToolsInHand, ASecondClickOpensThePensCardAndWritingClosesIt) {
    start_with_page();
    EXPECT_FALSE(tray()->pen_card()->isVisible());
    key(Qt::Key_1);
    EXPECT_TRUE(tray()->pen_card()->isVisible());
    EXPECT_TRUE(ink()->rect().contains(tray()->pen_card()->geometry()));
    mouse_stroke({{10, 20}, {14, 20}});
    EXPECT_FALSE(tray()->pen_card()->isVisible());
}

TEST_F(ToolsInHand, WhatTheCardChangesIsWrittenWithAtOnceAndKept) {
    start_with_page();
    key(Qt::Key_1);
    PenCard* card = tray()->pen_card();
    click(card, "Fountain pen");
    click(card, "Colour #a8322d");
    card->findChildren<QSlider*>()[0]->setValue(60);
    for (auto* box : card->findChildren<QCheckBox*>())
        if (box->text() == "Pressure acts") QTest::mouseClick(box, Qt::LeftButton, {}, QPoint(8, 8));
    QTest::keyClick(card, Qt::Key_Escape);
    EXPECT_FALSE(card->isVisible());
    mouse_stroke({{30, 40}, {60, 40}});
    const Pen pen = strokes().at(0).pen;
    EXPECT_EQ(pen.kind, PenKind::fountain);
    EXPECT_EQ(pen.colour, 0xA8322DU);
    EXPECT_NEAR(pen.width_mm, 0.9F, 0.11F);
    EXPECT_FALSE(pen.by_pressure);
    reopen();
    EXPECT_EQ(tray()->tools().pens[0], pen);
}

TEST_F(ToolsInHand, PensAreCopiedMovedAndTakenOut) {
    start_with_page();
    key(Qt::Key_2);
    key(Qt::Key_2);
    click(tray()->pen_card(), "Add a copy of this pen");
    ASSERT_EQ(tray()->tools().pens.size(), 6U);
    EXPECT_EQ(tray()->tools().pens[2], tray()->tools().pens[1]);
    EXPECT_EQ(tray()->pen(), 2);
    EXPECT_TRUE(ink()->rect().contains(tray()->geometry()));
    click(tray()->pen_card(), "Move right");
    EXPECT_EQ(tray()->pen(), 3);
    EXPECT_EQ(tray()->tools().pens[2], Tools::usual().pens[2]);
    for (int left = 5; left >= 1; --left) {
        click(tray()->pen_card(), "Remove this pen");
        EXPECT_EQ(tray()->tools().pens.size(), static_cast<size_t>(left));
    }
    // The last one stays.
    click(tray()->pen_card(), "Remove this pen");
    EXPECT_EQ(tray()->tools().pens.size(), 1U);
}

TEST_F(ToolsInHand, ThePenIsTriedOnTheSwatchAndNotOnThePage) {
    start_with_page();
    key(Qt::Key_1);
    auto* swatch = tray()->pen_card()->findChild<Swatch*>();
    ASSERT_TRUE(swatch);
    QTest::mousePress(swatch, Qt::LeftButton, {}, {20, 30});
    QTest::mouseRelease(swatch, Qt::LeftButton, {}, {80, 30});
    EXPECT_EQ(swatch->strokes(), 1U);
    EXPECT_TRUE(strokes().empty());
    EXPECT_TRUE(tray()->pen_card()->isVisible());
}

TEST_F(ToolsInHand, AnEraserOfPartsLeavesThePiecesAndOneUndoBringsTheStrokeBack) {
    const PageId page = start_with_page();
    mouse_stroke({{30, 40}, {90, 40}});
    const Stroke whole = strokes().at(0);
    key(Qt::Key_E);
    key(Qt::Key_E);
    click(tray()->eraser_card(), "Takes parts");
    mouse_stroke({{60, 30}, {60, 50}});
    ASSERT_EQ(strokes().size(), 2U);
    auto pieces = strokes();
    std::ranges::sort(pieces, {}, [](const Stroke& s) { return s.box().left; });
    EXPECT_LT(pieces[0].box().right, 60);
    EXPECT_GT(pieces[1].box().left, 60);
    EXPECT_NEAR(pieces[0].box().left, whole.box().left, 0.01);
    EXPECT_NEAR(pieces[1].box().right, whole.box().right, 0.01);
    session_->wait_idle();
    EXPECT_EQ(session_->library().load_page(page)->strokes.size(), 2U);
    session_->editing().undo();
    session_->wait_idle();
    ASSERT_EQ(strokes().size(), 1U);
    EXPECT_EQ(strokes()[0].id, whole.id);
    session_->editing().redo();
    session_->wait_idle();
    EXPECT_EQ(strokes().size(), 2U);
}

TEST_F(ToolsInHand, ErasingForthAndBackInOneGoIsOneStep) {
    start_with_page();
    mouse_stroke({{30, 40}, {90, 40}});
    key(Qt::Key_E);
    key(Qt::Key_E);
    click(tray()->eraser_card(), "Takes parts");
    mouse_stroke({{45, 30}, {45, 50}, {60, 50}, {60, 30}, {75, 30}, {75, 50}});
    EXPECT_EQ(strokes().size(), 4U);
    session_->wait_idle();
    EXPECT_EQ(session_->document().undo_state().undo, "Erase");
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(strokes().size(), 1U);
}

TEST_F(ToolsInHand, AnEraserOfWordsTakesTheWholeWord) {
    start_with_page();
    write_hill(30, 60);
    write_hill(70, 60);
    session_->wait_idle();
    ASSERT_EQ(session_->reading().lines.at(0).words.size(), 2U);
    key(Qt::Key_E);
    key(Qt::Key_E);
    click(tray()->eraser_card(), "Takes words");
    mouse_stroke({{69, 57}, {71, 57}});
    ASSERT_EQ(strokes().size(), 6U);
    for (const Stroke& s : strokes()) EXPECT_LT(s.box().right, 60);
}

TEST_F(ToolsInHand, AnEraserForHighlighterLeavesTheInk) {
    start_with_page();
    mouse_stroke({{30, 40}, {90, 40}});
    key(Qt::Key_5);
    mouse_stroke({{30, 40}, {90, 40}});
    key(Qt::Key_E);
    key(Qt::Key_E);
    click(tray()->eraser_card(), "Highlighter only");
    mouse_stroke({{60, 30}, {60, 50}});
    ASSERT_EQ(strokes().size(), 1U);
    EXPECT_EQ(strokes()[0].pen.kind, PenKind::ballpoint);
}

TEST_F(ToolsInHand, TheLargeEraserTakesWhatTheSmallOneMisses) {
    start_with_page();
    mouse_stroke({{30, 40}, {90, 40}});
    const double mm_for_px = session_->page()->info.width_mm / (ink()->width() - 44.0);
    const double beside = 40 + 14 * mm_for_px;
    key(Qt::Key_E);
    key(Qt::Key_E);
    click(tray()->eraser_card(), "Size small");
    mouse_stroke({{50, beside}, {70, beside}});
    EXPECT_EQ(strokes().size(), 1U);
    key(Qt::Key_E);
    click(tray()->eraser_card(), "Size large");
    mouse_stroke({{50, beside}, {70, beside}});
    EXPECT_TRUE(strokes().empty());
}

TEST_F(ToolsInHand, TheEraserHandsBackToThePenWhenToldTo) {
    start_with_page();
    mouse_stroke({{30, 40}, {90, 40}});
    key(Qt::Key_E);
    key(Qt::Key_E);
    click(tray()->eraser_card(), "Then return to the previous tool");
    mouse_stroke({{60, 30}, {60, 50}});
    EXPECT_TRUE(strokes().empty());
    EXPECT_EQ(ink()->tool(), Tool::pen);
}

TEST_F(ToolsInHand, NothingIsWrittenThroughTheTrayAndItsCards) {
    start_with_page();
    key(Qt::Key_1);
    QTest::mouseClick(tray(), Qt::LeftButton, {}, {2, 2});
    QTest::mouseClick(tray()->pen_card(), Qt::LeftButton, {}, {4, 4});
    static const QPointingDevice pen(QStringLiteral("pen"), 7, QInputDevice::DeviceType::Stylus,
                                     QPointingDevice::PointerType::Pen, QInputDevice::Capability::Position, 1, 2);
    auto* button = tray()->findChildren<QToolButton*>().front();
    for (const QEvent::Type type : {QEvent::TabletPress, QEvent::TabletRelease}) {
        QTabletEvent event(type, &pen, {10, 10}, button->mapToGlobal(QPointF(10, 10)), 0.5, 0, 0, 0, 0, 0, {},
                           Qt::LeftButton, Qt::LeftButton);
        QCoreApplication::sendEvent(button, &event);
    }
    EXPECT_TRUE(strokes().empty());
}

TEST_F(ToolsInHand, AllAreSeenOnANarrowLeafToo) {
    start_with_page();
    for (const QSize& size : {QSize(1280, 800), QSize(900, 560)}) {
        window_->resize(size);
        QCoreApplication::processEvents();
        const QRect leaf = ink()->rect();
        std::vector<QRect> seen;
        for (const QToolButton* b : window_->spread()->tray()->findChildren<QToolButton*>()) {
            if (b->toolTip().startsWith("Fit the page") && size.width() == 1280) continue;  // a key does it, too
            ASSERT_TRUE(b->isVisible()) << b->toolTip().toStdString();
            const QRect at(b->mapTo(ink(), QPoint(0, 0)), b->size());
            EXPECT_TRUE(leaf.contains(at)) << b->toolTip().toStdString() << " in " << size.width();
            for (const QRect& other : seen) EXPECT_FALSE(at.intersects(other)) << b->toolTip().toStdString();
            seen.push_back(at);
        }
    }
}

TEST_F(ToolsInHand, OneKeyGoesBetweenTheLastTwoTools) {
    start_with_page();
    key(Qt::Key_3);
    key(Qt::Key_E);
    key(Qt::Key_Q);
    EXPECT_EQ(ink()->tool(), Tool::pen);
    EXPECT_EQ(tray()->pen(), 2);
    key(Qt::Key_Q);
    EXPECT_EQ(ink()->tool(), Tool::eraser);
}

TEST_F(ToolsInHand, AClearedPageComesBackWithOneUndo) {
    start_with_page();
    write_hill(30, 60);
    const size_t count = strokes().size();
    key(Qt::Key_E);
    key(Qt::Key_E);
    click(tray()->eraser_card(), "Clear the page of its ink");
    EXPECT_TRUE(strokes().empty());
    session_->wait_idle();
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(strokes().size(), count);
}

TEST_F(ToolsInHand, ScribblingOverAWordErasesItAndOneUndoBringsAllBack) {
    start_with_page();
    write_hill(30, 60);
    write_hill(70, 60);
    const auto scribble = [&] {
        std::vector<Point> zigzag;
        for (int i = 0; i <= 9; ++i) zigzag.push_back({i % 2 == 0 ? 28.0 : 49.0, 53 + 0.9 * i});
        mouse_stroke(zigzag);
    };
    scribble();
    EXPECT_EQ(strokes().size(), 6U);
    for (const Stroke& s : strokes()) EXPECT_GT(s.box().left, 60);
    session_->wait_idle();
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(strokes().size(), 13U);
    session_->editing().undo();
    session_->wait_idle();
    key(Qt::Key_E);
    key(Qt::Key_E);
    click(tray()->eraser_card(), "Scribbling over ink with a pen erases it");
    QTest::keyClick(tray()->eraser_card(), Qt::Key_Escape);
    key(Qt::Key_1);
    scribble();
    EXPECT_EQ(strokes().size(), 13U) << "turned off, it is ink";
}

TEST_F(ToolsInHand, AHighlightedLineIsReadAsBefore) {
    start_with_page();
    write_hill(30, 60);
    session_->wait_idle();
    ASSERT_EQ(session_->reading().lines.size(), 1U);
    const std::string text = session_->reading().lines[0].text();
    key(Qt::Key_5);
    mouse_stroke({{28, 57}, {50, 57}});
    session_->wait_idle();
    ASSERT_EQ(session_->reading().lines.size(), 1U);
    EXPECT_EQ(session_->reading().lines[0].text(), text);
}

TEST(StoredTools, NonsenseInTheSettingsGivesTheUsualTools) {
    for (const char* nonsense : {"", "{", "[1,2]", R"({"pens":[],"palette":"x","eraser":7})"}) {
        QSettings().setValue("tools", QByteArray(nonsense));
        EXPECT_EQ(Tools::stored(), Tools::usual()) << nonsense;
    }
    QSettings().setValue("tools", QByteArray(R"({"pens":[{"width":900,"kind":99,"opacity":-3}]})"));
    const Tools tools = Tools::stored();
    ASSERT_EQ(tools.pens.size(), 1U);
    EXPECT_EQ(tools.pens[0].width_mm, kBroadestPenMm);
    EXPECT_EQ(tools.pens[0].kind, PenKind::highlighter);
    EXPECT_GE(tools.pens[0].opacity, 0.1F);
    QSettings().clear();
}

}  // namespace
}  // namespace fernleaf
