#include "drawing/aligning.h"

#include <gtest/gtest.h>

#include "drawing/guides.h"
#include "drawing/links.h"

namespace fernleaf {
namespace {

FairShape aligned_box(ElementId id, double x, double y, double w = 20, double h = 10) {
    FairShape out;
    out.id = id, out.key = id;
    out.shape = {ShapeKind::rectangle, {{x, y}, {x + w, y}, {x + w, y + h}, {x, y + h}}};
    return out;
}

// Three boxes, a word in the second, and a link between the first two.
Elements three() {
    Elements out;
    out.shapes = {aligned_box(1, 10, 10), aligned_box(2, 44, 32), aligned_box(3, 90, 18, 30, 20)};
    FairShape link = linked(out.shapes[0], out.shapes[1]);
    link.id = 4;
    out.shapes.push_back(link);
    Stroke word;
    word.id = 5;
    for (int i = 0; i < 6; ++i) word.points.push_back({{50.0 + i, 36.0 + i % 2}});
    out.strokes = {word};
    return out;
}

TEST(Aligning, AFigureAndItsWordsAreOnePieceAndLinksAreNone) {
    const Elements chosen = three();
    EXPECT_EQ(count_pieces(chosen), 3U);
    const Elements left = aligned(chosen, Alignment::left);
    for (size_t i = 0; i < 3; ++i) EXPECT_NEAR(drawn_box(left.shapes[i]).left, drawn_box(chosen.shapes[0]).left, 1e-9);
    EXPECT_NEAR(left.strokes[0].box().left, 50 - 34, 1e-9);
    EXPECT_EQ(left.shapes[3], chosen.shapes[3]);
    const Elements middle = aligned(chosen, Alignment::middle);
    EXPECT_NEAR(drawn_box(middle.shapes[0]).centre().y, drawn_box(middle.shapes[2]).centre().y, 1e-9);
    EXPECT_EQ(drawn_box(middle.shapes[0]).left, drawn_box(chosen.shapes[0]).left);
    const Elements bottom = aligned(chosen, Alignment::bottom);
    EXPECT_NEAR(drawn_box(bottom.shapes[0]).bottom, drawn_box(bottom.shapes[1]).bottom, 1e-9);
}

TEST(Aligning, GapsBecomeAlikeAndTheOutermostStay) {
    const Elements chosen = three();
    const Elements even = distributed(chosen, true);
    const auto at = [&](size_t i) { return drawn_box(even.shapes[i]); };
    EXPECT_NEAR(at(1).left - at(0).right, at(2).left - at(1).right, 1e-9);
    EXPECT_EQ(at(0), drawn_box(chosen.shapes[0]));
    EXPECT_NEAR(at(2).right, drawn_box(chosen.shapes[2]).right, 1e-9);
    Elements two;
    two.shapes = {chosen.shapes[0], chosen.shapes[2]};
    EXPECT_EQ(distributed(two, true), two);
}

TEST(Guides, EdgesAndMiddlesDrawAndTellTheirLine) {
    const std::vector<Box> others{Box::of(10, 10, 20, 10)};
    const Snap snap = snapped(Box::of(10.8, 40, 30, 10), others, 0, 1.5);
    EXPECT_NEAR(snap.by.x, -0.8, 1e-9);
    EXPECT_EQ(snap.by.y, 0);
    ASSERT_EQ(snap.lines.size(), 1U);
    EXPECT_NEAR(snap.lines[0].first.x, 10, 1e-9);
    EXPECT_NEAR(snap.lines[0].first.y, 10, 1e-9);
    EXPECT_NEAR(snap.lines[0].second.y, 50, 1e-9);
    EXPECT_TRUE(snapped(Box::of(13, 43, 30, 11), others, 0, 1.5).lines.empty());
}

TEST(Guides, EqualGapsDrawBetweenAndBeyond) {
    const std::vector<Box> others{Box::of(0, 0, 20, 10), Box::of(30, 0, 20, 10)};
    EXPECT_NEAR(snapped(Box::of(61, 3, 13, 13), others, 0, 1.5).by.x, -1, 1e-9) << "as far beyond as they are apart";
    const std::vector<Box> wide{Box::of(0, 0, 20, 10), Box::of(50, 0, 20, 10)};
    EXPECT_NEAR(snapped(Box::of(29, 3, 11, 11), wide, 0, 1.5).by.x, 0.5, 1e-9) << "in the middle between them";
}

TEST(Guides, TheGridDrawsWhereNothingElseDoes) {
    EXPECT_NEAR(snapped(Box::of(10.7, 3, 7, 7), {}, 5, 1).by.x, -0.7, 1e-9);
    EXPECT_EQ(snapped(Box::of(12.4, 2.4, 7, 7), {}, 5, 1).by, Point{});
    EXPECT_EQ(snapped(Box::of(10.7, 3, 7, 7), {}, 0, 1).by, Point{});
}

}  // namespace
}  // namespace fernleaf
