// Finds the lines of handwriting in a flat, straight picture of a page.
//
// Ink is told from paper and from printed rules (ink_mask.h); the connected pieces that remain are grouped as strokes
// are (ink/grouping.h).
#pragma once

#include <opencv2/core.hpp>
#include <vector>

#include "reading/raster.h"

namespace fernleaf {

struct ScanLine {
    LinePicture picture;  // source unit: pixels of the scan, from box_px.x
    cv::Rect box_px;
    int region = 0;
    bool drawing = false;
};

// pixels: CV_8UC3 (BGR) or CV_8UC1. An empty picture or one without ink has no lines.
std::vector<ScanLine> find_scan_lines(const cv::Mat& pixels);

}  // namespace fernleaf
