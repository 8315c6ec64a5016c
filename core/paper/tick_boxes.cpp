#include "paper/tick_boxes.h"

#include <algorithm>
#include <opencv2/imgproc.hpp>

#include "base/quantile.h"

namespace fernleaf {
namespace {

constexpr double kLeastSide = 0.8, kMostSide = 3;  // of the height of usual letters
constexpr int kLeastSidePx = 12;
constexpr double kSquare = 1.25;    // times as wide as high, or as high as wide
constexpr double kMostAround = 3;   // of the square's side: how far ticks run out of it
constexpr double kSideInked = 0.9;  // of a side's places
constexpr double kCorner = 0.16;    // of a side: how near to its corner ink must be
constexpr double kMiddle = 0.22;    // of a side: beyond it from the border is the middle
constexpr double kTicked = 0.05;    // of the middle, that is ink

// What the ink of a mask encloses, all of it.
cv::Rect enclosed(const cv::Mat& mask) {
    std::vector<std::vector<cv::Point>> contours;
    std::vector<cv::Vec4i> tree;
    cv::findContours(mask, contours, tree, cv::RETR_CCOMP, cv::CHAIN_APPROX_SIMPLE);
    cv::Rect out;
    for (size_t i = 0; i < contours.size(); ++i)
        if (tree[i][3] >= 0) out |= cv::boundingRect(contours[i]);
    return out;
}

// Of the places along a side, the share that has ink near it. side: of the square, a strip.
double inked(const cv::Mat& strip, bool level) {
    cv::Mat along;
    cv::reduce(strip, along, level ? 0 : 1, cv::REDUCE_MAX);
    return static_cast<double>(cv::countNonZero(along)) / static_cast<double>(std::max<size_t>(1, along.total()));
}

bool has_four_sides(const cv::Mat& mask, const cv::Rect& square, int reach) {
    const cv::Rect whole({}, mask.size());
    const auto strip = [&](int x, int y, int w, int h) { return mask(cv::Rect(x, y, w, h) & whole); };
    const int wide = 2 * reach + 1, left = square.x - reach, top = square.y - reach;
    const int right = square.br().x - 1 - reach, bottom = square.br().y - 1 - reach;
    if (inked(strip(square.x, top, square.width, wide), true) < kSideInked ||
        inked(strip(square.x, bottom, square.width, wide), true) < kSideInked ||
        inked(strip(left, square.y, wide, square.height), false) < kSideInked ||
        inked(strip(right, square.y, wide, square.height), false) < kSideInked)
        return false;
    const int near = std::max(2, static_cast<int>(kCorner * std::min(square.width, square.height)));
    for (const int x : {square.x, square.br().x - near})
        for (const int y : {square.y, square.br().y - near})
            if (cv::countNonZero(strip(x, y, near, near)) == 0) return false;
    return true;
}

}  // namespace

std::vector<TickBox> tick_boxes(const InkMask& ink) {
    std::vector<TickBox> out;
    std::vector<int> heights;
    for (const InkPiece& piece : ink.pieces)
        if (piece.box.height > smallest_letter_px(ink)) heights.push_back(piece.box.height);
    if (heights.empty()) return out;
    const double usual = quantile(std::move(heights), 0.5);
    const double least = std::max<double>(kLeastSidePx, kLeastSide * usual), most = kMostSide * usual;
    const int stroke = static_cast<int>(std::ceil(ink.stroke_px));
    for (size_t i = 0; i < ink.pieces.size(); ++i) {
        const cv::Rect box = ink.pieces[i].box;
        if (std::min(box.width, box.height) < least || std::max(box.width, box.height) > kMostAround * most) continue;
        cv::Mat mask;
        cv::copyMakeBorder(ink.labels(box) == ink.pieces[i].label, mask, stroke, stroke, stroke, stroke,
                           cv::BORDER_CONSTANT, cv::Scalar(0));
        const cv::Rect inside = enclosed(mask);
        if (inside.empty()) continue;
        // Its outer border: as far from what it encloses as a stroke is wide.
        const cv::Rect square(inside.x - stroke, inside.y - stroke, inside.width + 2 * stroke,
                              inside.height + 2 * stroke);
        const auto [narrow, wide] = std::minmax({square.width, square.height});
        if (narrow < least || wide > most || wide > kSquare * narrow || (square & cv::Rect({}, mask.size())) != square)
            continue;
        if (!has_four_sides(mask, square, stroke)) continue;
        TickBox one;
        one.box = square + box.tl() - cv::Point(stroke, stroke);
        for (size_t k = 0; k < ink.pieces.size(); ++k)
            if (k == i || (ink.pieces[k].box & one.box) == ink.pieces[k].box) one.pieces.push_back(k);
        const int in = static_cast<int>(kMiddle * narrow) + stroke / 2;
        const cv::Rect middle(one.box.x + in, one.box.y + in, one.box.width - 2 * in, one.box.height - 2 * in);
        double filled = 0;
        for (const size_t k : one.pieces) filled += cv::countNonZero(ink.labels(middle) == ink.pieces[k].label);
        one.ticked = filled > kTicked * middle.area();
        out.push_back(std::move(one));
    }
    return out;
}

}  // namespace fernleaf
