#include "base/helper_process.h"

#include <gtest/gtest.h>

#include <chrono>
#include <cstdlib>

namespace fernleaf {
namespace {

// Any program may stand in for a helper.
class Helper : public testing::Test {
protected:
    Helper() { setenv("FERNLEAF_HELPERS", "/bin", 1); }
    ~Helper() override { unsetenv("FERNLEAF_HELPERS"); }
};

TEST_F(Helper, WhatItTellsIsHeardToTheEnd) {
    const auto helper = HelperProcess::start("sh", {"-c", "echo one; sleep 0.05; echo two"});
    ASSERT_TRUE(helper) << helper.error().message;
    std::string said;
    while ((*helper)->hear(said, 1000) != HelperProcess::Heard::end) continue;
    EXPECT_EQ(said, "one\ntwo\n");
}

TEST_F(Helper, OneThatIsMissingIsAnError) {
    const auto helper = HelperProcess::start("no-such-helper", {});
    ASSERT_FALSE(helper);
    EXPECT_NE(helper.error().message.find("no-such-helper"), std::string::npos);
}

TEST_F(Helper, AskedToStopItMayFinish) {
    const auto helper =
        HelperProcess::start("sh", {"-c", "trap 'echo bye; exit' TERM; echo here; while :; do sleep 0.01; done"});
    ASSERT_TRUE(helper);
    std::string said;
    while (said.empty()) ASSERT_NE((*helper)->hear(said, 1000), HelperProcess::Heard::end);
    (*helper)->ask_to_stop();
    while ((*helper)->hear(said, 1000) != HelperProcess::Heard::end) continue;
    EXPECT_EQ(said, "here\nbye\n");
}

TEST_F(Helper, OneThatHangsEndsWithItsOwner) {
    const auto begin = std::chrono::steady_clock::now();
    {
        const auto helper = HelperProcess::start("sleep", {"100"});
        ASSERT_TRUE(helper);
        std::string said;
        EXPECT_EQ((*helper)->hear(said, 1), HelperProcess::Heard::nothing);
    }
    EXPECT_LT(std::chrono::steady_clock::now() - begin, std::chrono::seconds(50)) << "its end is not waited for";
}

TEST(OutputOf, AProgramIsGivenItsInputAndItsOutputIsTaken) {
    const std::string large(300'000, 'x');
    const auto said = output_of("cat", {}, large);
    ASSERT_TRUE(said) << said.error().message;
    EXPECT_EQ(*said, large);
}

TEST(OutputOf, OneThatIsMissingFailsHangsOrTellsTooMuchIsAClearError) {
    EXPECT_TRUE(is_installed("sh"));
    EXPECT_FALSE(is_installed("no-such-program"));
    EXPECT_NE(output_of("no-such-program", {}, "").error().message.find("not installed"), std::string::npos);
    EXPECT_NE(output_of("false", {}, "").error().message.find("could not use"), std::string::npos);
    EXPECT_NE(output_of("sleep", {"100"}, "", {.time_ms = 60}).error().message.find("too long"), std::string::npos);
    EXPECT_NE(output_of("sh", {"-c", "exec >&-; sleep 100"}, "", {.time_ms = 60}).error().message.find("too long"),
              std::string::npos)
        << "also when it tells nothing any more";
    EXPECT_NE(output_of("yes", {}, "", {.output_bytes = 100'000}).error().message.find("too much"), std::string::npos);
    CancelSource source;
    source.cancel();
    EXPECT_FALSE(output_of("sleep", {"100"}, "", {}, source.token()));
}

}  // namespace
}  // namespace fernleaf
