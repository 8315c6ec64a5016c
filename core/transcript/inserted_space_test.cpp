#include "transcript/inserted_space.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

class MakingRoom : public testing::Test {
protected:
    MakingRoom() { page_.info.height_mm = 210, page_.info.spacing_mm = 8; }
    // A line of words, each of one stroke, its last with a tail that hangs down.
    void write(double top, int words = 3) {
        ReadLine line;
        for (int i = 0; i < words; ++i) {
            Stroke s;
            s.id = ++id_;
            const double left = 20 + 25 * i, low = i + 1 == words ? top + 9 : top + 6;
            s.points = {{{left, top}}, {{left + 15, low}}};
            line.words.push_back({"word", 0.9, Box::of(left, top, 15, low - top), {s.id}, {}, false});
            line.box.include(line.words.back().box);
            page_.strokes.push_back(s);
        }
        reading_.lines.push_back(line);
    }
    Edit open(Point at, Push push, double by) {
        return make_space_edit(page_, reading_, space_at(page_, reading_, at, push), by,
                               [this] { return ++id_ + 1000; });
    }
    static double top(const Edit& edit, size_t i) { return edit.added.strokes[i].box().top; }

    Page page_;
    Reading reading_;
    StrokeId id_ = 0;
};

TEST_F(MakingRoom, PushesLinesBelowAPlaceDownAsAWhole) {
    write(20), write(32), write(44);
    const Edit edit = open({0, 36.5}, Push::down, 16);  // through the tail of the second line, below its middle
    EXPECT_EQ(edit.label, "Make room");
    ASSERT_EQ(edit.added.strokes.size(), 3U);
    EXPECT_EQ(top(edit, 0), 60);
    EXPECT_EQ(edit.replacements.size(), 3U);
    apply(page_, edit);
    apply(page_, edit.reversed());
    EXPECT_EQ(page_.strokes.size(), 9U);
}

TEST_F(MakingRoom, ClosesUpUntilLinesMeetAndNoFurther) {
    write(20), write(80);
    const InsertedSpace room = space_at(page_, reading_, {0, 50}, Push::down);
    EXPECT_NEAR(room.closes_mm, 80 - 29 - 1.5, 1e-9);
    const Edit edit = open({0, 50}, Push::down, -200);
    EXPECT_EQ(edit.label, "Close up");
    EXPECT_NEAR(top(edit, 0), 80 - room.closes_mm, 1e-9);
}

TEST_F(MakingRoom, PushesTheRestOfOneLineToTheRight) {
    write(20), write(32);
    const Edit edit = open({40, 34}, Push::right, 12);
    ASSERT_EQ(edit.added.strokes.size(), 2U) << "two words of the second line";
    EXPECT_EQ(edit.added.strokes[0].box().left, 45 + 12);
    EXPECT_EQ(top(edit, 0), 32);
    const Edit far = open({40, 34}, Push::right, 1000);
    EXPECT_LE(far.added.strokes[1].box().right, page_.info.width_mm);
}

TEST_F(MakingRoom, WhatNoLongerFitsFlowsToTheNextPageOnItsRules) {
    write(20), write(150), write(190);
    const Edit edit = open({0, 100}, Push::down, 24);
    ASSERT_TRUE(edit.overflow);
    ASSERT_EQ(edit.overflow->content.strokes.size(), 3U);
    EXPECT_EQ(edit.added.strokes.size(), 3U);
    const double up = 190 - edit.overflow->content.strokes[0].box().top;
    EXPECT_NEAR(std::remainder(up, 8), 0, 1e-9);
    EXPECT_GE(edit.overflow->content.strokes[0].box().top, 8);
    EXPECT_LT(edit.overflow->content.strokes[0].box().top, 24);
    EXPECT_EQ(edit.overflow->replacements.size(), 3U);
}

TEST_F(MakingRoom, AnEndlessSheetOnlyGrows) {
    page_.info.endless = true;
    write(20), write(190);
    const Edit edit = open({0, 100}, Push::down, 100);
    EXPECT_FALSE(edit.overflow);
    apply(page_, edit);
    EXPECT_GT(page_.info.height_mm, 299);
}

TEST_F(MakingRoom, MovesTypeAndPicturesButNoLockedOnes) {
    TextBlock text;
    text.id = 500, text.at = {20, 60}, text.width_mm = 40, text.height_mm = 8;
    text.words = {{"typed", Box::of(20, 61, 12, 5), 0}};
    page_.texts = {text};
    page_.pictures = {{501, "a", "a.png", 0, Box::of(20, 90, 30, 30)},
                      {502, "b", "b.png", 0, Box::of(0, 0, 148, 210), 0, {0, 0, 1, 1}, true}};
    const Edit edit = open({0, 40}, Push::down, 10);
    ASSERT_EQ(edit.added.texts.size(), 1U);
    EXPECT_EQ(edit.added.texts[0].at.y, 70);
    EXPECT_EQ(edit.added.texts[0].words[0].box.top, 71) << "its words are found where they are now";
    ASSERT_EQ(edit.added.pictures.size(), 1U);
    EXPECT_EQ(edit.added.pictures[0].box.top, 100);
}

TEST_F(MakingRoom, OfNothingChangesNothing) {
    EXPECT_TRUE(open({0, 40}, Push::down, 10).added.empty());
    EXPECT_EQ(space_at(page_, reading_, {0, 40}, Push::down).closes_mm, 0);
}

}  // namespace
}  // namespace fernleaf
