#include "capture/pen_clock.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

constexpr int64_t kSet = 1'790'000'000'000, kHour = 3'600'000;

TEST(PenClock, DriftGrowsEvenlySinceItWasSet) {
    // An hour later it is 3.6 s ahead.
    const PenClock fast{kSet, kSet + kHour, kSet + kHour + 3600, 0};
    EXPECT_EQ(true_time(fast, kSet, kSet + kHour), kSet);
    EXPECT_NEAR(static_cast<double>(true_time(fast, kSet + kHour / 2 + 1800, kSet + kHour)), kSet + kHour / 2.0, 2);
    EXPECT_EQ(true_time(fast, kSet + kHour + 3600, kSet + kHour), kSet + kHour);
}

TEST(PenClock, AClockThatBeganAnewIsOffByTheSameAllTheTime) {
    const PenClock lost{kSet, kSet + kHour, 60'000, 0};
    EXPECT_EQ(true_time(lost, 50'000, kSet + kHour), kSet + kHour - 10'000);
    const PenClock never_set{0, kSet, kSet - 5000, 0};
    EXPECT_EQ(true_time(never_set, kSet - 15'000, kSet), kSet - 10'000);
}

TEST(PenClock, WhatItSaysOnceItIsSetIsTakenAsItIs) {
    const PenClock lost{kSet, kSet + kHour, 60'000, kSet + kHour + 500};
    EXPECT_EQ(true_time(lost, kSet + kHour + 900, kSet + kHour + 1000), kSet + kHour + 900);
    EXPECT_EQ(true_time(lost, 60'000, kSet + kHour + 1000), kSet + kHour) << "written before that";
}

TEST(PenClock, NothingWasWrittenLaterThanNowOrBefore1970) {
    const PenClock clock{kSet, kSet + kHour, kSet + kHour, 0};
    EXPECT_EQ(true_time(clock, kSet + 9 * kHour, kSet + kHour), kSet + kHour);
    EXPECT_EQ(true_time(clock, INT64_MIN / 2, kSet + kHour), 0);
}

}  // namespace
}  // namespace fernleaf
