#include "paper/picture_faults.h"

#include <array>
#include <numbers>
#include <opencv2/imgproc.hpp>

#include "base/geometry.h"
#include "base/quantile.h"
#include "paper/cleaning.h"
#include "paper/ink_contrast.h"
#include "paper/shrunk.h"

namespace fernleaf {
namespace {

constexpr int kEdgePx = 17;            // across the neighbourhood in which an edge's height and slope are looked for
constexpr int kStripPx = 150;          // rows that are looked through at a time, a multiple of three
constexpr int kLeastRise = 24;         // grey levels
constexpr size_t kLeastEdges = 60;     // places
constexpr double kMostBlurMm = 0.3;    // more, and the strokes of letters run together
constexpr double kGlareShare = 0.004;  // of the sheet
constexpr int kMirrored = 251, kUsualPaperLight = 215;  // grey levels: a lamp is lighter, paper about it darker
constexpr double kLeastDpi = 85;
constexpr double kJudgedMegapixels = 12;

constexpr double kBurntShare = 0.15, kGlowShare = 0.06;  // of the sheet: burnt out, and where light fades into that
constexpr int kGlow = 250;                               // grey levels: lighter is burnt out, or nearly

constexpr int kPatchPx = 256, kPatchesASide = 3;
constexpr int kLeastRound = 20, kMostRound = 113;  // times a patch is wide: how often a screen's dots repeat in it
constexpr int kPeakPx = 7, kAboutPx = 15;          // across a peak in the spectrum, and across what it stands out from
constexpr float kPeak = 60;                        // times that
constexpr int kMostPeaks = 10;                     // more are a comb's: rules, squares, a weave
constexpr int kScreenPatches = 4;                  // of the nine

constexpr int kLightPx = 320;          // longer side of the copy in which creases are looked for
constexpr int kCells = 8;              // a side
constexpr double kSteep = 0.02;        // of the light, a pixel of that copy
constexpr double kCreasedShare = 0.6;  // of the cells

constexpr int kLeastPaper = 110;  // grey levels of paper in the middle,
constexpr double kEven = 0.6;     // and of its darkest tenth, of that

template <class Value>
std::vector<Value> values(const cv::Mat& of) {
    std::vector<Value> out;
    out.reserve(of.total());
    for (int y = 0; y < of.rows; ++y) out.insert(out.end(), of.ptr<Value>(y), of.ptr<Value>(y) + of.cols);
    return out;
}

// How many peaks a patch's spectrum has that stand out from what is about them.
int peaks_in(const cv::Mat& grey) {
    cv::Mat patch, smooth, window, spectrum;
    grey.convertTo(patch, CV_32F);
    cv::GaussianBlur(patch, smooth, {}, 8);
    patch -= smooth;
    cv::createHanningWindow(window, patch.size(), CV_32F);
    cv::dft(patch.mul(window), spectrum, cv::DFT_COMPLEX_OUTPUT);
    std::vector<cv::Mat> parts;
    cv::split(spectrum, parts);
    const cv::Mat power = parts[0].mul(parts[0]) + parts[1].mul(parts[1]);
    // Half of the plane tells all; its rows below the middle are negative frequencies.
    const cv::Mat half = power.colRange(0, kMostRound + kAboutPx).clone();
    cv::Mat about, itself, highest;
    cv::boxFilter(half, about, -1, {kAboutPx, kAboutPx}, {-1, -1}, false, cv::BORDER_REFLECT);
    cv::boxFilter(half, itself, -1, {kPeakPx, kPeakPx}, {-1, -1}, false, cv::BORDER_REFLECT);
    about = (about - itself) / (kAboutPx * kAboutPx - kPeakPx * kPeakPx);
    cv::dilate(half, highest, cv::getStructuringElement(cv::MORPH_RECT, {kPeakPx, kPeakPx}));
    int count = 0;
    for (int y = 0; y < half.rows; ++y) {
        const int down = y <= kPatchPx / 2 ? y : y - kPatchPx;
        for (int x = 0; x < kMostRound; ++x) {
            const double round = std::hypot(x, down);
            const float here = half.at<float>(y, x);
            if (round < kLeastRound || round > kMostRound || here < highest.at<float>(y, x)) continue;
            count += here > kPeak * std::max(about.at<float>(y, x), 1.0F);
        }
    }
    return count;
}

bool shows_screen(const cv::Mat& flat) {
    if (flat.cols < kPatchPx || flat.rows < kPatchPx) return false;
    int patches = 0;
    for (int i = 0; i < kPatchesASide * kPatchesASide; ++i) {
        const int x = (2 * (i % kPatchesASide) + 1) * flat.cols / (2 * kPatchesASide);
        const int y = (2 * (i / kPatchesASide) + 1) * flat.rows / (2 * kPatchesASide);
        const cv::Rect at(std::clamp(x - kPatchPx / 2, 0, flat.cols - kPatchPx),
                          std::clamp(y - kPatchPx / 2, 0, flat.rows - kPatchPx), kPatchPx, kPatchPx);
        cv::Mat grey;
        cv::cvtColor(flat(at), grey, cv::COLOR_BGR2GRAY);
        const int peaks = peaks_in(grey);
        patches += peaks > 0 && peaks <= kMostPeaks;
    }
    return patches >= kScreenPatches;
}

bool is_creased(const cv::Mat& light) {
    cv::Mat grey, dx, dy, slope;
    cv::cvtColor(shrunk(light, factor_to(light, kLightPx)), grey, cv::COLOR_BGR2GRAY);
    grey.convertTo(grey, CV_32F);
    cv::Sobel(grey, dx, CV_32F, 1, 0, 3, 1 / 8.0);
    cv::Sobel(grey, dy, CV_32F, 0, 1, 3, 1 / 8.0);
    cv::magnitude(dx, dy, slope);
    cv::divide(slope, grey + 1, slope);
    int steep = 0;
    for (int i = 0; i < kCells * kCells; ++i) {
        const cv::Rect cell((i % kCells) * slope.cols / kCells, (i / kCells) * slope.rows / kCells, slope.cols / kCells,
                            slope.rows / kCells);
        steep += quantile(values<float>(slope(cell)), 0.9) > kSteep;
    }
    return steep > kCreasedShare * kCells * kCells;
}

// A mirrored lamp is white in all channels, far lighter than the paper about it, and large; a flash burns the paper out
// and fades away from there.
bool shows_glare(const cv::Mat& light) {
    const cv::Mat least = least_channel(light);
    cv::Mat small, white, glow;
    cv::resize(least, small, {64, 64}, 0, 0, cv::INTER_AREA);
    const double all = static_cast<double>(least.total());
    cv::threshold(least, white, kMirrored, 255, cv::THRESH_BINARY);
    const double share = cv::countNonZero(white) / all;
    if (share > kGlareShare && median(values<uchar>(small)) < kUsualPaperLight) return true;
    cv::inRange(least, kUsualPaperLight, kGlow, glow);
    return share > kBurntShare && cv::countNonZero(glow) > kGlowShare * all;
}

}  // namespace

// An edge so blurred rises by its height over sqrt(2 pi) deviations a pixel at its steepest.
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

Faults faults_of(const cv::Mat& page, double width_mm) {
    Faults out;
    if (!may_hold_writing(page) || width_mm <= 0) return out;
    out.low_resolution = page.cols / width_mm * kMmPerInch < kLeastDpi;
    // A copy of the usual size tells the rest as well, and does not fill the memory.
    const cv::Mat flat = shrunk(page, std::sqrt(kJudgedMegapixels / (1e-6 * static_cast<double>(page.total()))));
    out.blurred = blur_px(flat) > kMostBlurMm * flat.cols / width_mm;
    const cv::Mat light = paper_light(flat);
    out.glare = shows_glare(light);
    out.creased = is_creased(light);
    out.screen = shows_screen(flat);
    return out;
}

bool like_paper(const cv::Mat& pixels) {
    if (!may_hold_writing(pixels)) return true;  // too small to tell
    const cv::Mat small = shrunk(pixels, factor_to(pixels, kLightPx));
    const cv::Mat least = least_channel(paper_light(small));
    const std::vector<uchar> levels = values<uchar>(least);
    return median(levels) > kLeastPaper && quantile(levels, 0.1) > kEven * median(levels);
}

}  // namespace fernleaf
