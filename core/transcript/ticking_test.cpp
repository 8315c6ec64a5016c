#include "transcript/ticking.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

class Ticking : public testing::Test {
protected:
    Ticking() {
        TextBlock list;
        list.id = 5;
        list.paragraphs = {{{{"prune pears"}}}, {{{"order wax"}}}};
        list.paragraphs[0].list = ListKind::check;
        list.paragraphs[1].list = ListKind::checked;
        double y = 20;
        for (const char* word : {"prune", "pears", "order", "wax"}) {
            list.words.push_back({word, Box::of(20, y, 15, 5), static_cast<int>(list.words.size() / 2)});
            y += list.words.size() == 2 ? 8 : 0;
        }
        page_.texts = {list};
        // A box in ink, and words behind it.
        Stroke box;
        box.id = 7;
        box.points = {{{20, 50}}, {{25, 50}}, {{25, 55}}, {{20, 55}}, {{20, 50}}};
        page_.strokes = {box};
        boxed_.words = {{kOpenBox, 0.9, Box::of(20, 50, 5, 5), {7}, {}, false},
                        {"graft", 0.9, Box::of(28, 50, 20, 5), {8}, {}, false}};
    }
    Reading typed() {
        Reading reading;
        add_typed(reading, page_);
        return reading;
    }
    Result<Edit> ticked(const ReadLine& line, bool done) {
        return tick(page_, line, done, [this] { return next_++; });
    }

    Page page_;
    ReadLine boxed_;
    ElementId next_ = 100;
};

TEST_F(Ticking, ItemsOfTypedListsHaveBoxes) {
    const Reading reading = typed();
    ASSERT_EQ(reading.lines.size(), 2U);
    EXPECT_EQ(reading.lines[0].ticked, false);
    EXPECT_EQ(reading.lines[1].ticked, true);
    EXPECT_EQ(todo_text(reading.lines[1]), "order wax");
}

TEST_F(Ticking, ATypedItemIsTickedAndUnticked) {
    const auto edit = ticked(typed().lines[0], true);
    ASSERT_TRUE(edit);
    apply(page_, *edit);
    ASSERT_EQ(page_.texts.size(), 1U);
    EXPECT_EQ(page_.texts[0].paragraphs[0].list, ListKind::checked);
    EXPECT_EQ(typed().lines[0].ticked, true);
    const auto back = ticked(typed().lines[1], false);
    ASSERT_TRUE(back);
    apply(page_, *back);
    EXPECT_EQ(page_.texts[0].paragraphs[1].list, ListKind::check);
}

TEST_F(Ticking, ABoxInInkGetsATickThatCanBeTakenOut) {
    const auto edit = ticked(boxed_, true);
    ASSERT_TRUE(edit);
    EXPECT_TRUE(edit->corrections_added.empty());
    apply(page_, *edit);
    ASSERT_EQ(page_.strokes.size(), 2U);
    boxed_.words[0].text = kTickedBox;
    boxed_.words[0].strokes = {7, page_.strokes[1].id};
    const auto back = ticked(boxed_, false);
    ASSERT_TRUE(back) << back.error().message;
    apply(page_, *back);
    ASSERT_EQ(page_.strokes.size(), 1U);
    EXPECT_EQ(page_.strokes[0].id, 7) << "the box stays";
}

TEST_F(Ticking, ABoxOnPaperIsReadAsTickedFromThenOn) {
    boxed_.words[0].strokes.clear();
    const auto edit = ticked(boxed_, true);
    ASSERT_TRUE(edit);
    ASSERT_EQ(edit->corrections_added.size(), 1U);
    EXPECT_EQ(edit->corrections_added[0].text, kTickedBox);
    boxed_.words[0].text = kTickedBox;
    EXPECT_FALSE(ticked(boxed_, false)) << "ticked on paper";
    apply(page_, *edit);
    const auto back = ticked(boxed_, false);
    ASSERT_TRUE(back);
    EXPECT_EQ(back->removed.strokes.size(), 1U);
    EXPECT_EQ(back->corrections_added[0].text, kOpenBox);
}

TEST_F(Ticking, WhatCantBeTickedIsSaid) {
    EXPECT_FALSE(ticked(boxed_, false)) << "it is not";
    EXPECT_FALSE(ticked(ReadLine{}, true)) << "no box";
    page_.strokes.clear();
    EXPECT_FALSE(ticked(boxed_, true)) << "erased meanwhile";
    const ReadLine item = typed().lines[0];
    page_.texts.clear();
    EXPECT_FALSE(ticked(item, true));
}

}  // namespace
}  // namespace fernleaf
