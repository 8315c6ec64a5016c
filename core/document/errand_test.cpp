#include "document/errand.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

Sheet sheet_with_errands() {
    Sheet sheet;
    sheet.errands = true;
    return sheet;
}

Stroke tick(const Box& box) {
    Stroke out;
    out.points = {{{box.left + 1, box.top + 2.5}},
                  {{box.left + 2, box.top + 4}},
                  {{box.left + 3, box.top + 2}},
                  {{box.left + 4, box.top + 0.5}},
                  {{box.left + 5, box.top - 1.5}}};
    return out;
}

TEST(Errands, StandAtTheFootOfSheetsThatHaveThem) {
    EXPECT_TRUE(errand_boxes(Sheet{}).empty());
    for (const double width : {105.0, 148.0, 210.0}) {
        Sheet sheet = sheet_with_errands();
        sheet.width_mm = width;
        const auto boxes = errand_boxes(sheet);
        ASSERT_EQ(boxes.size(), static_cast<size_t>(kErrands));
        EXPECT_LT(boxes.back().box.right, width);
        EXPECT_LT(boxes.back().box.bottom, sheet.height_mm);
    }
}

TEST(Errands, AreTickedByStrokesInTheirBoxes) {
    const Sheet sheet = sheet_with_errands();
    for (const ErrandBox& e : errand_boxes(sheet)) EXPECT_EQ(errand_of(sheet, tick(e.box)), e.errand);
    EXPECT_FALSE(errand_of(Sheet{}, tick(errand_boxes(sheet)[0].box)));
}

TEST(Errands, WordsAndDotsTickNone) {
    const Sheet sheet = sheet_with_errands();
    const Box box = errand_boxes(sheet)[2].box;
    Stroke word;
    for (int i = 0; i < 60; ++i) word.points.push_back({{box.left - 20 + i, box.top + (i % 5)}});
    EXPECT_FALSE(errand_of(sheet, word));
    Stroke dot;
    dot.points = {{box.centre()}, {{box.centre().x + 0.3, box.centre().y}}};
    EXPECT_FALSE(errand_of(sheet, dot));
    Stroke above;
    above.points = {{{box.left, box.top - 6}}, {{box.right, box.top - 3}}};
    EXPECT_FALSE(errand_of(sheet, above));
}

}  // namespace
}  // namespace fernleaf
