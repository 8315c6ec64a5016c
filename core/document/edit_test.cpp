#include "document/edit.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

Stroke stroke(StrokeId id) {
    Stroke s;
    s.id = id;
    s.points = {{{1.0 * static_cast<double>(id), 2}}};
    return s;
}

TEST(Edit, ReversedTakesItBackExactly) {
    Page page;
    page.strokes = {stroke(1), stroke(2), stroke(3)};
    page.pictures = {{5, "hash", "name", 0, Box::of(0, 0, 10, 10)}};
    const Page before = page;
    const Edit edit{"Replace", {{stroke(4)}}, {{stroke(2)}, page.pictures}};
    apply(page, edit);
    EXPECT_EQ(page.strokes, (std::vector{stroke(1), stroke(3), stroke(4)}));
    EXPECT_TRUE(page.pictures.empty());
    apply(page, edit.reversed());
    EXPECT_EQ(page.strokes, before.strokes);
    EXPECT_EQ(page.pictures, before.pictures);
}

TEST(Edit, JoinedDoesWhatTwoDoOneAfterTheOther) {
    const auto stroke = [](StrokeId id) {
        Stroke s;
        s.id = id;
        return s;
    };
    Page page;
    page.strokes = {stroke(1), stroke(2), stroke(3)};
    Edit first{"Cut", {{stroke(11), stroke(12)}}, {{stroke(1), stroke(2)}}};
    first.replacements = {{1, 11}, {2, 12}};
    Edit second{"Move", {{stroke(21), stroke(23)}}, {{stroke(11), stroke(3)}}};
    second.replacements = {{11, 21}, {3, 23}};
    Page one_by_one = page;
    apply(one_by_one, first);
    apply(one_by_one, second);
    const Edit both = joined(first, second);
    Page at_once = page;
    apply(at_once, both);
    EXPECT_EQ(at_once.strokes, one_by_one.strokes);
    EXPECT_EQ(both.label, "Cut");
    EXPECT_EQ(both.replacements, (std::vector<std::pair<StrokeId, StrokeId>>{{1, 21}, {2, 12}, {3, 23}}));
    apply(at_once, both.reversed());
    EXPECT_EQ(at_once.strokes, page.strokes);
}

TEST(Edit, CorrectionsGoWithTheStrokesThatFollow) {
    Stroke moved, other;
    moved.id = 11, moved.points = {{{5, 5}}, {{9, 7}}};
    other.id = 12, other.points = {{{20, 5}}};
    Edit edit{"Move", {{moved, other}}};
    edit.replacements = {{1, 11}, {2, 12}};
    const std::vector<Correction> corrections{
        {{1, 2}, {}, "Hallow"}, {{1, 3}, {}, "half of it stays"}, {{}, {}, "in a picture"}};
    const auto replacements = replaced_corrections(corrections, edit.replacements, edit.added.strokes);
    ASSERT_EQ(replacements.size(), 1U);
    EXPECT_EQ(replacements[0].text, "Hallow");
    EXPECT_EQ(replacements[0].strokes, (std::vector<StrokeId>{11, 12}));
    EXPECT_TRUE(replacements[0].box.contains({9, 7}));
    EXPECT_TRUE(replacements[0].box.contains({20, 5}));
    edit.replacements.clear();
    EXPECT_TRUE(replaced_corrections(corrections, edit.replacements, edit.added.strokes).empty());
}

TEST(Correction, IsSaidOfAllStrokesAndStandsWhereTheyDo) {
    Stroke left, right;
    left.id = 4, left.points = {{{5, 5}}, {{9, 7}}};
    right.id = 2, right.points = {{{20, 6}}};
    const Correction said = said_to_be({left, right}, InkClass::table);
    EXPECT_EQ(said.strokes, (std::vector<StrokeId>{4, 2}));
    EXPECT_EQ(said.kind, InkClass::table);
    EXPECT_FALSE(said.is_of_word());
    EXPECT_TRUE(said.box.contains({9, 7}));
    EXPECT_TRUE(said.box.contains({20, 6}));
}

TEST(SheetChange, AChangeOfPaperComesBackAsItWentIn) {
    SheetChange change;
    change.before.paper = Paper::picture, change.before.picture = "abc";
    change.after.paper = Paper::dotted, change.after.spacing_mm = 5, change.after.colour = 0x123456;
    change.after.endless = true, change.after.width_mm = 297, change.after.height_mm = 420;
    const auto back = decode_sheet_change(encode_sheet_change(change));
    ASSERT_TRUE(back);
    EXPECT_EQ(back->before, change.before);
    EXPECT_EQ(back->after, change.after);
}

TEST(SheetChange, DamagedJsonIsRefused) {
    const std::string good = encode_sheet_change({});
    for (size_t cut = 0; cut < good.size(); ++cut) EXPECT_FALSE(decode_sheet_change(good.substr(0, cut)));
    EXPECT_FALSE(decode_sheet_change("[]"));
}

}  // namespace
}  // namespace fernleaf
