// Turns a written line into the 40 px high picture that the network reads, ink bright on black.
//
// Ink is drawn with a pen of one width whatever pen wrote it, and every line is brought to the same size by the
// mean and the standard deviation of its ink's height, which unlike the height of its box hardly depends on which
// letters happen to reach up or down. training/lines.py makes its pictures by the same computation.
#pragma once

#include <opencv2/core.hpp>
#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

constexpr int kLineHeightPx = 40;
constexpr double kLineSpreadPx = 5.6;
constexpr int kLineMarginPx = 6;
constexpr int kLongestLinePx = 4000;

// A line ready to read, and the way back from its columns to the source.
struct LinePicture {
    cv::Mat pixels;    // CV_8U, 40 rows; empty when there was nothing to draw
    double scale = 1;  // picture px for one unit of the source (mm for ink, px for scans)
    double left = 0;   // source x of column 0, in the line's own deskewed frame
    double slope = 0;  // of the line in the source

    // x in the source, measured along the line, of a column.
    double source_x(double column) const { return left + column / scale; }
};

// slope: of the line's baseline, dy / dx.
LinePicture draw_line(const std::vector<const Stroke*>& strokes, double slope);

// The same for a soft mask cut from a scan: CV_8U, ink bright, one line, everything else black. Columns count from the
// mask's left edge.
LinePicture fit_line(const cv::Mat& mask, double slope);

}  // namespace fernleaf
