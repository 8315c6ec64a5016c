#include "document/sheets.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

Stroke from_to(double top, double bottom) {
    Stroke s;
    s.pen.width_mm = 0.1F;
    s.points = {{{20, top}}, {{60, bottom}}};
    return s;
}

bool cuts(const std::vector<Box>& sheets, const Stroke& s) {
    for (size_t i = 0; i + 1 < sheets.size(); ++i)
        if (sheets[i].bottom > s.box().top && sheets[i].bottom < s.box().bottom) return true;
    return false;
}

TEST(Sheets, AnOrdinaryPageIsOne) {
    Page page;
    EXPECT_EQ(sheets_of(page), (std::vector{Box::of(0, 0, 148, 210)}));
}

TEST(Sheets, ALongPageIsCutBetweenItsLines) {
    Page page;
    page.info.endless = true;
    for (double y = 10; y < 900; y += 9.7) page.strokes.push_back(from_to(y, y + 6));
    make_room_below(page);
    const auto sheets = sheets_of(page);
    ASSERT_GE(sheets.size(), 5U);
    double top = 0;
    for (const Box& sheet : sheets) {
        EXPECT_EQ(sheet.top, top);
        EXPECT_LE(sheet.height(), 148 * 1.4143);
        EXPECT_GT(sheet.height(), 148 * 1.3) << "no more paper than is needed";
        top = sheet.bottom;
    }
    EXPECT_GT(top, 900);
    EXPECT_LT(top, 900 + 215);
    for (const Stroke& s : page.strokes) EXPECT_FALSE(cuts(sheets, s));
}

TEST(Sheets, WhatIsTooLongForOneIsCutWhereItMustBe) {
    Page page;
    page.info.endless = true;
    page.strokes = {from_to(10, 700)};
    make_room_below(page);
    const auto sheets = sheets_of(page);
    EXPECT_EQ(sheets.size(), 4U);
    EXPECT_NEAR(sheets[0].height(), 148 * 1.41421356, 0.01);
}

TEST(Sheets, AnEmptyEndlessPageIsOneSheet) {
    Page page;
    page.info.endless = true;
    EXPECT_EQ(sheets_of(page).size(), 1U);
}

}  // namespace
}  // namespace fernleaf
