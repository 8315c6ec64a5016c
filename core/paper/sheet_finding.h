// Finds sheets of paper in a photograph: on a table, seen aslant, with a corner torn off or outside the picture.
//
//   const std::vector<FoundSheet> found = find_sheets(pixels, 1);
//   if (found.empty()) ...     // a scan that is all paper, or nothing to be told from the ground
//
// Long straight edges are the sides that sheets can have (line segments after Grompone von Gioi et al., "LSD", 2010, in
// L*a*b*, from which writing was removed by closing; the picture's borders are sides, too). Four of them make a sheet;
// a sheet is judged by how much of its border is edge, how far the colours on both sides of it differ, how even its
// inside is, and its size (sheet_search.h). Where writing seems to stand (sheet_writing.h), small sheets are sought
// among the lines about it, and it tells a page from a blank panel and a whole from a piece that a shadow cuts off. The
// borders of the best are then traced as curves by dynamic programming across the edge, at a higher resolution, and
// fitted; so sheets that curl get curved sides. Where marks are printed in a sheet's corners (corner_marks.h) and no
// border is seen about them, they tell where it lies. Figures: docs/paper.md.
#pragma once

#include <opencv2/core.hpp>
#include <vector>

#include "document/sheet_outline.h"

namespace fernleaf {

struct FoundSheet {
    SheetOutline outline;
    double certainty = 0;  // 0 to 1: how clearly it stands out
};

// The best first, at most `most`. Sheets do not overlap. None where the whole picture is paper.
// pixels: CV_8UC3, BGR, at least 32 px wide and high; smaller ones have no sheets.
std::vector<FoundSheet> find_sheets(const cv::Mat& pixels, size_t most);

}  // namespace fernleaf
