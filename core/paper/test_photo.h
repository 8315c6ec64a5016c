// A sheet on a table, drawn for tests.
#pragma once

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include "document/sheet_outline.h"

namespace fernleaf {

// Fine grain about a colour, the same every time.
inline cv::Mat table(cv::Size size, cv::Scalar colour) {
    cv::Mat out(size, CV_8UC3, colour), grain(size, CV_8UC3);
    cv::RNG rng(5);
    rng.fill(grain, cv::RNG::UNIFORM, 0, 9);
    return out + grain;
}

inline void lay_sheet(cv::Mat& picture, const SheetOutline& outline, cv::Scalar paper = {235, 240, 240}) {
    std::vector<cv::Point> shape;
    constexpr int kShift = 4;
    for (const Point& p : polygon(outline, 40))
        shape.emplace_back(static_cast<int>(p.x * (1 << kShift)), static_cast<int>(p.y * (1 << kShift)));
    cv::fillPoly(picture, std::vector{shape}, paper, cv::LINE_AA, kShift);
}

// Lines of short strokes on it, as writing is.
inline void scrawl(cv::Mat& picture, const SheetOutline& outline) {
    const auto& c = outline.corners;
    for (double v = 0.15; v < 0.9; v += 0.06)
        for (double u = 0.12; u < 0.85; u += 0.03) {
            const Point p = (c[0] * (1 - u) + c[1] * u) * (1 - v) + (c[3] * (1 - u) + c[2] * u) * v;
            const cv::Point at(static_cast<int>(p.x), static_cast<int>(p.y));
            cv::line(picture, at, at + cv::Point(static_cast<int>(u * 100) % 7, 10), {60, 40, 30}, 2, cv::LINE_AA);
        }
}

}  // namespace fernleaf
