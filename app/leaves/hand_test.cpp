// What hands and pens do besides writing: fingers, a resting hand, the pen's buttons and its other end.
#include "wait_until.h"
#include "window/settings_dialog.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class Hands : public Window {
protected:
    const Page& page() { return *session_->page(); }
    void touch(QEvent::Type type, QPointF px) {
        static const QPointingDevice screen(QStringLiteral("screen"), 31, QInputDevice::DeviceType::TouchScreen,
                                            QPointingDevice::PointerType::Finger, QInputDevice::Capability::Position,
                                            10, 0);
        const bool up = type == QEvent::MouseButtonRelease;
        QMouseEvent event(type, px, ink()->mapToGlobal(px), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton,
                          up ? Qt::NoButton : Qt::LeftButton, {}, &screen);
        QCoreApplication::sendEvent(ink(), &event);
    }
    void swipe(QPointF from, QPointF to) {
        touch(QEvent::MouseButtonPress, from);
        for (int i = 1; i <= 5; ++i) touch(QEvent::MouseMove, from + (to - from) * (i / 5.0));
        touch(QEvent::MouseButtonRelease, to);
    }
    // A pen whose barrel button is held, from one place on the page to another.
    void pen_with(Qt::MouseButtons buttons, Point from, Point to) {
        static const QPointingDevice pen(QStringLiteral("pen with buttons"), 32, QInputDevice::DeviceType::Stylus,
                                         QPointingDevice::PointerType::Pen, QInputDevice::Capability::Position, 1, 3);
        const auto send = [&](QEvent::Type type, QPointF px, Qt::MouseButtons held) {
            QTabletEvent event(type, &pen, px, ink()->mapToGlobal(px), 0.5, 0, 0, 0, 0, 0, {}, Qt::LeftButton, held);
            QCoreApplication::sendEvent(ink(), &event);
        };
        const QPointF a = at(from.x, from.y), b = at(to.x, to.y);
        send(QEvent::TabletPress, a, buttons);
        for (int i = 1; i <= 5; ++i) send(QEvent::TabletMove, a + (b - a) * (i / 5.0), buttons);
        send(QEvent::TabletRelease, b, Qt::NoButton);
    }
    void eraser_end(Point from, Point to) {
        tablet(QEvent::TabletPress, from.x, from.y, 0.5, QPointingDevice::PointerType::Eraser);
        for (int i = 1; i <= 5; ++i) {
            const Point p = from + (to - from) * (i / 5.0);
            tablet(QEvent::TabletMove, p.x, p.y, 0.5, QPointingDevice::PointerType::Eraser);
        }
        tablet(QEvent::TabletRelease, to.x, to.y, 0, QPointingDevice::PointerType::Eraser);
    }
    void assign(ButtonDoes barrel, ButtonDoes end) {
        Tools tools = window_->spread()->tray()->tools();
        tools.tablet.barrel = barrel, tools.tablet.eraser_end = end;
        window_->spread()->tray()->set_tools(tools);
    }
    // Where on the leaf the page's corner is.
    QPointF corner() {
        const QImage shown = ink()->grab().toImage();
        for (int y = 0; y < shown.height(); ++y)
            if (shown.pixelColor(shown.width() / 2, y) == theme().page.paper) return {0, static_cast<double>(y)};
        return {0, -1};
    }
};

TEST_F(Hands, AFingerWritesWhereThereIsNoPen) {
    start_with_page();
    swipe(at(20, 40), at(60, 40));
    EXPECT_EQ(page().strokes.size(), 1U);
}

TEST_F(Hands, AFingerMovesThePageOnceAPenWasFelt) {
    start_with_page();
    pen_with(Qt::LeftButton, {20, 40}, {60, 40});
    ASSERT_EQ(page().strokes.size(), 1U);
    WAIT_UNTIL(!ink()->pen_is_near());
    const double before = corner().y();
    swipe({200, 400}, {200, 340});
    EXPECT_EQ(page().strokes.size(), 1U) << "fingers write no more";
    EXPECT_NE(corner().y(), before);
}

TEST_F(Hands, AHandThatRestsWhileThePenIsNearDoesNothing) {
    start_with_page();
    pen_with(Qt::LeftButton, {20, 40}, {60, 40});
    const double before = corner().y();
    swipe({200, 400}, {200, 340});
    EXPECT_EQ(page().strokes.size(), 1U);
    EXPECT_EQ(corner().y(), before);
}

TEST_F(Hands, TheBarrelButtonTakesTheLassoAndThePenGoesOnWriting) {
    start_with_page();
    write_hill(30, 60);
    session_->wait_idle();
    const size_t written = page().strokes.size();
    pen_with(Qt::LeftButton | Qt::RightButton, {26, 50}, {56, 65});
    EXPECT_EQ(page().strokes.size(), written) << "the lasso leaves no ink";
    EXPECT_EQ(ink()->tool(), Tool::pen);
    pen_with(Qt::LeftButton, {20, 100}, {60, 100});
    EXPECT_EQ(page().strokes.size(), written + 1);
}

TEST_F(Hands, TheBarrelButtonErasesOrMovesThePageWhenThatIsChosen) {
    start_with_page();
    assign(ButtonDoes::erases, ButtonDoes::erases);
    pen_with(Qt::LeftButton, {20, 40}, {60, 40});
    pen_with(Qt::LeftButton | Qt::RightButton, {40, 30}, {40, 50});
    EXPECT_TRUE(page().strokes.empty());
    assign(ButtonDoes::moves_page, ButtonDoes::erases);
    const double before = corner().y();
    pen_with(Qt::LeftButton | Qt::MiddleButton, {40, 80}, {40, 60});
    EXPECT_TRUE(page().strokes.empty());
    EXPECT_NE(corner().y(), before);
    assign(ButtonDoes::nothing, ButtonDoes::erases);
    pen_with(Qt::LeftButton | Qt::RightButton, {20, 60}, {60, 60});
    EXPECT_EQ(page().strokes.size(), 1U) << "the button does nothing: the pen writes";
}

TEST_F(Hands, ThePensOtherEndErasesUnlessItIsToDoOtherwise) {
    start_with_page();
    pen_with(Qt::LeftButton, {20, 40}, {60, 40});
    eraser_end({40, 30}, {40, 50});
    EXPECT_TRUE(page().strokes.empty());
    assign(ButtonDoes::lassoes, ButtonDoes::nothing);
    eraser_end({40, 30}, {40, 50});
    EXPECT_EQ(page().strokes.size(), 1U) << "it writes like the tip";
    reopen();
    EXPECT_EQ(window_->spread()->tray()->tools().tablet.eraser_end, ButtonDoes::nothing);
}

TEST_F(Hands, TouchDoesNothingInTheHandRestButThePenWritesThere) {
    start_with_page();
    QTest::keyClick(ink(), Qt::Key_H);
    HandRest* rest = ink()->hand_rest();
    ASSERT_FALSE(rest->area().isEmpty());
    const QPointF inside = QRectF(rest->area()).center();
    swipe(inside, inside + QPointF(60, 0));
    EXPECT_TRUE(page().strokes.empty());
    swipe(QPointF(200, 100), QPointF(260, 100));
    EXPECT_EQ(page().strokes.size(), 1U) << "above it a finger writes";
    const double scale = (ink()->width() - 44.0) / page().info.width_mm;
    const Point mm{(inside.x() - 22) / scale, (inside.y() - 22) / scale};
    pen_with(Qt::LeftButton, mm, {mm.x + 20, mm.y});
    EXPECT_EQ(page().strokes.size(), 2U);
}

TEST_F(Hands, TheHandRestIsDraggedAndKeptAndTurnedOff) {
    start_with_page();
    QTest::keyClick(ink(), Qt::Key_H);
    HandRest* rest = ink()->hand_rest();
    const int before = rest->area().top();
    QTest::mousePress(rest, Qt::LeftButton, {}, rest->rect().center());
    QMouseEvent move(QEvent::MouseMove, QPointF(rest->rect().center()) - QPointF(0, 80),
                     rest->mapToGlobal(QPointF(rest->rect().center()) - QPointF(0, 80)), Qt::NoButton, Qt::LeftButton,
                     {});
    QCoreApplication::sendEvent(rest, &move);
    QTest::mouseRelease(rest, Qt::LeftButton, {}, rest->rect().center());
    EXPECT_NEAR(rest->area().top(), before - 80, 2);
    QTest::keyClick(rest, Qt::Key_Down);
    EXPECT_GT(rest->area().top(), before - 80);
    const double share = rest->share();
    reopen();
    EXPECT_NEAR(ink()->hand_rest()->share(), share, 1e-6);
    QTest::keyClick(ink(), Qt::Key_H);
    EXPECT_TRUE(ink()->hand_rest()->area().isEmpty());
    EXPECT_FALSE(ink()->hand_rest()->isVisible());
}

TEST_F(Hands, GesturesActOnlyWhileTheirSwitchesAreOn) {
    start_with_page();
    const auto scribble = [&] {
        std::vector<Point> path;
        for (int i = 0; i < 9; ++i) path.push_back({i % 2 == 0 ? 28.0 : 50.0, 54 + 0.9 * i});
        mouse_stroke(path);
    };
    const auto count_after = [&](bool all, bool own) {
        session_->editing().clear_page();
        Tools tools = window_->spread()->tray()->tools();
        tools.gestures = all, tools.eraser.scribbles = own;
        window_->spread()->tray()->set_tools(tools);
        write_hill(30, 60);
        session_->wait_idle();
        scribble();
        session_->wait_idle();
        return page().strokes.size();
    };
    EXPECT_EQ(count_after(true, true), 0U);
    EXPECT_EQ(count_after(false, true), 7U);
    EXPECT_EQ(count_after(true, false), 7U);
}

TEST_F(Hands, ThePressureCurveSuitsLightAndHeavyHands) {
    start_with_page();
    const auto pressure_with = [&](double curve) {
        Tools tools = window_->spread()->tray()->tools();
        tools.tablet.pressure_curve = curve;
        window_->spread()->tray()->set_tools(tools);
        tablet(QEvent::TabletPress, 30, 40, 0.25, QPointingDevice::PointerType::Pen);
        tablet(QEvent::TabletMove, 50, 40, 0.25, QPointingDevice::PointerType::Pen);
        tablet(QEvent::TabletRelease, 50, 40, 0, QPointingDevice::PointerType::Pen);
        return page().strokes.back().points[0].pressure;
    };
    EXPECT_NEAR(pressure_with(1), 0.25, 1e-3);
    EXPECT_NEAR(pressure_with(0.5), 0.5, 1e-3);
    EXPECT_NEAR(pressure_with(2), 0.0625, 1e-3);
}

}  // namespace
}  // namespace fernleaf
