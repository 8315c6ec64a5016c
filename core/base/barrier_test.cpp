#include "base/barrier.h"

#include <gtest/gtest.h>

#include <stdexcept>

namespace fernleaf {
namespace {

TEST(Barrier, GivesWhatIsBehindItWhenNothingIsThrown) {
    EXPECT_EQ(*guarded([]() -> Result<int> { return 7; }), 7);
    EXPECT_EQ(guarded([]() -> Result<int> { return Error{"No."}; }).error().message, "No.");
}

TEST(Barrier, MakesAnyExceptionOneSentence) {
    const auto failed = guarded([]() -> Result<int> { throw std::runtime_error("size is zero"); });
    ASSERT_FALSE(failed);
    EXPECT_EQ(failed.error().message, "Something unexpected happened in Fernleaf: size is zero");
    EXPECT_FALSE(guarded([]() -> Status { throw 3; }));
}

TEST(Barrier, SaysThatMemoryIsShort) {
    const auto failed = guarded([]() -> Status { throw std::bad_alloc(); });
    ASSERT_FALSE(failed);
    EXPECT_NE(failed.error().message.find("memory"), std::string::npos);
}

}  // namespace
}  // namespace fernleaf
