// How much writing a sheet in a photograph seems to hold, before it is laid flat and read: enough to tell a page from a
// blank panel, a card or a tile beside it.
#pragma once

#include <opencv2/core.hpp>

#include "document/sheet_outline.h"

namespace fernleaf {

enum class Writing { none, little, much };  // little: or too small in the picture to tell

// pixels: CV_8UC3, BGR; outline: of the sheet in it.
Writing writing_on(const cv::Mat& pixels, const SheetOutline& outline);

}  // namespace fernleaf
