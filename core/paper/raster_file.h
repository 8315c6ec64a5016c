// Pixels from and to files of PNG, JPEG, TIFF and WebP, through their own libraries. OpenCV's reader of files links
// a hundred libraries of maps and films, which every start would wait for (docs/performance.md).
#pragma once

#include <opencv2/core.hpp>
#include <string>

#include "base/result.h"

namespace fernleaf {

// A page of a file: CV_8UC3, BGR, turned as its camera was held; what is transparent shows white paper. An error with a
// sentence for what is damaged, or of no kind that is known. bytes: no larger than its header says that it may be
// (probe_picture).
Result<cv::Mat> decode_raster(const std::string& bytes, int frame);

// pixels: CV_8UC3, BGR, or CV_8UC1, not empty. quality: 1 to 100. Empty where it failed.
std::string encode_png(const cv::Mat& pixels);
std::string encode_jpeg(const cv::Mat& pixels, int quality);

}  // namespace fernleaf
