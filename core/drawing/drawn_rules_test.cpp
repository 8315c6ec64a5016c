#include "drawing/drawn_rules.h"

#include <gtest/gtest.h>

#include "drawing/test_ink.h"

namespace fernleaf {
namespace {

TEST(DrawnRules, AFrameInOneStrokeHoldsTwoRulesEachWay) {
    const Rules rules = rules_in({drawn({{10, 20}, {100, 20}, {100, 56}, {10, 56}, {10, 20.5}})});
    ASSERT_EQ(rules.level.size(), 2U);
    ASSERT_EQ(rules.upright.size(), 2U);
    EXPECT_NEAR(rules.level[0].length(), 90, 3);
    EXPECT_NEAR(rules.upright[0].length(), 36, 3);
    EXPECT_NEAR(rules.skew_deg, 0, 0.5);
    for (const Rule& level : rules.level)
        for (const Rule& upright : rules.upright) EXPECT_TRUE(touch(level, upright));
}

TEST(DrawnRules, APageThatIsAskewIsSetLevel) {
    std::vector<Stroke> strokes{drawn({{20, 30}, {100, 30}}), drawn({{20, 60}, {100, 60}}),
                                drawn({{60, 25}, {60, 65}})};
    for (Stroke& s : strokes)
        for (InkPoint& p : s.points.change()) p.at = turned(p.at, -6, {});
    const Rules rules = rules_in(strokes);
    EXPECT_NEAR(rules.skew_deg, -6, 0.3);
    ASSERT_EQ(rules.level.size(), 2U);
    ASSERT_EQ(rules.upright.size(), 1U);
    EXPECT_NEAR(rules.level[0].at, 30, 0.5) << "where it was before the page was turned";
    EXPECT_NEAR(rules.upright[0].at, 60, 0.5);
    EXPECT_EQ(rules.upright[0].stroke, 2U);
}

TEST(DrawnRules, WordsDiagonalsAndShortDashesAreNone) {
    std::vector<Stroke> strokes{drawn({{10, 10}, {60, 60}}), drawn({{10, 80}, {16, 80}})};
    std::vector<Point> word;
    for (int i = 0; i < 20; ++i) word.push_back({20 + 1.5 * i, i % 2 == 0 ? 100.0 : 95.0});
    strokes.push_back(drawn(word));
    const Rules rules = rules_in(strokes);
    EXPECT_TRUE(rules.level.empty());
    EXPECT_TRUE(rules.upright.empty());
    EXPECT_TRUE(rules_in({}).level.empty());
}

TEST(DrawnRules, AHighlightersBandIsNone) {
    Stroke band = drawn({{20, 30}, {100, 30}});
    ASSERT_EQ(rules_in({band}).level.size(), 1U);
    band.pen.kind = PenKind::highlighter;
    EXPECT_TRUE(rules_in({band}).level.empty());
}

TEST(DrawnRules, RulesTouchWhereTheyNearlyMeet) {
    const Rule level{0, 20, 80, 40};
    EXPECT_TRUE(touch(level, {1, 20, 60, 50}));
    EXPECT_TRUE(touch(level, {1, 42, 70, 50})) << "it stops a little short";
    EXPECT_FALSE(touch(level, {1, 50, 70, 50}));
    EXPECT_FALSE(touch(level, {1, 20, 60, 90}));
    EXPECT_LT(touch_reach({0, 0, 10, 0}), touch_reach({0, 0, 60, 0})) << "long ones may miss by more";
    EXPECT_EQ(touch_reach({0, 0, 500, 0}), touch_reach({0, 0, 900, 0}));
}

TEST(DrawnRules, SidesAreTallOrLongAndBentLittleAsNoWordIs) {
    EXPECT_TRUE(is_side(drawn({{10, 10}, {14, 24}}))) << "taller than letters";
    EXPECT_TRUE(is_side(drawn({{10, 10}, {30, 16}}))) << "a slanted side";
    EXPECT_FALSE(is_side(drawn({{10, 10}, {30, 11}}))) << "an underline";
    EXPECT_FALSE(is_side(drawn({{10, 10}, {12, 14}}))) << "a letter";
    std::vector<Point> word;
    for (int i = 0; i < 20; ++i) word.push_back({20 + 1.0 * i, i % 2 == 0 ? 100.0 : 95.0});
    EXPECT_FALSE(is_side(drawn(word)));
}

}  // namespace
}  // namespace fernleaf
