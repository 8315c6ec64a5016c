#include "drawing/pen_path.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

TEST(PenPath, StepsAreEvenAndTheEndsStay) {
    const PenPath path = resampled({{0, 0}, {3, 0}, {3.1, 0}, {10, 0}}, 1);
    ASSERT_EQ(path.size(), 11U);
    EXPECT_EQ(path.front(), (Point{0, 0}));
    for (size_t i = 1; i < path.size(); ++i) EXPECT_NEAR(distance(path[i - 1], path[i]), 1, 1e-9);
    EXPECT_EQ(resampled({{5, 5}, {5, 5}}, 1).size(), 2U);
}

TEST(PenPath, HooksAreCutOffCornersAreNot) {
    PenPath path = resampled({{1.5, 1}, {0, 0}, {40, 0}}, 0.5);
    EXPECT_LT(distance(without_hooks(path, 3).front(), {0, 0}), 0.6);
    const PenPath corner = resampled({{0, 20}, {0, 0}, {40, 0}}, 0.5);
    EXPECT_EQ(without_hooks(corner, 3).size(), corner.size());
}

TEST(PenPath, PathsAreJoinedEndToNearestEnd) {
    const Chain chain = chained({{{20, 0}, {10, 0}}, {{0, 0}, {9.5, 0}}, {{31, 0}, {21, 0}}});
    EXPECT_EQ(chain.path.size(), 6U);
    EXPECT_NEAR(chain.gap, 1, 1e-9);
    EXPECT_NEAR(distance(chain.path.front(), chain.path.back()), 31, 1e-9);
    EXPECT_TRUE(chained({}).path.empty());
}

TEST(PenPath, CornersAreWhereTheWayTurns) {
    const PenPath open = resampled({{0, 0}, {30, 0}, {30, 20}}, 1);
    const std::vector<Pieces> pieces = straight_pieces(open, 4, false);
    ASSERT_EQ(pieces[2].corners.size(), 3U);
    EXPECT_LT(distance(open[pieces[2].corners[1]], {30, 0}), 1.01);
    EXPECT_LT(pieces[2].error, 0.1);
    EXPECT_GT(pieces[1].error, 3);
}

TEST(PenPath, SidesCrossWhereACutCornerIsMeant) {
    PenPath cut;
    for (double x = 3; x <= 37; x += 1) cut.push_back({x, 0});
    for (double y = 3; y <= 27; y += 1) cut.push_back({40, y});
    for (double x = 37; x >= 3; x -= 1) cut.push_back({x, 30});
    for (double y = 27; y >= 3; y -= 1) cut.push_back({0, y});
    const std::vector<Pieces> pieces = straight_pieces(cut, 6, true);
    ASSERT_EQ(pieces[4].corners.size(), 4U);
    const PenPath corners = crossed_sides(cut, pieces[4].corners);
    for (const Point p : {Point{0, 0}, {40, 0}, {40, 30}, {0, 30}}) {
        double nearest = 100;
        for (const Point& c : corners) nearest = std::min(nearest, distance(c, p));
        EXPECT_LT(nearest, 0.7) << p.x << ' ' << p.y;
    }
}

}  // namespace
}  // namespace fernleaf
