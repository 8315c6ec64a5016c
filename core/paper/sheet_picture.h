// From the file of a photograph or scan to the page it shows.
//
//   for (const Suggestion& sheet : suggested(pixels)) ...      // what to do with it, one a sheet
//   cv::Mat page = treated(pixels, sheet.treatment);
#pragma once

#include <opencv2/core.hpp>
#include <string>
#include <vector>

#include "base/result.h"
#include "document/faults.h"
#include "document/intake.h"
#include "document/page.h"

namespace fernleaf {

// pixels: CV_8UC3, BGR; so is what comes out.
cv::Mat treated(const cv::Mat& pixels, const Treatment& treatment);

// The pixels a picture on a page shows, before it is cropped.
Result<cv::Mat> picture_pixels(const std::string& bytes, const Picture& picture);

// The same, laid flat and turned but neither cleaned nor painted over: what is read.
Result<cv::Mat> picture_to_read(const std::string& bytes, const Picture& picture);

// Whether a piece of a page's ink is among those that were lifted. size: of the picture the ink was found in.
bool was_lifted(const Treatment& treatment, const cv::Rect& piece, cv::Size size);

struct Suggestion {
    Treatment treatment;
    double width_mm = 0, height_mm = 0;  // of the page
    Faults faults;
};

constexpr size_t kMostSheetsInPicture = 24;

// One for each sheet found, in reading order; one for the whole picture where none is. scan_dpi: pixels an inch of
// paper, where a scanner tells them; else a sheet's proportions tell its size.
std::vector<Suggestion> suggested(const cv::Mat& pixels, double scan_dpi = 0);

// An entry of the intake tray that was looked at.
IntakeEntry with_suggestion(IntakeEntry entry, const Suggestion& suggestion);

// The page's size and the faults under another treatment.
Suggestion judged(const cv::Mat& pixels, const Treatment& treatment, double scan_dpi = 0);

// What makes one sheet of parts of a picture: it lies about them all, and is treated as the first of them. parts: not
// empty.
Treatment about_all(const std::vector<Treatment>& parts);

}  // namespace fernleaf
