#include "paper/sheet_writing.h"

#include <opencv2/imgproc.hpp>

#include "paper/shrunk.h"
#include "paper/straightening.h"

namespace fernleaf {
namespace {

constexpr int kLeastSidePx = 150,
              kMostSidePx = 900;         // of the sheet's longer side: less tells nothing, more is not needed
constexpr double kMargin = 0.05;         // of the sheet: its border is not writing
constexpr int kStrokePx = 9;             // what is narrower and darker than what is about it may be ink
constexpr int kLeastDark = 16;           // grey levels,
constexpr double kLeastDarkShare = 0.1;  // and of the light about it
constexpr double kMostAcross = 0.15;     // of the sheet: more is a seam, a crack, a picture
constexpr int kLeastPiecePx = 4;
constexpr int kBlankPieces = 4, kWrittenPieces = 15;

}  // namespace

Writing writing_on(const cv::Mat& pixels, const SheetOutline& outline) {
    const cv::Size size = flat_size(outline, pixels.size());
    if (std::max(size.width, size.height) < kLeastSidePx || std::min(size.width, size.height) < kLeastPicturePx)
        return Writing::little;
    cv::Mat flat = straightened(pixels, outline, size), grey, dark, light;
    flat = shrunk(flat, factor_to(flat, kMostSidePx));
    cv::cvtColor(flat, grey, cv::COLOR_BGR2GRAY);
    cv::morphologyEx(grey, light, cv::MORPH_CLOSE,
                     cv::getStructuringElement(cv::MORPH_ELLIPSE, {kStrokePx, kStrokePx}));
    const cv::Mat ink = (light - grey > kLeastDark) & (light - grey > kLeastDarkShare * light);
    const auto within = [](int side) {
        return cv::Range(static_cast<int>(kMargin * side), static_cast<int>((1 - kMargin) * side));
    };
    cv::Mat labels, stats, centres;
    const int count = cv::connectedComponentsWithStats(ink(within(ink.rows), within(ink.cols)), labels, stats, centres);
    int pieces = 0;
    for (int i = 1; i < count; ++i)
        pieces += stats.at<int>(i, cv::CC_STAT_AREA) >= kLeastPiecePx &&
                  stats.at<int>(i, cv::CC_STAT_WIDTH) < kMostAcross * ink.cols &&
                  stats.at<int>(i, cv::CC_STAT_HEIGHT) < kMostAcross * ink.rows;
    return pieces <= kBlankPieces ? Writing::none : pieces >= kWrittenPieces ? Writing::much : Writing::little;
}

}  // namespace fernleaf
