// Pictures of paper as files: PNG, JPEG, TIFF, WebP and PDF, recognised by content.
//
//   auto sheets = probe_picture(bytes);           // how many pages, how large
//   auto pixels = decode_picture(bytes, 0);       // the first page, BGR
//
// Sizes are taken from the headers before anything is decoded, so that no picture can exhaust the memory.
#pragma once

#include <opencv2/core.hpp>
#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"

namespace fernleaf {

enum class PictureKind { unknown, png, jpeg, tiff, webp, pdf };

struct SheetSize {
    int width_px = 0;  // as decode_picture gives it
    int height_px = 0;
    double width_mm = 0;
    double height_mm = 0;
};

constexpr double kLargestPictureMegapixels = 120;
constexpr int kMostSheets = 2000;

PictureKind picture_kind(std::string_view bytes);

// One entry a page. Pictures tell no trustworthy size in mm: theirs is that of an A4 sheet's width.
Result<std::vector<SheetSize>> probe_picture(const std::string& bytes);

// Pixels of one page: CV_8UC3, BGR. PDF pages come at 200 dots an inch.
Result<cv::Mat> decode_picture(const std::string& bytes, int frame);

}  // namespace fernleaf
