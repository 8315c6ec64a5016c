#include "capture/captured_stroke.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

TEST(CapturedStroke, HoldsWhatInkHolds) {
    Stroke stroke;
    stroke.start_ms = 5000;
    stroke.points = {{{12.34, 56.78}, 1, 30, -40, 0}, {{13, 57}, 0.5F, 0, 0, 12}, {{1e9, -1e9}, 7, 500, 0, 20}};
    const auto out = captured(stroke, {2, 5, 1});
    ASSERT_EQ(out.size(), 1U);
    EXPECT_EQ(out[0].start_ms, 5000);
    ASSERT_EQ(out[0].points.size(), 3U);
    EXPECT_EQ(out[0].points[0], (CapturedPoint{1234, 5678, 255, 0, 30, -40}));
    EXPECT_EQ(out[0].points[1].after_ms, 12);
    EXPECT_EQ(out[0].points[2], (CapturedPoint{kFarthestCaptured, -kFarthestCaptured, 255, 8, 90, 0}));
}

TEST(CapturedStroke, IsPartedWhereItHasTooManyPoints) {
    Stroke stroke;
    stroke.start_ms = 1000;
    for (uint32_t i = 0; i < 2 * kMostCapturedPoints; ++i) stroke.points.push_back({{i * 0.01, 0}, 0.5F, 0, 0, 5 * i});
    const auto out = captured(stroke, {2, 5, 1});
    ASSERT_EQ(out.size(), 3U);
    EXPECT_EQ(out[0].points.size(), kMostCapturedPoints);
    EXPECT_EQ(out[1].points.front().x, out[0].points.back().x);
    EXPECT_EQ(out[1].start_ms, 1000 + 5 * static_cast<int64_t>(kMostCapturedPoints - 1));
    EXPECT_TRUE(captured(Stroke{}, {}).empty());
}

}  // namespace
}  // namespace fernleaf
