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

TEST(InParallel, GivesOnWhatAJobThrowsAndBeginsNoMore) {
    for (const size_t threads : {1U, 3U}) {
        std::atomic<int> begun = 0;
        const auto all = [&] {
            in_parallel(
                100'000,
                [&](size_t i) {
                    ++begun;
                    if (i == 7) throw std::runtime_error("seven");
                },
                threads);
        };
        EXPECT_THROW(all(), std::runtime_error);
        // Others may have begun all that is left before the one that throws has its turn.
        if (threads == 1) {
            EXPECT_EQ(begun, 8);
        }
    }
}

}  // namespace
}  // namespace fernleaf
