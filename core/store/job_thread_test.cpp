#include "store/job_thread.h"

#include <gtest/gtest.h>

#include <vector>

namespace fernleaf {
namespace {

TEST(JobThread, DoesJobsInOrderAndFinishesThemBeforeItGoes) {
    std::vector<int> done;
    {
        JobThread thread;
        for (int i = 0; i < 100; ++i) thread.post([&done, i] { done.push_back(i); });
        thread.wait_idle();
        EXPECT_EQ(done.size(), 100U);
        for (int i = 100; i < 150; ++i) thread.post([&done, i] { done.push_back(i); });
    }
    ASSERT_EQ(done.size(), 150U);
    for (int i = 0; i < 150; ++i) EXPECT_EQ(done[static_cast<size_t>(i)], i);
}

}  // namespace
}  // namespace fernleaf
