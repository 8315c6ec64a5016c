// Which way up a page is to be read.
#pragma once

#include <opencv2/core.hpp>

#include "paper/find_upright.h"
#include "paper/sheet_picture.h"
#include "reading/reader.h"

namespace fernleaf {

// The quarter turns clockwise (0 to 3) after which a page stands upright: the way in which its lines are read with most
// certainty, and in doubt begin at the top left; 0 where no way is clearly better than as it is. page: CV_8UC3, flat.
int upright_turns(const cv::Mat& page, const Reader& reader, const ReadSettings& settings);

// A sheet set upright, and the page's size with it; as it is without anyone to tell. pixels: of the picture it is in.
Suggestion set_upright(const cv::Mat& pixels, Suggestion sheet, const FindUpright& find);

}  // namespace fernleaf
