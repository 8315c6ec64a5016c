// Who tells which way up a page is.
#pragma once

#include <functional>

namespace cv {
class Mat;
}

namespace fernleaf {

// How often a page (CV_8UC3) is to be turned by a quarter, clockwise, to stand upright: 0 to 3.
using FindUpright = std::function<int(const cv::Mat& page)>;

}  // namespace fernleaf
