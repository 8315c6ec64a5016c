// Pictures of paper as files: PNG, JPEG, TIFF, WebP and PDF, recognised by content.
//
//   auto sheets = probe_picture(bytes);           // how many pages, how large
//   auto pixels = decode_picture(bytes, 0);       // the first page, BGR
//
// Sizes are taken from the headers before anything is decoded, so that no picture can exhaust the memory.
#pragma once

#include <opencv2/core.hpp>
#include <string>
#include <vector>

#include "base/geometry.h"
#include "base/result.h"
#include "paper/picture_header.h"

namespace fernleaf {

// A picture, and how many of its pixels an inch of paper takes, where that is known.
struct ScannedSheet {
    cv::Mat pixels;  // CV_8UC3, BGR
    double dpi = 0;
};

struct SheetSize {
    int width_px = 0;  // as decode_picture gives it
    int height_px = 0;
    double width_mm = 0;
    double height_mm = 0;
};

constexpr double kLargestPictureMegapixels = 120;

// One entry a page. Pictures tell no trustworthy size in mm: theirs is that of an A4 sheet's width.
Result<std::vector<SheetSize>> probe_picture(const std::string& bytes);

constexpr int kUsualDpi = 200, kLeastDpi = 72, kMostDpi = 600;

// Pixels of one page: CV_8UC3, BGR. PDF pages are drawn with so many dots an inch, their annotations with them; fewer
// where they would be too large. Other kinds have the pixels they have.
Result<cv::Mat> decode_picture(const std::string& bytes, int frame, int dpi = kUsualDpi);

// A word that a PDF has as text.
struct KeptWord {
    std::string text;
    Box box;                 // in parts of the page's width and height
    bool ends_line = false;  // the next stands in another line, column or cell
};

// In reading order; none for other kinds, for pages that are pictures, and for damaged ones.
std::vector<KeptWord> embedded_pdf_text(const std::string& bytes, int frame);

// Pixels an inch of paper, as scanners note it in a PNG, a TIFF, or a JPEG without a camera's notes. 0 where nothing is
// noted, or no scanner's resolution.
double scan_dpi(const std::string& bytes, int frame);
// A PNG with it noted, in place of what it may say. png: as it is written, header first.
std::string with_scan_dpi(const std::string& png, double dpi);

}  // namespace fernleaf
