#include "paper/corner_marks.h"

#include <gtest/gtest.h>

#include "paper/sheet_finding.h"
#include "paper/test_photo.h"

namespace fernleaf {
namespace {

const std::array<Point, 4> kMarks{{{260, 200}, {720, 230}, {760, 900}, {210, 860}}};

void mark(cv::Mat& picture, Point at, int size = 10) {
    const cv::Point p(static_cast<int>(at.x), static_cast<int>(at.y));
    cv::rectangle(picture, p - cv::Point(size, size), p + cv::Point(size, size), {30, 30, 30}, cv::FILLED);
}

// A sheet that can't be told from the table but by its marks.
cv::Mat with_marks() {
    cv::Mat photo = table({900, 1200}, {225, 230, 231});
    scrawl(photo, {kMarks, {}});
    for (const Point& at : kMarks) mark(photo, at);
    return photo;
}

void expect_marks(const std::optional<std::array<Point, 4>>& found) {
    ASSERT_TRUE(found);
    for (size_t i = 0; i < 4; ++i) EXPECT_LT(distance((*found)[i], kMarks[i]), 2) << i;
}

TEST(CornerMarks, FourAlikeAreFoundWhateverIsWrittenBetweenThem) {
    expect_marks(corner_marks(with_marks()));
    cv::Mat rings = table({900, 1200}, {225, 230, 231});
    scrawl(rings, {kMarks, {}});
    for (const Point& at : kMarks)
        cv::circle(rings, {static_cast<int>(at.x), static_cast<int>(at.y)}, 11, {20, 20, 20}, 4, cv::LINE_AA);
    expect_marks(corner_marks(rings));
}

TEST(CornerMarks, CrossesAndBracketsAreMarksToo) {
    const auto line = [](cv::Mat& picture, Point from, Point to) {
        cv::line(picture, {static_cast<int>(from.x), static_cast<int>(from.y)},
                 {static_cast<int>(to.x), static_cast<int>(to.y)}, {30, 30, 30}, 4, cv::LINE_AA);
    };
    cv::Mat crosses = table({900, 1200}, {225, 230, 231}), brackets = crosses.clone(), mixed = crosses.clone();
    scrawl(crosses, {kMarks, {}});
    scrawl(brackets, {kMarks, {}});
    for (size_t i = 0; i < 4; ++i) {
        const Point at = kMarks[i];
        line(crosses, at - Point{14, 1}, at + Point{14, 1});
        line(crosses, at - Point{-1, 14}, at + Point{-1, 14});
        const double x = i == 0 || i == 3 ? 24 : -24, y = i < 2 ? 24 : -24;
        line(brackets, at, at + Point{x, 1});
        line(brackets, at, at + Point{-1, y});
        line(mixed, at, at + Point{i == 1 ? -x : x, 1});
        line(mixed, at, at + Point{-1, i == 1 ? -y : y});
    }
    expect_marks(corner_marks(crosses));
    const auto found = corner_marks(brackets);
    ASSERT_TRUE(found);
    for (size_t i = 0; i < 4; ++i) EXPECT_LT(distance((*found)[i], kMarks[i]), 5) << i;
    EXPECT_FALSE(corner_marks(mixed)) << "one of them opens the other way";
}

TEST(CornerMarks, ThreeOrManyOrUnlikeOnesAreNone) {
    cv::Mat three = table({900, 1200}, {225, 230, 231});
    for (size_t i = 0; i < 3; ++i) mark(three, kMarks[i]);
    EXPECT_FALSE(corner_marks(three));
    mark(three, kMarks[3], 20);
    EXPECT_FALSE(corner_marks(three)) << "one of them is far larger";
    cv::Mat many = with_marks();
    for (int i = 0; i < 5; ++i) mark(many, {350.0 + 60 * i, 500});
    EXPECT_FALSE(corner_marks(many));
    cv::Mat near = table({900, 1200}, {225, 230, 231});
    for (const Point& at : kMarks) mark(near, at * 0.2);
    EXPECT_FALSE(corner_marks(near)) << "they hold hardly any of the picture";
    EXPECT_FALSE(corner_marks(table({900, 1200}, {225, 230, 231})));
}

TEST(CornerMarks, TheSheetGoesOnBeyondThemAsFarAsItsPaper) {
    // The paper ends 50 px beyond the marks; the table is of another colour.
    cv::Mat photo = table({900, 1200}, {90, 110, 130});
    const SheetOutline sheet{{{{200, 140}, {780, 170}, {820, 960}, {150, 920}}}, {}};
    lay_sheet(photo, sheet);
    for (const Point& at : kMarks) mark(photo, at);
    const SheetOutline about = sheet_about(kMarks, photo);
    for (size_t i = 0; i < 4; ++i) EXPECT_LT(distance(about.corners[i], sheet.corners[i]), 22) << i;
    // Where it can't be told from the table there is a margin, and it ends.
    const SheetOutline wide = sheet_about(kMarks, with_marks());
    EXPECT_LT(wide.corners[0].x, kMarks[0].x - 50);
    EXPECT_GT(wide.corners[0].x, kMarks[0].x - 200);
}

TEST(CornerMarks, AreUsedWhereNoBorderIsSeenAndNeverCutAMargin) {
    const auto found = find_sheets(with_marks(), 1);
    ASSERT_EQ(found.size(), 1U);
    std::vector<cv::Point2f> outline;
    for (const Point& p : found[0].outline.corners)
        outline.emplace_back(static_cast<float>(p.x), static_cast<float>(p.y));
    for (const Point& at : kMarks)
        EXPECT_GT(cv::pointPolygonTest(outline, {static_cast<float>(at.x), static_cast<float>(at.y)}, true), 10);
    // A frame printed between the marks is not the sheet's border.
    cv::Mat framed = with_marks();
    for (size_t i = 0; i < 4; ++i) {
        const Point a = kMarks[i], b = kMarks[(i + 1) % 4], from = a + (b - a) * 0.04, to = b - (b - a) * 0.04;
        cv::line(framed, {static_cast<int>(from.x), static_cast<int>(from.y)},
                 {static_cast<int>(to.x), static_cast<int>(to.y)}, {30, 30, 30}, 3, cv::LINE_AA);
    }
    const auto about = find_sheets(framed, 1);
    ASSERT_EQ(about.size(), 1U);
    EXPECT_LT(about[0].outline.corners[0].x, kMarks[0].x - 12);
    EXPECT_GT(about[0].outline.corners[2].y, kMarks[2].y + 12);
}

}  // namespace
}  // namespace fernleaf
