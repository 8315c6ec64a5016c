#include "document/side_by_side.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

constexpr SizeMm kA4{210, 297};

void expect_apart(const std::vector<Box>& boxes, SizeMm page) {
    for (size_t i = 0; i < boxes.size(); ++i) {
        EXPECT_GE(boxes[i].left, 0);
        EXPECT_GE(boxes[i].top, 0);
        EXPECT_LE(boxes[i].right, page.width);
        EXPECT_LE(boxes[i].bottom, page.height);
        for (size_t k = 0; k < i; ++k) EXPECT_FALSE(boxes[i].meets(boxes[k])) << i << " and " << k;
    }
}

TEST(SideBySide, NotesThatFitKeepTheirSizeAndStandInRows) {
    const std::vector<Box> boxes = side_by_side(std::vector<SizeMm>(5, {76, 76}), kA4);
    ASSERT_EQ(boxes.size(), 5U);
    expect_apart(boxes, kA4);
    for (const Box& b : boxes) EXPECT_DOUBLE_EQ(b.width(), 76);
    EXPECT_EQ(boxes[0].top, boxes[1].top);
    EXPECT_GT(boxes[2].top, boxes[1].bottom) << "two a row";
    EXPECT_EQ(boxes[2].left, boxes[0].left);
}

TEST(SideBySide, WhatIsTooLargeIsMadeSmallerAlike) {
    const std::vector<Box> boxes = side_by_side({{210, 297}, {210, 297}, {297, 210}, {76, 76}}, kA4);
    ASSERT_EQ(boxes.size(), 4U);
    expect_apart(boxes, kA4);
    EXPECT_NEAR(boxes[3].width() / boxes[0].width(), 76.0 / 210, 1e-9);
    EXPECT_NEAR(boxes[0].width() / boxes[0].height(), 210.0 / 297, 1e-9);
    EXPECT_TRUE(side_by_side({}, kA4).empty());
    expect_apart(side_by_side(std::vector<SizeMm>(24, {210, 297}), kA4), kA4);
}

}  // namespace
}  // namespace fernleaf
