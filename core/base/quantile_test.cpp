#include "base/quantile.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

TEST(Quantile, TakesTheNumberThatWouldStandThere) {
    const std::vector<int> values{9, 1, 7, 3, 5};
    EXPECT_EQ(median(values), 5);
    EXPECT_EQ(quantile(values, 0), 1);
    EXPECT_EQ(quantile(values, 0.3), 3);
    EXPECT_EQ(quantile(values, 1), 9);
    EXPECT_EQ(in_order_at(values, 40), 9) << "none lies beyond the last";
}

TEST(Quantile, OfTwoInTheMiddleTheHigherIsTheMedian) { EXPECT_EQ(median(std::vector<double>{4, 1, 3, 2}), 3); }

TEST(Quantile, NothingHasADefault) {
    EXPECT_EQ(median(std::vector<float>{}), 0);
    EXPECT_EQ(quantile(std::vector<int>{}, 0.5), 0);
}

}  // namespace
}  // namespace fernleaf
