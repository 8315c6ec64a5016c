// How much writing a sheet in a photograph seems to hold, before it is laid flat and read: enough to tell a page from a
// blank panel, a card or a tile beside it.
#pragma once

#include <array>
#include <opencv2/core.hpp>
#include <optional>
#include <vector>

#include "base/geometry.h"
#include "document/sheet_outline.h"

namespace fernleaf {

enum class Writing { none, little, much };  // little: or too small in the picture to tell

// pixels: CV_8UC3, BGR; outline: of the sheet in it.
Writing writing_on(const cv::Mat& pixels, const SheetOutline& outline);

// Where writing may stand in a photograph, sheets or not: quickly asked of any part of it.
class WritingMap {
public:
    // pixels: CV_8UC3, BGR, of which letters are some px high; scale: of the coordinates below, to its px.
    WritingMap(const cv::Mat& pixels, double scale);

    // Boxes about many spots that lie close together, at several distances; they may overlap. At most 40.
    std::vector<Box> blocks() const;
    // Spots in a convex outline, whose corners go clockwise: what is small and dark on something lighter and even, as
    // letters are.
    double spots(const std::array<Point, 4>& outline) const;
    // The smallest upright or turned rectangle about nearly all spots in a box; nothing where there are few.
    std::optional<std::array<Point, 4>> rectangle_about(const Box& box) const;
    // Share of it that is thin and dark, letters or rules, 0 to 1.
    double dark(const std::array<Point, 4>& outline) const;

private:
    double sum(const cv::Mat& cells, const std::array<Point, 4>& outline, bool mean) const;

    std::vector<Point> spots_;
    cv::Size size_;
    cv::Mat spot_count_, dark_share_;  // in cells, CV_32F
};

}  // namespace fernleaf
