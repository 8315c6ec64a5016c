#include "math/sign_memory.h"

#include <gtest/gtest.h>

#include <numeric>

#include "math/math_signs.h"

namespace fernleaf {
namespace {

// A form whose ink runs through some places.
SignForm form(std::initializer_list<size_t> places, float slight = 0) {
    SignForm out{};
    for (const size_t i : places) out[i] = 1;
    out[0] += slight;
    return out;
}

std::vector<float> even() {
    const size_t count = math_signs().size() + 1;
    return std::vector<float>(count, 1.0F / static_cast<float>(count));
}

std::vector<float> leaning(const SignMemory& taught, const SignForm& at, StrokeId of_formula = 50) {
    std::vector<float> chances = even();
    taught.lean(at, {of_formula}, chances);
    return chances;
}

TEST(SignMemory, WhatLooksLikeACorrectedSignIsLikelierThat) {
    SignMemory taught;
    const size_t z = *sign_named("z"), two = *sign_named("2");
    EXPECT_EQ(leaning(taught, form({3, 4, 5})), even()) << "nothing was taught";
    EXPECT_TRUE(taught.take({1, 2}, {{{1}, form({3, 4, 5}), z}}));
    EXPECT_FALSE(taught.take({1, 2}, {{{1}, form({3, 4, 5}), z}})) << "it is known";
    const std::vector<float> chances = leaning(taught, form({3, 4, 5}, 0.2F));
    EXPECT_GT(chances[z], 0.4);
    EXPECT_NEAR(std::accumulate(chances.begin(), chances.end(), 0.0F), 1, 1e-4);
    EXPECT_EQ(leaning(taught, form({300, 301, 5})), even()) << "it looks otherwise";
    EXPECT_EQ(leaning(taught, form({3, 4, 5}), 1), even()) << "another sign of the same formula";
    // Two signs of like form share.
    EXPECT_TRUE(taught.take({9}, {{{9}, form({3, 4, 5}, 0.3F), two}}));
    const std::vector<float> both = leaning(taught, form({3, 4, 5}, 0.15F));
    EXPECT_GT(both[z], 0.2);
    EXPECT_GT(both[two], 0.2);
    // What is said anew of a formula counts instead, also that nothing is.
    EXPECT_TRUE(taught.take({1, 2}, {}));
    EXPECT_LT(leaning(taught, form({3, 4, 5}))[z], 0.05);
}

TEST(SignMemory, SignsOfOneFormAreTaughtTogether) {
    SignMemory taught;
    const size_t large = *sign_named("X"), small = *sign_named("x");
    taught.take({1}, {{{1}, form({3, 4}), large}});
    const std::vector<float> chances = leaning(taught, form({3, 4}));
    EXPECT_GT(chances[is_twin(large) ? small : large], 0.5) << "size tells which, later";
}

TEST(SignMemory, TheOldestGoWhenThereAreMany) {
    SignMemory taught;
    const size_t z = *sign_named("z"), two = *sign_named("2");
    taught.take({1}, {{{1}, form({3}), z}});
    for (StrokeId id = 2; id <= static_cast<StrokeId>(SignMemory::kMost) + 1; ++id)
        taught.take({id}, {{{id}, form({7}), two}});
    EXPECT_EQ(leaning(taught, form({3})), even());
    EXPECT_GT(leaning(taught, form({7}))[two], 0.5);
}

}  // namespace
}  // namespace fernleaf
