#include "page/edit.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

Stroke stroke(StrokeId id) {
    Stroke s;
    s.id = id;
    s.points = {{{1.0 * static_cast<double>(id), 2}}};
    return s;
}

TEST(Edit, ReversedTakesItBackExactly) {
    Page page;
    page.strokes = {stroke(1), stroke(2), stroke(3)};
    page.pictures = {{5, "hash", "name", 0, Box::of(0, 0, 10, 10)}};
    const Page before = page;
    const Edit edit{"Replace", {{stroke(4)}}, {{stroke(2)}, page.pictures}};
    apply(page, edit);
    EXPECT_EQ(page.strokes, (std::vector{stroke(1), stroke(3), stroke(4)}));
    EXPECT_TRUE(page.pictures.empty());
    apply(page, edit.reversed());
    EXPECT_EQ(page.strokes, before.strokes);
    EXPECT_EQ(page.pictures, before.pictures);
}

TEST(Edit, JoinedDoesWhatTwoDoOneAfterTheOther) {
    const auto stroke = [](StrokeId id) {
        Stroke s;
        s.id = id;
        return s;
    };
    Page page;
    page.strokes = {stroke(1), stroke(2), stroke(3)};
    Edit first{"Cut", {{stroke(11), stroke(12)}}, {{stroke(1), stroke(2)}}};
    first.followed = {{1, 11}, {2, 12}};
    Edit second{"Move", {{stroke(21), stroke(23)}}, {{stroke(11), stroke(3)}}};
    second.followed = {{11, 21}, {3, 23}};
    Page one_by_one = page;
    apply(one_by_one, first);
    apply(one_by_one, second);
    const Edit both = joined(first, second);
    Page at_once = page;
    apply(at_once, both);
    EXPECT_EQ(at_once.strokes, one_by_one.strokes);
    EXPECT_EQ(both.label, "Cut");
    EXPECT_EQ(both.followed, (std::vector<std::pair<StrokeId, StrokeId>>{{1, 21}, {2, 12}, {3, 23}}));
    apply(at_once, both.reversed());
    EXPECT_EQ(at_once.strokes, page.strokes);
}

TEST(Edit, CorrectionsGoWithTheStrokesThatFollow) {
    Stroke moved, other;
    moved.id = 11, moved.points = {{{5, 5}}, {{9, 7}}};
    other.id = 12, other.points = {{{20, 5}}};
    Edit edit{"Move", {{moved, other}}};
    edit.followed = {{1, 11}, {2, 12}};
    const std::vector<Correction> corrections{
        {{1, 2}, {}, "Hallow"}, {{1, 3}, {}, "half of it stays"}, {{}, {}, "in a picture"}};
    const auto followed = followed_corrections(corrections, edit.followed, edit.added.strokes);
    ASSERT_EQ(followed.size(), 1U);
    EXPECT_EQ(followed[0].text, "Hallow");
    EXPECT_EQ(followed[0].strokes, (std::vector<StrokeId>{11, 12}));
    EXPECT_TRUE(followed[0].box.contains({9, 7}));
    EXPECT_TRUE(followed[0].box.contains({20, 5}));
    edit.followed.clear();
    EXPECT_TRUE(followed_corrections(corrections, edit.followed, edit.added.strokes).empty());
}

}  // namespace
}  // namespace fernleaf
