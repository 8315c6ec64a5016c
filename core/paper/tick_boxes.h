// Boxes to be ticked, on forms and lists: small squares with four straight sides, drawn or printed.
//
// Method: what a piece of ink encloses tells where its square is, whatever tick or cross runs out of it; the square
// has ink all along its four sides and in its corners, which no round letter has. It is ticked where there is ink in
// its middle.
#pragma once

#include <opencv2/core.hpp>
#include <vector>

#include "paper/ink_mask.h"

namespace fernleaf {

struct TickBox {
    cv::Rect box;  // px of the ink, with its sides
    bool ticked = false;
    std::vector<size_t> pieces;  // of the ink: the square, and what stands in it
};

std::vector<TickBox> tick_boxes(const InkMask& ink);

}  // namespace fernleaf
