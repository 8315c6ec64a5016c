#include "store/sealing.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

TEST(Sealing, OnlyThePassphraseOpensIt) {
    std::string bytes(200'000, '\0');
    for (size_t i = 0; i < bytes.size(); ++i) bytes[i] = static_cast<char>(i * i);
    const auto sealed = seal(bytes, "frost in may");
    ASSERT_TRUE(sealed);
    EXPECT_TRUE(looks_sealed(*sealed));
    EXPECT_EQ(sealed->find(bytes.substr(1000, 16)), std::string::npos);
    EXPECT_NE(*sealed, *seal(bytes, "frost in may")) << "never the same twice";
    EXPECT_EQ(*unseal(*sealed, "frost in may"), bytes);
    EXPECT_FALSE(unseal(*sealed, "frost in June"));
    EXPECT_EQ(*unseal(*seal("", "x"), "x"), "");
}

TEST(Sealing, WhatWasChangedOrCutIsTold) {
    const std::string bytes(150'000, 'a');
    const std::string sealed = *seal(bytes, "x");
    for (const size_t at : {size_t{3}, size_t{20}, size_t{60}, size_t{100}, size_t{90'000}, sealed.size() - 1}) {
        std::string changed = sealed;
        changed[at] = static_cast<char>(changed[at] ^ 1);
        EXPECT_FALSE(unseal(changed, "x")) << at;
    }
    for (const size_t length : {size_t{0}, size_t{30}, size_t{66}, size_t{70'000}, sealed.size() - 17})
        EXPECT_FALSE(unseal(sealed.substr(0, length), "x")) << length;
    EXPECT_FALSE(unseal(sealed + "more", "x"));
}

TEST(Sealing, TakesNoPassphraseThatIsNone) {
    EXPECT_FALSE(seal("a", ""));
    EXPECT_FALSE(seal("a", std::string(1'000'000, 'x')));
    EXPECT_FALSE(unseal(*seal("a", "x"), std::string(1'000'000, 'x')));
    // A foreign file that asks for hours of work and all memory.
    std::string greedy = *seal("a", "x");
    for (size_t i = 34; i < 42; ++i) greedy[i] = '\xFF';
    EXPECT_FALSE(unseal(greedy, "x"));
}

}  // namespace
}  // namespace fernleaf
