// Where a whiteboard's frame lies in a straightened picture of it: bars along its sides, darker than the board, and the
// tray below.
//
// Method: along each side, in twenty places, the steps from dark to light on the way inwards are looked for; a bar's
// inner edge is the innermost straight line through most of them, what lies beyond must be darker than the board, and
// three sides at least must have one. A printed rule near a page's border has paper on both sides and is none.
#pragma once

#include <opencv2/core.hpp>

namespace fernleaf {

// The part of the picture within the frame; the whole where there is none. grey: CV_8UC1.
cv::Rect within_frame(const cv::Mat& grey);

}  // namespace fernleaf
