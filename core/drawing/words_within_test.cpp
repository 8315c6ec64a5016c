#include "drawing/words_within.h"

#include <gtest/gtest.h>

#include "drawing/test_type.h"
#include "ink/test_stroke.h"

namespace fernleaf {
namespace {

TextBlock typed(const std::string& words, Point at, double width) {
    TextBlock out;
    out.id = 50;
    out.at = at;
    out.width_mm = width;
    out.paragraphs = {{{{words, {}}}, Align::centre}};
    lay_out(out);
    return out;
}

FairShape figure(ShapeKind kind, const Box& b) {
    FairShape out;
    out.id = 1, out.key = 1;
    out.shape = as_kind(
        {ShapeKind::rectangle, {{b.left, b.top}, {b.right, b.top}, {b.right, b.bottom}, {b.left, b.bottom}}}, kind);
    return out;
}

class WordsWithin : public testing::Test {
protected:
    Edit fit(Edit edit) {
        fit_words(edit, page, lay_out, [this] { return ++next; });
        return edit;
    }
    Page page;
    ElementId next = 100;
};

TEST_F(WordsWithin, WrapInTheFigureTheyAreTypedIn) {
    page.shapes = {figure(ShapeKind::rectangle, Box::of(10, 10, 43, 30))};
    const Edit edit = fit({"Type", {.texts = {typed("open the lower valves", {12, 15}, 100)}}});
    ASSERT_EQ(edit.added.texts.size(), 1U);
    EXPECT_EQ(edit.added.texts[0].id, 50) << "who types must find it again";
    EXPECT_NEAR(edit.added.texts[0].width_mm, 40, 1e-9);
    EXPECT_NEAR(edit.added.texts[0].box().centre().y, 25, 1e-6) << "in the middle of it";
    EXPECT_TRUE(edit.added.shapes.empty()) << "there is room enough";
}

TEST_F(WordsWithin, AFigureGrowsUntilTheyFit) {
    for (const ShapeKind kind : {ShapeKind::rectangle, ShapeKind::circle, ShapeKind::diamond, ShapeKind::ellipse}) {
        page.shapes = {figure(kind, Box::of(10, 10, 30, 30))};
        const Box room = room_in(page.shapes[0].shape);
        const std::string words = "close the lower valves when frost is told before dawn, and open them at noon";
        const Edit edit = fit({"Type", {.texts = {typed(words, {room.left, room.centre().y - 2.5}, room.width())}}});
        ASSERT_EQ(edit.added.shapes.size(), 1U) << name_of(kind);
        const FairShape& grown = edit.added.shapes[0];
        EXPECT_EQ(grown.shape.kind, kind);
        EXPECT_EQ(grown.key, 1) << "links hold on to it";
        EXPECT_GE(room_in(grown.shape).height() + 0.1, edit.added.texts[0].height_mm) << name_of(kind);
        if (kind != ShapeKind::circle) {
            EXPECT_NEAR(box_of(grown.shape).top, 10, 1e-6) << "downwards";
        }
    }
}

TEST_F(WordsWithin, AFigureThatIsTurnedHasNoRoomForThem) {
    for (const ShapeKind kind : {ShapeKind::rectangle, ShapeKind::ellipse, ShapeKind::diamond, ShapeKind::triangle}) {
        const Shape level = figure(kind, Box::of(10, 10, 40, 30)).shape;
        EXPECT_FALSE(room_in(level).empty()) << name_of(kind);
        EXPECT_TRUE(room_in(transformed(level, Affine::turn(0.5, {30, 25}))).empty()) << name_of(kind);
    }
    EXPECT_TRUE(room_in({ShapeKind::line, {{0, 0}, {30, 0}}}).empty());
}

TEST_F(WordsWithin, WhatIsMerelyMovedIntoAFigureIsLeftAsItIs) {
    page.shapes = {figure(ShapeKind::rectangle, Box::of(10, 10, 40, 30))};
    const TextBlock before = typed("lower valves", {100, 100}, 60);
    TextBlock after = typed("lower valves", {15, 20}, 60);
    Edit edit{"Move", {.texts = {after}}, {.texts = {before}}};
    EXPECT_EQ(fit(edit).added, edit.added);
}

TEST_F(WordsWithin, AFrameAboutSeveralBlocksLeavesThemAlone) {
    page.shapes = {figure(ShapeKind::rectangle, Box::of(10, 10, 100, 100))};
    TextBlock other = typed("frost", {20, 20}, 60);
    other.id = 9;
    page.texts = {other};
    const Edit edit{"Type", {.texts = {typed("dew", {20, 60}, 60)}}};
    EXPECT_EQ(fit(edit).added, edit.added);
}

TEST_F(WordsWithin, AStretchedFigureWrapsItsWordsAnew) {
    const FairShape narrow = figure(ShapeKind::rectangle, Box::of(10, 10, 23, 40));
    page.shapes = {narrow};
    page.texts = {typed("lower valves", {12, 20}, 20)};
    FairShape wide = figure(ShapeKind::rectangle, Box::of(10, 10, 63, 40));
    wide.id = 2;
    const Edit edit = fit({"Move", {.shapes = {wide}}, {.shapes = {narrow}}});
    ASSERT_EQ(edit.added.texts.size(), 1U);
    EXPECT_NEAR(edit.added.texts[0].width_mm, 60, 1e-9);
    EXPECT_NEAR(edit.added.texts[0].height_mm, 5, 1e-9) << "in one line";
}

TEST_F(WordsWithin, InATableTheyWrapInTheirCell) {
    FairTable table;
    table.id = 1;
    table.at = {10, 10};
    table.columns_mm = {2 * kCellMarginMm + 20, 30};
    table.rows_mm = {8, 8};
    page.tables = {table};
    const Edit edit = fit({"Type", {.texts = {typed("late frost in May", {12, 11.5}, 18)}}});
    ASSERT_EQ(edit.added.tables.size(), 1U);
    EXPECT_NEAR(edit.added.texts[0].width_mm, 20, 1e-9);
    EXPECT_NEAR(edit.added.tables[0].rows_mm[0], 10 + 2 * kCellMarginMm, 1e-6);
}

TEST_F(WordsWithin, OnlyFiguresAreStretchedNotWhatIsWrittenInThem) {
    Elements chosen;
    chosen.shapes = {figure(ShapeKind::rectangle, Box::of(10, 10, 40, 30))};
    chosen.shapes[0].width_mm = 0.5;
    chosen.strokes = {stroke_along(2, {{20, 20}, {30, 22}}), stroke_along(3, {{70, 20}, {80, 22}}),
                      stroke_along(4, {{34, 20}, {40, 22}})};
    const Elements wide = stretched(chosen, Affine::scale(2, 1, {10, 10}));
    EXPECT_NEAR(drawn_box(wide.shapes[0]).width(), 80, 1);
    EXPECT_NEAR(wide.strokes[0].box().width(), 10, 1e-6) << "in the figure";
    EXPECT_NEAR(wide.strokes[1].box().width(), 20, 1e-6) << "beside it";
    EXPECT_NEAR(wide.strokes[2].box().left - wide.strokes[0].box().right, 4, 1e-6) << "letters stay together";
    EXPECT_NEAR((wide.strokes[0].box().left + wide.strokes[2].box().right) / 2, 50, 1e-6) << "and go along";
    EXPECT_EQ(wide.shapes[0].width_mm, 0.5) << "its border is no broader";
    const Elements large = stretched(chosen, Affine::scale(2, 2, {10, 10}));
    EXPECT_NEAR(large.strokes[0].box().width(), 20, 1e-6) << "evenly all grows";
}

TEST_F(WordsWithin, TablesFromFilesFitTheirWords) {
    Elements fresh;
    FairTable table;
    table.at = {10, 10};
    table.columns_mm = {2 * kCellMarginMm + 10};
    table.rows_mm = {8, 8};
    fresh.tables = {table};
    TextBlock text = typed("late frost", {11.2, 11.2}, 10);
    text.words.clear();
    text.id = 0;
    fresh.texts = {text};
    lay_out_fresh(fresh, lay_out);
    ASSERT_EQ(fresh.tables.size(), 1U);
    EXPECT_NEAR(fresh.tables[0].rows_mm[0], 10 + 2 * kCellMarginMm, 1e-6);
    EXPECT_EQ(fresh.tables[0].id, 0);
    EXPECT_EQ(fresh.texts[0].id, 0);
}

}  // namespace
}  // namespace fernleaf
