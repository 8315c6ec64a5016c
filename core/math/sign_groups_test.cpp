#include "math/sign_groups.h"

#include <gtest/gtest.h>

#include <algorithm>

#include "ink/test_stroke.h"

namespace fernleaf {
namespace {

std::vector<std::vector<size_t>> groups(const std::vector<Stroke>& strokes, double usual = 4) {
    std::vector<const Stroke*> all;
    for (const Stroke& s : strokes) all.push_back(&s);
    return sign_groups(all, usual);
}

bool holds(const std::vector<std::vector<size_t>>& all, const std::vector<size_t>& group) {
    return std::ranges::find(all, group) != all.end();
}

TEST(SignGroups, EachStrokeMayBeASignAndThoseNearOneAnotherOne) {
    const std::vector<Stroke> two_and_plus{stroke_along(1, {{0, 0}, {3, 0}, {0, 5}, {3, 5}}),
                                           stroke_along(2, {{8, 2.5}, {12, 2.5}}),
                                           stroke_along(3, {{10, 0.5}, {10, 4.5}})};
    const auto all = groups(two_and_plus);
    for (const size_t i : {0, 1, 2}) EXPECT_TRUE(holds(all, {i}));
    EXPECT_TRUE(holds(all, {1, 2}));
    EXPECT_FALSE(holds(all, {0, 1})) << "too far apart";
}

TEST(SignGroups, TwoDigitsBesideOneAnotherAreNotTakenForOneSign) {
    const std::vector<Stroke> sevens{stroke_along(1, {{0, 0}, {4, 0}, {1, 7}}),
                                     stroke_along(2, {{6, 0}, {10, 0}, {7, 7}})};
    EXPECT_FALSE(holds(groups(sevens, 6), {0, 1}));
}

TEST(SignGroups, AForgottenDotBelongsToWhatItStandsOver) {
    const std::vector<Stroke> ink{stroke_along(1, {{0, 3}, {0, 6}}), stroke_along(2, {{5, 3}, {5, 6}}),
                                  stroke_along(3, {{0.6, 1}, {0.7, 1.1}})};
    EXPECT_TRUE(holds(groups(ink), {0, 2}));
    EXPECT_FALSE(holds(groups(ink), {1, 2}));
}

TEST(SignGroups, ADotMayBeFarFromItsStemAndABarLongBesideItsRoot) {
    const std::vector<Stroke> dotted{stroke_along(1, {{0, 5}, {0, 8}}), stroke_along(2, {{0.2, 0.5}, {0.3, 0.6}})};
    EXPECT_TRUE(holds(groups(dotted), {0, 1}));
    const std::vector<Stroke> barred{stroke_along(1, {{0, 5}, {1, 9}, {4, 0}}), stroke_along(2, {{4, 0}, {18, 0}})};
    EXPECT_TRUE(holds(groups(barred), {0, 1}));
}

TEST(SignGroups, AnAdjacentPointStaysAPointAndTheDotOfAnExclamationMarkDoesNot) {
    const std::vector<Stroke> one_point{stroke_along(1, {{0, 0}, {0, 6}}), stroke_along(2, {{0.9, 5.8}, {1, 5.9}})};
    EXPECT_FALSE(holds(groups(one_point), {0, 1}));
    const std::vector<Stroke> exclamation{stroke_along(1, {{0.2, 0}, {0, 4}}),
                                          stroke_along(2, {{0.1, 5.8}, {0.15, 5.9}})};
    EXPECT_TRUE(holds(groups(exclamation), {0, 1}));
}

TEST(SignGroups, NoMoreThanFourStrokesAndNoneTwice) {
    std::vector<Stroke> many;
    for (int i = 0; i < 7; ++i) many.push_back(stroke_along(i + 1, {{0, i * 0.5}, {4, i * 0.5}}));
    const auto all = groups(many);
    for (const auto& group : all) EXPECT_LE(group.size(), kMostStrokesOfSign);
    auto sorted = all;
    std::ranges::sort(sorted);
    EXPECT_EQ(std::ranges::adjacent_find(sorted), sorted.end());
}

TEST(SignGroups, NothingOfNothing) { EXPECT_TRUE(groups({}).empty()); }

}  // namespace
}  // namespace fernleaf
