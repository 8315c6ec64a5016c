// The frame about what is chosen: where it is taken hold of, and what a pull does.
#include "tools/selection.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

namespace fernleaf {
namespace {

class SelectionFrame : public testing::Test {
protected:
    SelectionFrame() {
        view_.set(4, {10, 20});
        Stroke s;
        s.id = 1;
        s.pen.width_mm = 0.5F;
        s.points = {{{20.25, 30.25}}, {{59.75, 49.75}}};  // with the pen's width, 20 to 60 by 30 to 50
        selection_.choose({{s}});
    }
    QPointF leaf(double x, double y) const { return view_.to_leaf({x, y}); }
    QPointF corner(bool right, bool bottom) const {
        const double out = Selection::kFramePx;
        return leaf(right ? 60 : 20, bottom ? 50 : 30) + QPointF(right ? out : -out, bottom ? out : -out);
    }
    void begin(Grip grip, Point at) { selection_.begin(grip, at, view_, 1, {}, light_page()); }
    void expect_maps(Point from, Point to) {
        const Point got = selection_.change()(from);
        EXPECT_NEAR(got.x, to.x, 1e-6);
        EXPECT_NEAR(got.y, to.y, 1e-6);
    }

    PageViewport view_;
    Selection selection_;
};

TEST_F(SelectionFrame, ItsGripsAreWhereTheyAreSeen) {
    EXPECT_EQ(selection_.grip_at(corner(false, false), view_), Grip::top_left);
    EXPECT_EQ(selection_.grip_at(corner(true, false), view_), Grip::top_right);
    EXPECT_EQ(selection_.grip_at(corner(false, true), view_), Grip::bottom_left);
    EXPECT_EQ(selection_.grip_at(corner(true, true), view_), Grip::bottom_right);
    EXPECT_EQ(selection_.grip_at(leaf(40, 30) - QPointF(0, Selection::kFramePx), view_), Grip::top);
    EXPECT_EQ(selection_.grip_at(leaf(60, 40) + QPointF(Selection::kFramePx, 0), view_), Grip::right);
    const QPointF stem = leaf(40, 30) - QPointF(0, Selection::kFramePx + Selection::kStemPx);
    EXPECT_EQ(selection_.grip_at(stem, view_), Grip::turn);
    EXPECT_EQ(selection_.grip_at(leaf(45, 42), view_), Grip::inside);
    EXPECT_EQ(selection_.grip_at(leaf(100, 100), view_), Grip::none);
    EXPECT_TRUE(selection_.painted(view_).contains(stem)) << "what is drawn is drawn again when it changes";
}

TEST_F(SelectionFrame, OfSomethingSmallHasNoGripsAtItsSides) {
    view_.set(0.9, {10, 20});
    const QPointF side = leaf(40, 30) - QPointF(0, Selection::kFramePx);
    EXPECT_NE(selection_.grip_at(side, view_), Grip::top);
    EXPECT_EQ(selection_.grip_at(corner(true, true), view_), Grip::bottom_right);
}

TEST_F(SelectionFrame, IsMovedFromWithin) {
    begin(Grip::inside, {40, 40});
    EXPECT_TRUE(selection_.changing());
    selection_.drag_to({47, 43}, false);
    expect_maps({20, 30}, {27, 33});
    selection_.drag_to({47, 43}, true);
    expect_maps({20, 30}, {27, 30});
    selection_.cancel();
    EXPECT_FALSE(selection_.changing());
    EXPECT_EQ(selection_.change(), Affine{});
}

TEST_F(SelectionFrame, ScalesEvenlyFromACornerAboutTheOther) {
    begin(Grip::bottom_right, {60, 50});
    selection_.drag_to({100, 70}, false);
    expect_maps({20, 30}, {20, 30});
    expect_maps({60, 50}, {100, 70});
    selection_.drag_to({60, 70}, false);  // off the diagonal: both sides grow alike
    EXPECT_NEAR(selection_.change().xx, selection_.change().yy, 1e-9);
    selection_.drag_to({-400, -400}, false);
    EXPECT_GT(selection_.change().xx, 0) << "it never turns inside out";
}

TEST_F(SelectionFrame, StretchesFromASide) {
    begin(Grip::left, {20, 40});
    selection_.drag_to({0, 99}, false);
    expect_maps({60, 30}, {60, 30});
    expect_maps({20, 30}, {0, 30});
    begin(Grip::bottom, {40, 50});
    selection_.drag_to({99, 70}, false);
    expect_maps({20, 30}, {20, 30});
    expect_maps({20, 50}, {20, 70});
}

TEST_F(SelectionFrame, TurnsAboutItsMiddleInStepsWhenConstrained) {
    begin(Grip::turn, {40, 20});
    selection_.drag_to({60, 40}, false);  // from above to the right: a quarter
    expect_maps({40, 30}, {50, 40});
    selection_.drag_to({41, 20}, true);
    EXPECT_EQ(selection_.change(), Affine::turn(0, {40, 40})) << "less than half a step is none";
    selection_.drag_to({50, 22}, true);
    const double angle = std::atan2(selection_.change().yx, selection_.change().xx) * 180 / std::numbers::pi;
    EXPECT_NEAR(std::remainder(angle, Selection::kTurnStep), 0, 1e-9);
}

TEST_F(SelectionFrame, OfALockedPictureHasNothingToHold) {
    Picture picture{7, "h", "a.png", 0, Box::of(20, 30, 40, 20)};
    picture.locked = true;
    selection_.choose({{}, {picture}, {}});
    EXPECT_TRUE(selection_.locked());
    EXPECT_TRUE(selection_.contains(7));
    EXPECT_EQ(selection_.grip_at(leaf(40, 40), view_), Grip::none);
    EXPECT_EQ(selection_.grip_at(corner(true, true), view_), Grip::none);
}

TEST_F(SelectionFrame, GoesAboutPicturesAsTheyAreTurned) {
    Picture picture{7, "h", "a.png", 0, Box::of(20, 30, 40, 20)};
    picture.angle = 90;
    selection_.choose({{}, {picture}, {}});
    EXPECT_NEAR(selection_.box().width(), 20, 1e-9);
    EXPECT_NEAR(selection_.box().height(), 40, 1e-9);
    selection_.clear();
    EXPECT_TRUE(selection_.empty());
    EXPECT_TRUE(selection_.painted(view_).isNull());
}

TEST_F(SelectionFrame, ShowsWhatIsMovedWhereItGoes) {
    begin(Grip::inside, {40, 40});
    selection_.drag_to({60, 40}, false);
    QImage image(400, 300, QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    selection_.paint(painter, view_);
    painter.end();
    const QPoint moved = leaf(60, 40).toPoint();  // the stroke's middle, 20 mm to the right
    bool dark = false;
    for (int dy = -3; dy <= 3; ++dy) dark = dark || image.pixelColor(moved + QPoint(0, dy)).lightness() < 120;
    EXPECT_TRUE(dark);
    EXPECT_TRUE(selection_.painted(view_).contains(moved));
}

TEST(Cursor, TellsWhatAGripDoes) {
    EXPECT_EQ(cursor_of(Grip::inside), Qt::SizeAllCursor);
    EXPECT_EQ(cursor_of(Grip::top_left), cursor_of(Grip::bottom_right));
    EXPECT_EQ(cursor_of(Grip::left), Qt::SizeHorCursor);
    EXPECT_EQ(cursor_of(Grip::none), Qt::CrossCursor);
}

}  // namespace
}  // namespace fernleaf
