// What is drawn in a picture of a page, among what was read there: tables, figures and links.
#pragma once

#include <functional>

#include "paper/scan_lines.h"
#include "transcript/reading.h"

namespace fernleaf {

// Adds the tables drawn in a picture to its lines, in whose cells then stands what was read there, and one region of
// its shapes. place: where on the page (mm) a pixel of the picture scanned is. The shapes and rules have no strokes,
// for they are the picture's.
void add_drawings(std::vector<ReadLine>& lines, const ScannedPage& scanned, const std::function<Point(Point)>& place,
                  uint64_t input_signature);

}  // namespace fernleaf
