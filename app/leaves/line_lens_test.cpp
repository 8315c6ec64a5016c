#include "leaves/line_lens.h"

#include <QSignalSpy>

#include "wait_until.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class Lens : public Window {
protected:
    LineLens* lens() { return window_->spread()->lens(); }
    const Page& page() { return *session_->page(); }
    // A stroke in the lens, in parts of its width and height.
    void write(double x0, double y0, double x1, double y1) {
        InkLeaf* leaf = lens()->leaf();
        const auto at = [&](double x, double y) {
            return QPoint(qRound(x * leaf->width()), qRound(y * leaf->height()));
        };
        QTest::mousePress(leaf, Qt::LeftButton, {}, at(x0, y0));
        for (int i = 1; i <= 6; ++i) {
            const QPoint p = at(x0 + (x1 - x0) * i / 6, y0 + (y1 - y0) * i / 6);
            QMouseEvent move(QEvent::MouseMove, p, leaf->mapToGlobal(QPointF(p)), Qt::NoButton, Qt::LeftButton, {});
            QCoreApplication::sendEvent(leaf, &move);
        }
        QTest::mouseRelease(leaf, Qt::LeftButton, {}, at(x1, y1));
    }
    void open_lens() {
        window_->spread()->show_lens(true);
        QCoreApplication::processEvents();
    }
};

TEST_F(Lens, WhatIsWrittenLargeLandsSmallOnTheLine) {
    start_with_page(Paper::margined);
    open_lens();
    const Box area = lens()->area();
    EXPECT_GE(area.left, 18) << "it begins behind the margin";
    EXPECT_TRUE(area.contains({area.left, 20})) << "on the first rule";
    write(0.1, 0.3, 0.2, 0.7);
    ASSERT_EQ(page().strokes.size(), 1U);
    const Box ink = page().strokes[0].box();
    EXPECT_NEAR(ink.left, area.left + 0.1 * area.width(), 0.2);
    EXPECT_NEAR(ink.height(), 0.4 * area.height(), 0.2);
    EXPECT_LT(ink.height(), 6);
    session_->wait_idle();
    EXPECT_EQ(session_->library().load_page(page().info.id)->strokes.size(), 1U);
}

TEST_F(Lens, MovesOnNearItsEndAndToTheNextLineAtTheMargin) {
    start_with_page(Paper::margined);
    open_lens();
    const Box first = lens()->area();
    write(0.3, 0.4, 0.4, 0.6);
    QSignalSpy rested(lens(), &LineLens::rested);
    WAIT_UNTIL(rested.count() > 0);
    EXPECT_EQ(lens()->area(), first) << "there is room yet";
    write(0.8, 0.4, 0.9, 0.6);
    WAIT_UNTIL(lens()->area() != first);
    const Box second = lens()->area();
    EXPECT_GT(second.left, first.left + 0.4 * first.width());
    EXPECT_EQ(second.top, first.top);
    EXPECT_GT(page().strokes.back().box().right, second.left) << "what was written last is still seen";
    for (int i = 0; i < 30 && lens()->area().top == first.top; ++i) {
        const Box before = lens()->area();
        write(0.9, 0.4, 0.98, 0.6);
        WAIT_UNTIL(lens()->area() != before);
    }
    EXPECT_NEAR(lens()->area().top, first.top + page().info.spacing_mm, 0.1);
    EXPECT_EQ(lens()->area().left, first.left);
}

TEST_F(Lens, GoesWhereKeysAndClicksSendIt) {
    start_with_page(Paper::margined);
    open_lens();
    const Box first = lens()->area();
    QTest::keyClick(window_.get(), Qt::Key_Down, Qt::AltModifier);
    EXPECT_NEAR(lens()->area().top, first.top + 8, 0.1);
    QTest::keyClick(window_.get(), Qt::Key_Up, Qt::AltModifier);
    EXPECT_EQ(lens()->area(), first);
    QTest::keyClick(window_.get(), Qt::Key_Right, Qt::AltModifier);
    EXPECT_GT(lens()->area().left, first.left);
    lens()->go_to({60, 101});
    EXPECT_TRUE(lens()->area().contains({60, 100}));
    window_->spread()->show_lens(false);
    EXPECT_TRUE(lens()->area().empty());
}

TEST_F(Lens, TakesThePenAndTheEraserInHand) {
    start_with_page(Paper::margined);
    open_lens();
    window_->spread()->tray()->select_pen(2);
    write(0.1, 0.4, 0.3, 0.6);
    EXPECT_EQ(page().strokes.at(0).pen, Tools::usual().pens[2]);
    window_->spread()->tray()->select(Tool::eraser);
    write(0.2, 0.2, 0.2, 0.8);
    EXPECT_TRUE(page().strokes.empty());
}

TEST_F(Lens, AClickWithAltSendsItThereAndWritesNothing) {
    start_with_page(Paper::margined);
    open_lens();
    QTest::mouseClick(ink(), Qt::LeftButton, Qt::AltModifier, at(70, 92));
    EXPECT_TRUE(lens()->area().contains({70, 92}));
    EXPECT_TRUE(page().strokes.empty());
}

TEST_F(Lens, OnEveryPaperFindsItsLinesAndStaysOnThePage) {
    start_with_page(Paper::plain);
    open_lens();
    for (const Paper paper : {Paper::plain, Paper::squared, Paper::staves, Paper::ruled}) {
        Sheet sheet = page().info;
        sheet.paper = paper, sheet.spacing_mm = 12;
        session_->editing().change_sheet(sheet);
        lens()->go_to({500, 5000});
        const Box area = lens()->area();
        EXPECT_LE(area.right, page().info.width_mm + 0.1);
        EXPECT_LE(area.bottom, page().info.height_mm + 0.1);
        lens()->go_to({-50, -50});
        EXPECT_GE(lens()->area().left, 0);
        EXPECT_GE(lens()->area().top, -0.1);
    }
}

}  // namespace
}  // namespace fernleaf
