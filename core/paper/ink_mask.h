// Tells ink from paper in a flat picture of a page, and printed rules from what was written on them.
//
// Ink is darker than the paper around it by Otsu's threshold (1979), with a floor for faint pencil. Rules are long thin
// runs along one slope, across or down, fainter than ink or not. What is left is ink when it is as wide as the pen that
// wrote most of it: a dot of a pen is as wide as its strokes, dirt and the crossings of rules are smaller, and what
// looks in from beside the sheet is larger.
#pragma once

#include <opencv2/core.hpp>
#include <vector>

#include "ink/grouping.h"

namespace fernleaf {

struct InkPiece {
    int label = 0;  // in InkMask::labels
    cv::Rect box;
    cv::Point2d middle;
    int area = 0;  // px
};

struct InkMask {
    cv::Mat dark;    // CV_8U: how much darker than the paper around it each pixel is
    cv::Mat rules;   // CV_8U: 255 where a rule may be painted over; not where a stroke crosses it
    cv::Mat labels;  // CV_32S: connected pieces of what is no rule; those that are no ink are not among the pieces
    std::vector<InkPiece> pieces;
    double stroke_px = 0;  // how wide most strokes are
    double grain = 0;      // how much darker than the paper its grain makes it, in nearly all places; of 255
};

// As grouping takes it; lengths are px.
inline InkComponent component_of(const InkPiece& piece) {
    return {Box::of(piece.box.x, piece.box.y, piece.box.width, piece.box.height), piece.middle.y, piece.area / 3.0};
}

// What is lower is no letter: a dot, or a speck.
inline double smallest_letter_px(const InkMask& ink) { return 1.8 * ink.stroke_px; }

// grey: CV_8UC1.
InkMask ink_mask(const cv::Mat& grey);

constexpr int kInkWidthPx = 1700;  // an A4 sheet at 200 dots an inch

// The ink of a page as it is read, lifted and painted over: of the picture made no wider than kInkWidthPx, so that its
// pieces are the same each time. pixels: CV_8UC3 (BGR) or CV_8UC1, not empty.
InkMask ink_of_page(const cv::Mat& pixels);

}  // namespace fernleaf
