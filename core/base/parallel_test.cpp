#include "base/parallel.h"

#include <gtest/gtest.h>

#include <stdexcept>

namespace fernleaf {
namespace {

TEST(InParallel, DoesEachOnce) {
    std::vector<std::atomic<int>> done(1000);
    in_parallel(
        done.size(), [&](size_t i) { ++done[i]; }, 4);
    for (const auto& times : done) EXPECT_EQ(times, 1);
    in_parallel(0, [](size_t) { FAIL(); });
}

TEST(InParallel, GivesOnWhatAJobThrows) {
    std::atomic<int> begun = 0;
    const auto all = [&] {
        in_parallel(
            100'000,
            [&](size_t i) {
                ++begun;
                if (i == 7) throw std::runtime_error("seven");
            },
            3);
    };
    EXPECT_THROW(all(), std::runtime_error);
    EXPECT_LT(begun, 100'000);
}

}  // namespace
}  // namespace fernleaf
