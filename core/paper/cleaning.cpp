#include "paper/cleaning.h"

#include <numbers>
#include <opencv2/imgproc.hpp>

#include "base/geometry.h"
#include "base/quantile.h"
#include "paper/ink_contrast.h"
#include "paper/shrunk.h"

namespace fernleaf {
namespace {

constexpr int kSmallPx = 420;       // longer side of the copy in which the light is looked for
constexpr int kInkPx = 11;          // of it: what is narrower and darker than its surroundings is ink
constexpr double kSmooth = 2.5;     // px of it
constexpr double kInkLight = 0.75;  // of the paper's light: what is darker keeps its colour,
constexpr double kWhite = 0.955;    // and what is lighter is white
constexpr int kThresholdMm10 = 60;  // tenths of a mm: the neighbourhood that black and white is judged in
constexpr double kInkShare = 0.82;  // of the paper's light: darker is ink

constexpr int kEdgePx = 17;            // across the neighbourhood in which an edge's height and slope are looked for
constexpr int kStripPx = 150;          // rows that are looked through at a time, a multiple of three
constexpr int kLeastRise = 24;         // grey levels
constexpr size_t kLeastEdges = 60;     // places
constexpr double kMostBlurMm = 0.3;    // more, and the strokes of letters run together
constexpr double kGlareShare = 0.004;  // of the sheet
constexpr int kMirrored = 251, kUsualPaperLight = 215;  // grey levels: a lamp is lighter, paper about it darker
constexpr double kLeastDpi = 85;
constexpr double kJudgedMegapixels = 12;

// The deviation of the Gaussian that the picture's edges seem to be blurred by, px: an edge so blurred rises by its
// height over sqrt(2 pi) deviations a pixel at its steepest. 0 without edges.
double blur_px(const cv::Mat& pixels) {
    const cv::Mat around = cv::getStructuringElement(cv::MORPH_RECT, {kEdgePx, kEdgePx});
    std::vector<double> blurs;
    // A strip at a time: what is made of all of a large picture would take more memory than all else. Every second one
    // tells as much as all.
    for (int top = kEdgePx; top < pixels.rows - kEdgePx; top += 2 * kStripPx) {
        const int bottom = std::min(top + kStripPx, pixels.rows - kEdgePx);
        cv::Mat grey, low, high, dx, dy, slope;
        cv::cvtColor(pixels.rowRange(top - kEdgePx, bottom + kEdgePx), grey, cv::COLOR_BGR2GRAY);
        cv::GaussianBlur(grey, grey, {}, 0.6);  // noise has no edges
        cv::erode(grey, low, around);
        cv::dilate(grey, high, around);
        cv::Sobel(grey, dx, CV_32F, 1, 0, 3, 1 / 8.0);
        cv::Sobel(grey, dy, CV_32F, 0, 1, 3, 1 / 8.0);
        cv::magnitude(dx, dy, slope);
        cv::dilate(slope, slope, around);
        const cv::Mat rise = high - low;
        for (int y = kEdgePx; y < grey.rows - kEdgePx; y += 3)
            for (int x = kEdgePx; x < grey.cols - kEdgePx; x += 3)
                if (rise.at<uchar>(y, x) >= kLeastRise)
                    blurs.push_back(rise.at<uchar>(y, x) / (slope.at<float>(y, x) * std::sqrt(2 * std::numbers::pi)));
    }
    return blurs.size() < kLeastEdges ? 0 : median(std::move(blurs));
}

// Paper that is nearly as light as it mostly is becomes white.
cv::Mat whitened(const cv::Mat& lit) {
    cv::Mat curve(1, 256, CV_8U), out;
    for (int level = 0; level < 256; ++level) {
        const double light = static_cast<double>(level) / kPaperLevel;
        const double shown =
            light < kInkLight ? light : kInkLight + (light - kInkLight) * (1 - kInkLight) / (kWhite - kInkLight);
        curve.at<uchar>(level) = cv::saturate_cast<uchar>(255 * shown);
    }
    cv::LUT(lit, curve, out);
    return out;
}

cv::Mat three(const cv::Mat& grey) {
    cv::Mat out;
    cv::cvtColor(grey, out, cv::COLOR_GRAY2BGR);
    return out;
}

}  // namespace

cv::Mat paper_light(const cv::Mat& pixels) {
    cv::Mat small, light;
    cv::medianBlur(shrunk(pixels, factor_to(pixels, kSmallPx)), small, 3);
    const cv::Mat kernel = cv::getStructuringElement(cv::MORPH_ELLIPSE, {kInkPx, kInkPx});
    cv::Mat border;  // ink at the sheet's edge is closed over, too
    cv::copyMakeBorder(small, border, kInkPx, kInkPx, kInkPx, kInkPx, cv::BORDER_REFLECT);
    cv::morphologyEx(border, border, cv::MORPH_CLOSE, kernel);
    cv::GaussianBlur(border, border, {}, kSmooth);
    border(cv::Rect(kInkPx, kInkPx, small.cols, small.rows)).copyTo(small);
    cv::max(small, 16, small);
    cv::resize(small, light, pixels.size(), 0, 0, cv::INTER_CUBIC);
    return light;
}

cv::Mat evenly_lit(const cv::Mat& pixels) {
    cv::Mat flat;
    cv::divide(pixels, paper_light(pixels), flat, kPaperLevel);
    return flat;
}

cv::Mat cleaned(const cv::Mat& pixels, Look look) {
    if (look == Look::original || !may_hold_writing(pixels)) return pixels;
    const cv::Mat lit = evenly_lit(pixels);
    if (look == Look::clean) return whitened(restore_ink_contrast(lit, kPaperLevel));
    cv::Mat grey;
    if (look == Look::grey) {
        cv::cvtColor(whitened(restore_ink_contrast(lit, kPaperLevel)), grey, cv::COLOR_BGR2GRAY);
        return three(grey);
    }
    cv::cvtColor(whitened(lit), grey, cv::COLOR_BGR2GRAY);
    // Ink is darker than what surrounds it, and dark at all.
    cv::Mat about, ink;
    const int block = std::max(15, grey.cols * kThresholdMm10 / 2100) | 1;
    cv::blur(grey, about, {block, block});
    cv::subtract(about, grey, about);
    cv::threshold(about, about, 14, 255, cv::THRESH_BINARY);
    cv::threshold(grey, ink, kInkShare * 255, 255, cv::THRESH_BINARY_INV);
    return three(255 - (ink & about));
}

Faults faults_of(const cv::Mat& page, double width_mm) {
    Faults out;
    if (!may_hold_writing(page) || width_mm <= 0) return out;
    out.low_resolution = page.cols / width_mm * kMmPerInch < kLeastDpi;
    // A copy of the usual size tells the rest as well, and does not fill the memory.
    const cv::Mat flat = shrunk(page, std::sqrt(kJudgedMegapixels / (1e-6 * static_cast<double>(page.total()))));
    out.blurred = blur_px(flat) > kMostBlurMm * flat.cols / width_mm;
    // A mirrored lamp is white in all channels, far lighter than the paper about it, and large.
    const cv::Mat least = least_channel(paper_light(flat));
    cv::Mat small, white;
    cv::resize(least, small, {64, 64}, 0, 0, cv::INTER_AREA);
    const int usual = median(std::vector<uchar>(small.begin<uchar>(), small.end<uchar>()));
    cv::threshold(least, white, kMirrored, 255, cv::THRESH_BINARY);
    out.glare = usual < kUsualPaperLight && cv::countNonZero(white) > kGlareShare * static_cast<double>(least.total());
    return out;
}

}  // namespace fernleaf
