#include "ink/ink_key.h"

#include <gtest/gtest.h>

#include <vector>

#include "ink/test_stroke.h"

namespace fernleaf {
namespace {

uint64_t key(const std::vector<Stroke>& strokes) {
    std::vector<const Stroke*> all;
    for (const Stroke& s : strokes) all.push_back(&s);
    return ink_key(all);
}

TEST(InkKey, IsOfWhereThePointsAreAlone) {
    const Stroke line = stroke_along(1, {{0, 0}, {5, 0}});
    Stroke same = line;
    same.id = 9, same.pen.colour = 0x123456, same.start_ms = 77;
    EXPECT_EQ(key({line}), key({same}));
    Stroke moved = line;
    moved.points.change()[3].at.y += 0.001;
    EXPECT_NE(key({line}), key({moved}));
}

TEST(InkKey, TellsWhichPointsAreOfOneStroke) {
    const Stroke a = stroke_along(1, {{0, 0}, {5, 0}}), b = stroke_along(2, {{5, 0}, {5, 5}});
    Stroke joined = a;
    for (const InkPoint& p : b.points) joined.points.push_back(p);
    EXPECT_NE(key({a, b}), key({joined}));
    EXPECT_NE(key({a, b}), key({b, a}));
    EXPECT_NE(key({}), key({a}));
}

}  // namespace
}  // namespace fernleaf
