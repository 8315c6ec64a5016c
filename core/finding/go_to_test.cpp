#include "finding/go_to.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

TEST(GoTo, EveryWordTypedMustFit) {
    EXPECT_GT(GoToQuery("fro WAT").match("frost watch"), 0);
    EXPECT_GT(GoToQuery("wat fro").match("frost watch"), 0);
    EXPECT_EQ(GoToQuery("fro mill").match("frost watch"), 0);
    EXPECT_EQ(GoToQuery("").match("frost watch"), 0);
    EXPECT_TRUE(GoToQuery(" ?").empty());
}

TEST(GoTo, BeginningsAreMeantFirst) {
    const GoToQuery query("wat");
    EXPECT_GT(query.match("water tank"), query.match("frost watch"));
    EXPECT_GT(query.match("frost watch"), query.match("kilowatts"));
    EXPECT_GT(query.match("kilowatts"), 0);
    EXPECT_GT(query.match("water"), query.match("water tank")) << "the shorter of two";
}

}  // namespace
}  // namespace fernleaf
