#include "intake/corner_editor.h"

#include <gtest/gtest.h>

#include <QMouseEvent>
#include <QSignalSpy>
#include <QTest>

#include "look/theme.h"

namespace fernleaf {
namespace {

// A picture of 2000 x 1500 px, shown at half that, in a widget that is larger still.
class Corners : public testing::Test {
protected:
    Corners() {
        use_theme(Theme::light());
        editor_.resize(700, 600);
        QImage image(1000, 750, QImage::Format_RGB32);
        image.fill(Qt::darkCyan);
        editor_.set_picture(image, 0.5);
        editor_.set_outline(kOutline);
        editor_.show();
        EXPECT_TRUE(QTest::qWaitForWindowExposed(&editor_));
        QObject::connect(&editor_, &CornerEditor::outline_changed,
                         [this](const SheetOutline& o) { told_.push_back(o); });
    }
    void drag(QPointF from, QPointF to) {
        const auto send = [&](QEvent::Type type, QPointF at, Qt::MouseButton button, Qt::MouseButtons held) {
            QMouseEvent event(type, at, editor_.mapToGlobal(at), button, held, {});
            QCoreApplication::sendEvent(&editor_, &event);
        };
        send(QEvent::MouseButtonPress, from, Qt::LeftButton, Qt::LeftButton);
        for (int i = 1; i <= 5; ++i)
            send(QEvent::MouseMove, from + (to - from) * (i / 5.0), Qt::NoButton, Qt::LeftButton);
        EXPECT_TRUE(told_.empty()) << "not before it is let go";
        send(QEvent::MouseButtonRelease, to, Qt::LeftButton, {});
    }
    // Widget px in one of the file's picture.
    double scale() const { return (editor_.place_of({2000, 0}).x() - editor_.place_of({0, 0}).x()) / 2000; }

    static constexpr SheetOutline kOutline{{{{300, 200}, {1700, 250}, {1650, 1300}, {280, 1250}}}, {}};
    CornerEditor editor_;
    std::vector<SheetOutline> told_;
};

TEST_F(Corners, TheCornerUnderTheHandMovesAndNoOther) {
    const QPointF at = editor_.place_of(kOutline.corners[2]);
    drag(at + QPointF(3, -2), at + QPointF(23, 8));
    ASSERT_EQ(told_.size(), 1U);
    EXPECT_NEAR(told_[0].corners[2].x, 1650 + 20 / scale(), 0.01);
    EXPECT_NEAR(told_[0].corners[2].y, 1300 + 10 / scale(), 0.01);
    for (const size_t i : {0U, 1U, 3U}) EXPECT_EQ(told_[0].corners[i], kOutline.corners[i]);
}

TEST_F(Corners, ASideTakesBothItsCornersAlong) {
    const QPointF at = editor_.place_of(kOutline.on_side(1, 0.5));
    drag(at, at - QPointF(30, 0));
    ASSERT_EQ(told_.size(), 1U);
    for (const size_t i : {1U, 2U}) {
        EXPECT_NEAR(told_[0].corners[i].x, kOutline.corners[i].x - 30 / scale(), 0.01);
        EXPECT_NEAR(told_[0].corners[i].y, kOutline.corners[i].y, 0.01);
    }
    EXPECT_EQ(told_[0].corners[0], kOutline.corners[0]);
}

TEST_F(Corners, ACornerIsNotDraggedAcrossTheSheetNorOutOfReach) {
    drag(editor_.place_of(kOutline.corners[0]), editor_.place_of({1900, 1400}));
    for (const SheetOutline& outline : told_) EXPECT_TRUE(is_valid(outline));
    told_.clear();
    editor_.set_outline(kOutline);
    drag(editor_.place_of(kOutline.corners[0]), editor_.place_of({-9000, -9000}));
    ASSERT_EQ(told_.size(), 1U);
    EXPECT_GE(told_[0].corners[0].x, -500);
    EXPECT_GE(told_[0].corners[0].y, -375);
}

TEST_F(Corners, AClickOrATouchElsewhereChangesNothing) {
    drag(editor_.place_of(kOutline.corners[1]), editor_.place_of(kOutline.corners[1]));
    drag(editor_.place_of({1000, 750}), editor_.place_of({1100, 800}));
    EXPECT_TRUE(told_.empty());
    EXPECT_EQ(editor_.outline(), kOutline);
}

TEST_F(Corners, WithoutAnOutlineTheWholePictureIsTakenHoldOf) {
    editor_.set_outline({});
    const QPointF at = editor_.place_of({2000, 1500});
    drag(at, at - QPointF(40, 40));
    ASSERT_EQ(told_.size(), 1U);
    EXPECT_EQ(told_[0].corners[0], (Point{0, 0}));
    EXPECT_NEAR(told_[0].corners[2].x, 2000 - 40 / scale(), 0.01);
}

TEST_F(Corners, TabGoesRoundTheCornersAndArrowsNudgeTheChosenOne) {
    editor_.setFocus();
    for (int i = 0; i < 4; ++i) {
        QTest::keyClick(&editor_, Qt::Key_Tab);
        EXPECT_EQ(editor_.chosen(), i);
    }
    QTest::keyClick(&editor_, Qt::Key_Up);
    ASSERT_EQ(told_.size(), 1U);
    EXPECT_EQ(told_[0].corners[3], (Point{280, 1249}));
    QTest::keyClick(&editor_, Qt::Key_Left, Qt::ShiftModifier);
    ASSERT_EQ(told_.size(), 2U);
    EXPECT_EQ(told_[1].corners[3], (Point{270, 1249}));
}

TEST_F(Corners, ThePictureAndItsBorderAreShown) {
    QImage shown(editor_.size(), QImage::Format_RGB32);
    editor_.render(&shown);
    const auto pixel = [&](Point p) { return shown.pixelColor(editor_.place_of(p).toPoint()); };
    EXPECT_EQ(pixel({1000, 700}), QColor(Qt::darkCyan)) << "within the sheet: as it is";
    EXPECT_NE(pixel({100, 100}), QColor(Qt::darkCyan)) << "outside: washed out";
    EXPECT_EQ(pixel(kOutline.on_side(0, 0.5)), theme().act);
}

TEST_F(Corners, ACornerSnapsToWhereStrongEdgesCross) {
    // Edges upright at 1690 and level at 1310, in px of the file's picture.
    editor_.set_edges({{{1, 0}, 1690, 500, false}, {{0, 1}, 1310, 400, false}});
    const QPointF at = editor_.place_of(kOutline.corners[2]);
    drag(at, editor_.place_of({1690, 1310}) + QPointF(4, -3));
    ASSERT_EQ(told_.size(), 1U);
    EXPECT_NEAR(told_[0].corners[2].x, 1690, 1e-6);
    EXPECT_NEAR(told_[0].corners[2].y, 1310, 1e-6);
    // Near one edge alone it slides along it; far from all it stays where it is let go.
    told_.clear();
    drag(editor_.place_of({1690, 1310}), editor_.place_of({1690, 1200}) + QPointF(3, 0));
    ASSERT_EQ(told_.size(), 1U);
    EXPECT_NEAR(told_[0].corners[2].x, 1690, 1e-6);
    EXPECT_NEAR(told_[0].corners[2].y, 1200, 1);
    told_.clear();
    drag(editor_.place_of({1690, 1200}), editor_.place_of({1600, 1150}));
    ASSERT_EQ(told_.size(), 1U);
    EXPECT_NEAR(told_[0].corners[2].x, 1600, 1);
}

TEST_F(Corners, ACornerThatIsHardlyMovedIsTakenAwayByNoEdge) {
    const Point corner = kOutline.corners[2];
    editor_.set_edges({{{1, 0}, corner.x + 12, 500, false}, {{0, 1}, corner.y + 12, 400, false}});
    const QPointF at = editor_.place_of(corner);
    drag(at, at + QPointF(-3, 2));
    ASSERT_EQ(told_.size(), 1U);
    EXPECT_LT(told_[0].corners[2].x, corner.x);
}

}  // namespace
}  // namespace fernleaf
