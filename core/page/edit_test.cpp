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
    const Edit edit{"Replace", {stroke(4)}, {stroke(2)}, {}, page.pictures};
    apply(page, edit);
    EXPECT_EQ(page.strokes, (std::vector{stroke(1), stroke(3), stroke(4)}));
    EXPECT_TRUE(page.pictures.empty());
    apply(page, edit.reversed());
    EXPECT_EQ(page.strokes, before.strokes);
    EXPECT_EQ(page.pictures, before.pictures);
}

}  // namespace
}  // namespace fernleaf
