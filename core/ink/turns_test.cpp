#include "ink/turns.h"

#include <gtest/gtest.h>

#include <vector>

namespace fernleaf {
namespace {

TEST(Runs, AreCountedForthAndBack) {
    EXPECT_EQ(runs_of(std::vector<double>{0, 1, 2, 3}, 2), 1);
    EXPECT_EQ(runs_of(std::vector<double>{0, 3, 0, -3, 0, 3}, 2), 3);
    EXPECT_EQ(runs_of(std::vector<double>{0, 3, 0}, 2), 2);
}

TEST(Runs, TremorCountsNothing) {
    EXPECT_EQ(runs_of(std::vector<double>{0, 0.4, -0.4, 0.3, -0.2}, 2), 0);
    EXPECT_EQ(runs_of(std::vector<double>{0, 1.2, 0.9, 2.1, 1.8, 3, 2.7, 0}, 2), 2);
    EXPECT_EQ(runs_of({}, 2), 0);
}

}  // namespace
}  // namespace fernleaf
