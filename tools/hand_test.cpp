#include "demo/hand.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

Box box_of_all(const std::vector<Stroke>& strokes) {
    Box box;
    for (const Stroke& s : strokes) box.include(s.box());
    return box;
}

TEST(Hand, WritesAtItsPlaceAndSize) {
    const auto hand = Hand::load(std::string(FERNLEAF_SOURCE_DIR) + "/demo/hands/tobias.json");
    ASSERT_TRUE(hand) << hand.error().message;
    std::mt19937 random(1);
    WritingStyle style;
    style.x_height_mm = 3;
    const Box box = box_of_all(hand->write("xxx", {20, 30}, style, random));
    EXPECT_NEAR(box.left, 20, 1.5);
    EXPECT_NEAR(box.bottom, 30, 0.8);
    EXPECT_NEAR(box.height(), 3, 0.9);
}

TEST(Hand, TimeAndPressureRunLikeAPens) {
    const auto hand = Hand::load(std::string(FERNLEAF_SOURCE_DIR) + "/demo/hands/mirela.json");
    ASSERT_TRUE(hand);
    std::mt19937 random(1);
    WritingStyle style;
    style.start_ms = 5000;
    const auto strokes = hand->write("late frost", {20, 30}, style, random);
    int64_t before = 5000;
    for (const Stroke& s : strokes) {
        EXPECT_GE(s.start_ms, before);
        for (size_t i = 1; i < s.points.size(); ++i) EXPECT_GE(s.points[i].time_ms, s.points[i - 1].time_ms);
        for (const InkPoint& p : s.points) EXPECT_TRUE(p.pressure > 0 && p.pressure < 1);
        before = s.start_ms + s.points.back().time_ms;
    }
    EXPECT_EQ(Hand::end_of(strokes, 0), before);
    EXPECT_EQ(Hand::end_of({}, 7), 7);
}

TEST(Hand, TheSameSeedWritesTheSameAndAnotherDoesNot) {
    const auto hand = Hand::load(std::string(FERNLEAF_SOURCE_DIR) + "/demo/hands/ines.json");
    ASSERT_TRUE(hand);
    std::mt19937 a(1), b(1), c(2);
    const auto first = hand->write("wood", {20, 30}, {}, a);
    EXPECT_EQ(first, hand->write("wood", {20, 30}, {}, b));
    EXPECT_NE(first, hand->write("wood", {20, 30}, {}, c));
    EXPECT_FALSE(Hand::load("no such hand.json"));
}

TEST(Hand, AnotherPersonWritesTheSameLettersOtherwise) {
    const auto hand = Hand::load(std::string(FERNLEAF_SOURCE_DIR) + "/demo/hands/ines.json");
    ASSERT_TRUE(hand);
    std::mt19937 chance(4), a(1), b(1);
    const Hand other = hand->another(chance);
    EXPECT_TRUE(other.can_write("wood"));
    const auto mine = hand->write("wood", {20, 30}, {}, a), theirs = other.write("wood", {20, 30}, {}, b);
    EXPECT_EQ(theirs.size(), mine.size()) << "stroke for stroke";
    EXPECT_NE(theirs, mine);
    EXPECT_NEAR(box_of_all(theirs).height(), box_of_all(mine).height(), 0.25 * box_of_all(mine).height());
}

}  // namespace
}  // namespace fernleaf
