#include "paper/tick_boxes.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

#include "paper/scan_lines.h"

namespace fernleaf {
namespace {

// Paper with letters as high as most on a form, so that it is known how large boxes may be.
cv::Mat form() {
    cv::Mat page(500, 900, CV_8U, cv::Scalar(245));
    for (int line = 0; line < 3; ++line)
        for (int i = 0; i < 12; ++i)
            cv::putText(page, std::string(1, static_cast<char>('a' + (i * 7 + line) % 26)),
                        {200 + 40 * i, 100 + 120 * line}, cv::FONT_HERSHEY_SIMPLEX, 1.2, cv::Scalar(30), 3,
                        cv::LINE_AA);
    return page;
}

cv::Rect box_at(cv::Mat& page, int x, int y) {
    const cv::Rect box(x, y, 34, 34);
    cv::rectangle(page, box, cv::Scalar(40), 3);
    return box;
}

TEST(TickBoxes, EmptyTickedAndCrossedOnesAreToldApart) {
    cv::Mat page = form();
    box_at(page, 100, 70);
    const cv::Rect ticked = box_at(page, 100, 190), crossed = box_at(page, 100, 310);
    cv::line(page, {ticked.x + 5, ticked.y + 16}, {ticked.x + 14, ticked.y + 28}, cv::Scalar(30), 3, cv::LINE_AA);
    cv::line(page, {ticked.x + 14, ticked.y + 28}, {ticked.x + 46, ticked.y - 14}, cv::Scalar(30), 3, cv::LINE_AA);
    cv::line(page, {crossed.x + 9, crossed.y + 9}, {crossed.x + 26, crossed.y + 26}, cv::Scalar(30), 3, cv::LINE_AA);
    cv::line(page, {crossed.x + 26, crossed.y + 9}, {crossed.x + 9, crossed.y + 26}, cv::Scalar(30), 3, cv::LINE_AA);
    const std::vector<TickBox> found = tick_boxes(ink_mask(page));
    ASSERT_EQ(found.size(), 3U);
    for (size_t i = 0; i < 3; ++i) {
        const cv::Rect expected(100, 70 + 120 * static_cast<int>(i), 34, 34);
        EXPECT_GT((found[i].box & expected).area(), 0.85 * expected.area()) << i;
        EXPECT_EQ(found[i].ticked, i > 0) << i;
    }
    EXPECT_EQ(found[2].pieces.size(), 2U) << "the cross stands by itself in it";
}

TEST(TickBoxes, LettersAndRingsAndFramesAreNone) {
    cv::Mat page = form();
    cv::putText(page, "O D 0 B Q 8", {60, 450}, cv::FONT_HERSHEY_SIMPLEX, 1.4, cv::Scalar(30), 3, cv::LINE_AA);
    cv::circle(page, {110, 90}, 18, cv::Scalar(30), 3, cv::LINE_AA);
    cv::rectangle(page, cv::Rect(90, 160, 90, 34), cv::Scalar(40), 3);    // a field
    cv::rectangle(page, cv::Rect(30, 220, 160, 170), cv::Scalar(40), 3);  // a picture's frame
    EXPECT_TRUE(tick_boxes(ink_mask(page)).empty());
    EXPECT_TRUE(tick_boxes(ink_mask(cv::Mat(60, 60, CV_8U, cv::Scalar(240)))).empty());
}

TEST(TickBoxes, ABoxBesideNothingIsADrawingAndNoInkIsLost) {
    cv::Mat page = form();
    box_at(page, 100, 70);
    box_at(page, 60, 440);
    const ScannedPage scanned = scan_page(page);
    ASSERT_EQ(scanned.boxes.size(), 2U);
    std::vector<bool> somewhere(scanned.ink.pieces.size(), false);
    for (const ScanLine& line : scanned.lines)
        for (const size_t piece : line.pieces) somewhere[piece] = true;
    EXPECT_EQ(std::ranges::count(somewhere, false), 0);
    EXPECT_EQ(std::ranges::count_if(scanned.boxes, [](const ScanBox& box) { return !box.line; }), 1);
    EXPECT_TRUE(std::ranges::any_of(
        scanned.lines, [](const ScanLine& line) { return line.drawing && std::abs(line.box_px.y - 440) < 8; }));
}

}  // namespace
}  // namespace fernleaf
