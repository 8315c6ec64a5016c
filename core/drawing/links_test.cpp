#include "drawing/links.h"

#include <gtest/gtest.h>

#include "drawing/test_type.h"

namespace fernleaf {
namespace {

FairShape linked_box(ElementId id, double x, double y) {
    FairShape out;
    out.id = id, out.key = id;
    out.shape = {ShapeKind::rectangle, {{x, y}, {x + 40, y}, {x + 40, y + 20}, {x, y + 20}}};
    return out;
}

// Two boxes, one above the other, and an arrow between them.
Page flow(Routing routing = Routing::straight) {
    Page page;
    page.shapes = {linked_box(1, 20, 20), linked_box(2, 20, 80)};
    FairShape link = linked(page.shapes[0], page.shapes[1]);
    link.id = 3, link.routing = routing;
    page.shapes.push_back(led(link, &page.shapes[0].shape, &page.shapes[1].shape));
    return page;
}

Edit moving(const Page& page, size_t shape, const Affine& by) {
    Edit edit{"Move"};
    edit.removed.shapes = {page.shapes[shape]};
    edit.added.shapes = {ElementTraits<FairShape>::transformed(page.shapes[shape], by)};
    edit.added.shapes[0].id = 500;
    return edit;
}

const FairShape& link_in(const std::vector<FairShape>& shapes) {
    return *std::ranges::find_if(shapes, [](const FairShape& s) { return is_line(s.shape.kind); });
}

TEST(Links, LeadFromBorderToBorderThroughTheMiddles) {
    const Page page = flow();
    EXPECT_EQ(page.shapes[2].shape.points, (std::vector<Point>{{40, 40}, {40, 80}}));
    EXPECT_EQ(page.shapes[2].shape.kind, ShapeKind::arrow);
}

TEST(Links, FollowAFigureThatIsMovedTurnedOrStretched) {
    for (const Affine& by : {Affine::shift({60, 10}), Affine::turn(0.7, {40, 30}), Affine::scale(1.5, 0.6, {20, 20})}) {
        Page page = flow();
        Edit edit = moving(page, 0, by);
        hold_links(edit, page, {}, Ids{});
        ASSERT_EQ(edit.added.shapes.size(), 2U);
        const FairShape& link = link_in(edit.added.shapes);
        EXPECT_GT(link.id, 1000);
        EXPECT_EQ(link.from.figure, 1);
        EXPECT_LT(distance_to(outline_of(edit.added.shapes[0].shape), link.shape.points.front()), 1e-6);
        EXPECT_LT(distance_to(outline_of(page.shapes[1].shape), link.shape.points.back()), 1e-6);
        apply(page, edit);
        EXPECT_EQ(page.shapes.size(), 3U);
        apply(page, edit.reversed());
        EXPECT_EQ(link_in(page.shapes), link_in(flow().shapes)) << "one step of undo";
    }
}

TEST(Links, ToAFigureThatIsGoneHaveAFreeEndAndStayWhereTheyWere) {
    const Page page = flow();
    Edit edit{"Delete"};
    edit.removed.shapes = {page.shapes[1]};
    hold_links(edit, page, {}, Ids{});
    ASSERT_EQ(edit.added.shapes.size(), 1U);
    EXPECT_EQ(edit.added.shapes[0].to.figure, 0);
    EXPECT_EQ(edit.added.shapes[0].from.figure, 1);
    EXPECT_EQ(edit.added.shapes[0].shape.points.back(), (Point{40, 80}));
}

TEST(Links, MovedAwayByThemselvesComeOffAndHoldOnToWhatTheyComeNearTo) {
    Page page = flow();
    Edit off = moving(page, 2, Affine::shift({80, 0}));
    hold_links(off, page, {}, Ids{});
    ASSERT_EQ(off.added.shapes.size(), 1U);
    EXPECT_FALSE(off.added.shapes[0].holds());
    apply(page, off);
    Edit back = moving(page, 2, Affine::shift({-79, 0}));
    hold_links(back, page, {}, Ids{});
    EXPECT_EQ(back.added.shapes[0].from.figure, 1);
    EXPECT_EQ(back.added.shapes[0].to.figure, 2);
}

TEST(Links, ElbowsLeaveOutwardAndEnterInwardWithRightAngles) {
    Page page = flow(Routing::elbow);
    EXPECT_EQ(page.shapes[2].shape.points.size(), 2U) << "below one another it is straight";
    for (const Point by : {Point{70, 0}, Point{70, 62}, Point{-90, 30}, Point{0, 130}, Point{25, 0}}) {
        Edit edit = moving(page, 0, Affine::shift(by));
        hold_links(edit, page, {}, Ids{});
        const FairShape& link = link_in(edit.added.shapes);
        const std::vector<Point>& p = link.shape.points;
        const Box from = box_of(edit.added.shapes[0].shape), to = box_of(page.shapes[1].shape);
        for (size_t i = 1; i < p.size(); ++i) {
            EXPECT_TRUE(std::abs(p[i].x - p[i - 1].x) < 1e-6 || std::abs(p[i].y - p[i - 1].y) < 1e-6);
            const Point middle = (p[i] + p[i - 1]) * 0.5;
            EXPECT_FALSE(from.grown(-0.1).contains(middle) || to.grown(-0.1).contains(middle)) << by.x << ' ' << by.y;
        }
        EXPECT_EQ(link.shape.kind, ShapeKind::arrow);
    }
}

TEST(Links, ThatAreNewStayAsTheyWereDrawn) {
    Page page = flow(Routing::elbow);
    Edit edit{"Draw fair"};
    edit.added.shapes = page.shapes;
    // Nobody's shortest way.
    edit.added.shapes[2].shape.points = {{40, 40}, {40, 50}, {75, 50}, {75, 90}, {60, 90}};
    const FairShape drawn = edit.added.shapes[2];
    page.shapes.clear();
    hold_links(edit, page, {}, Ids{});
    EXPECT_EQ(edit.added.shapes.size(), 3U);
    EXPECT_EQ(edit.added.shapes[2], drawn);
}

TEST(Links, ACurveBowsAndKeepsItsEnds) {
    const Page page = flow(Routing::curved);
    const std::vector<Point>& p = page.shapes[2].shape.points;
    EXPECT_GT(p.size(), 8U);
    EXPECT_EQ(p.front(), (Point{40, 40}));
    EXPECT_EQ(p.back(), (Point{40, 80}));
    EXPECT_NEAR(std::abs(p[p.size() / 2].x - 40), 0.3 * 40, 0.5);
}

TEST(Links, WordsBesideThemRideAlong) {
    Page page = flow();
    Stroke word;
    word.id = 7;
    for (int i = 0; i < 8; ++i) word.points.push_back({{42.0 + i, 58.0 + i % 2}});
    page.strokes = {word};
    ReadLine drawing, line;
    drawing.kind = RegionKind::drawing;
    for (const FairShape& s : page.shapes) drawing.shapes.push_back({{s.id}, {{s.shape, 1, 0}}});
    line.words = {{"yes", 0.9, word.box(), {7}, {}, false}};
    line.box = word.box();
    Edit edit = moving(page, 0, Affine::shift({40, 0}));
    hold_links(edit, page, {{drawing, line}}, Ids{});
    ASSERT_EQ(edit.added.strokes.size(), 1U);
    EXPECT_NEAR(edit.added.strokes[0].box().left - word.box().left, 20, 3) << "half as far as the end went";
    ASSERT_EQ(edit.replacements.size(), 1U);
    EXPECT_EQ(edit.replacements[0].first, 7) << "what was said of it holds";
}

TEST(Links, TheInkOfALinkThatWasLedAnewComesBackWhereTheLinkIs) {
    Page page = flow();
    page.shapes[2].ink = {70};
    Edit edit = moving(page, 1, Affine::shift({0, 40}));
    hold_links(edit, page, {}, Ids{});
    const Affine& carried = link_in(edit.added.shapes).transform_since_set;
    EXPECT_LT(distance(carried({40, 40}), {40, 40}), 1e-6);
    EXPECT_LT(distance(carried({40, 80}), {40, 120}), 1e-6);
}

TEST(Links, WhileFiguresMoveTheirLinksAreToldAsTheyWouldBe) {
    const Page page = flow();
    Elements moved;
    moved.shapes = {ElementTraits<FairShape>::transformed(page.shapes[0], Affine::shift({30, 0}))};
    const auto links = links_led(page, moved);
    ASSERT_EQ(links.size(), 1U);
    EXPECT_NE(links[0].shape, page.shapes[2].shape);
    EXPECT_TRUE(links_led(page, {}).empty());
}

TEST(Links, FiguresOnOneAnotherOrWithoutASizeDoNoHarm) {
    Page page = flow();
    Edit edit = moving(page, 0, Affine::shift({0, 60}));
    hold_links(edit, page, {}, Ids{});
    for (const FairShape& s : edit.added.shapes) EXPECT_TRUE(is_valid(s.shape));
    Edit flat = moving(page, 0, Affine::scale(1e-9, 1e-9, {40, 30}));
    hold_links(flat, page, {}, Ids{});
    for (const FairShape& s : flat.added.shapes) EXPECT_TRUE(is_valid(s.shape));
    page.shapes[2].to.figure = 99;  // of no figure there is
    Edit other = moving(page, 0, Affine::shift({5, 0}));
    hold_links(other, page, {}, Ids{});
    EXPECT_EQ(link_in(other.added.shapes).to.figure, 0);
}

}  // namespace
}  // namespace fernleaf
