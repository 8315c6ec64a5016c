#include "math/math_signs.h"

#include <gtest/gtest.h>

#include <set>
#include <string>

namespace fernleaf {
namespace {

TEST(MathSigns, EachHasOneNameAndIsFoundByIt) {
    std::set<std::string> names;
    for (size_t i = 0; i < math_signs().size(); ++i) {
        EXPECT_TRUE(names.insert(math_signs()[i].latex).second) << math_signs()[i].latex;
        EXPECT_EQ(sign_named(math_signs()[i].latex), i);
    }
    EXPECT_FALSE(sign_named("\\unheardof"));
    EXPECT_FALSE(sign_named(""));
}

TEST(MathSigns, TwinsDifferInSizeOrPlaceAlone) {
    const size_t zero = *sign_named("0");
    ASSERT_EQ(twins_of(zero).size(), 2U);
    for (const size_t twin : twins_of(zero)) {
        EXPECT_TRUE(is_twin(twin));
        EXPECT_NE(math_signs()[twin].height, math_signs()[zero].height);
    }
    EXPECT_EQ(twins_of(*sign_named("x")), std::vector<size_t>{*sign_named("X")});
    EXPECT_TRUE(twins_of(*sign_named("7")).empty());
    EXPECT_FALSE(is_twin(zero));
}

}  // namespace
}  // namespace fernleaf
