#include "paper/ink_contrast.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "base/quantile.h"
#include "paper/mean_about.h"
#include "paper/pen_blur.h"

namespace fernleaf {
namespace {

constexpr double kSharpenedBy = 1.2;      // of the blur: the surroundings that strokes are told from
constexpr double kLeastSurroundings = 1;  // px
constexpr double kLeastGain = 0.12, kMostGain = 3;
constexpr int kPaperGrain = 18;       // of 255: darker than paper by as much as its grain
constexpr double kDarkestInk = 0.89;  // of the light: no ink on paper takes more
constexpr int kLeastDark = 36;        // of 255: the middle of a stroke
constexpr double kUsualInk = 0.9;     // of the middles of strokes, by darkness
constexpr double kPaleInk = 0.6;      // of the darkness of those: what is paler is a printed rule, or nearly all paper
constexpr double kSamePen = 12;       // of a pen's width: as far about it strokes are as dark
constexpr double kSameHue = 1.2;      // of the blur: about a place
constexpr double kLeastHueReach = 2;  // px
constexpr double kEdge = 0.5;         // of the ink's darkness: less is a stroke's border,
constexpr double kMiddle = 0.8;       // and more its middle
constexpr int kCoarse = 4;            // px in one of the picture in which darkness is spread
constexpr int kHueCoarse = 2;         // and of that in which hues are

// The ink's darkness about each place, CV_32F, 0 to 255: the mean over the middles of strokes, which the darkest tell
// most of. sharp: darkness as it was before the blur.
cv::Mat ink_darkness(const cv::Mat& sharp, const PenBlur& pen) {
    const int about = 2 * static_cast<int>(std::lround(pen.width_px / 2)) + 3;
    cv::Mat most, middles;
    cv::dilate(sharp, most, cv::getStructuringElement(cv::MORPH_RECT, {about, about}));
    sharp.copyTo(middles, (sharp == most) & (sharp >= kLeastDark));
    std::vector<uchar> all;
    for (int y = 0; y < middles.rows; ++y)
        std::copy_if(middles.ptr(y), middles.ptr(y) + middles.cols, std::back_inserter(all), [](uchar m) { return m; });
    const double usual = std::min<double>(255 * kDarkestInk, quantile(std::move(all), kUsualInk));
    const cv::Size coarse((sharp.cols + kCoarse - 1) / kCoarse, (sharp.rows + kCoarse - 1) / kCoarse);
    cv::Mat shares;
    middles.convertTo(shares, CV_32F, 1 / 255.0);
    // The fourth power of the darkness: rules tell little beside ink.
    cv::Mat told = shares.mul(shares);
    told = told.mul(told);
    cv::Mat out = mean_about(middles, told, coarse, std::max(2.0, kSamePen * pen.width_px / kCoarse));
    cv::min(out, 255 * kDarkestInk, out);
    cv::max(out, std::max<double>(kLeastDark, kPaleInk * usual), out);
    return out;
}

// The ink's hue about each place, CV_8UC3: how much light it takes of each channel, in parts of 255 of the one of which
// it takes most.
cv::Mat ink_hue(const cv::Mat& lit, int paper, const PenBlur& pen) {
    cv::Mat small, dark;
    cv::resize(lit, small, {(lit.cols + kHueCoarse - 1) / kHueCoarse, (lit.rows + kHueCoarse - 1) / kHueCoarse}, 0, 0,
               cv::INTER_AREA);
    small.convertTo(dark, CV_32FC3, -1, paper);  // grain that is lighter than paper counts against what is darker
    const double sigma = std::max(kLeastHueReach, kSameHue * pen.blur_px) / kHueCoarse;
    cv::GaussianBlur(dark, dark, {}, sigma);
    for (int y = 0; y < dark.rows; ++y)
        for (cv::Vec3f* p = dark.ptr<cv::Vec3f>(y); p < dark.ptr<cv::Vec3f>(y) + dark.cols; ++p)
            *p *= 255 / std::max({1.0F, (*p)[0], (*p)[1], (*p)[2]});
    cv::Mat out;
    dark.convertTo(out, CV_8UC3);
    cv::resize(out, out, lit.size(), 0, 0, cv::INTER_LINEAR);
    return out;
}

}  // namespace

cv::Mat least_channel(const cv::Mat& bgr) {
    std::vector<cv::Mat> channels;
    cv::split(bgr, channels);
    cv::Mat out;
    cv::min(channels[0], channels[1], out);
    cv::min(out, channels[2], out);
    return out;
}

cv::Mat restore_ink_contrast(const cv::Mat& lit, int paper) {
    cv::Mat dark;
    least_channel(lit).convertTo(dark, CV_8U, -255.0 / paper, 255);
    const PenBlur pen = pen_blur(dark);
    if (pen.width_px <= 0) return lit;
    const double about = std::max(kLeastSurroundings, kSharpenedBy * pen.blur_px);
    const double peak = seen_bar(pen.width_px, pen.blur_px).peak,
                 softer = seen_bar(pen.width_px, std::hypot(pen.blur_px, about)).peak;
    const double gain = std::min(kMostGain, (1 - peak) / std::max(0.05, peak - softer));
    if (gain < kLeastGain) return lit;
    cv::Mat soft, sharp, smooth;
    cv::GaussianBlur(dark, soft, {}, about);
    cv::addWeighted(dark, 1 + gain, soft, -gain, 0, sharp);
    cv::Mat ink;
    const cv::Mat hue = ink_hue(lit, paper, pen);
    cv::resize(ink_darkness(sharp, pen), ink, lit.size(), 0, 0, cv::INTER_LINEAR);
    // Paper stays as it is: its grain is no ink.
    cv::blur(dark, smooth, {3, 3});
    cv::Mat out = lit.clone();
    for (int y = 0; y < out.rows; ++y) {
        const uchar *is_ink = smooth.ptr(y), *from = sharp.ptr(y);
        const auto* full = ink.ptr<float>(y);
        const auto* of_hue = hue.ptr<cv::Vec3b>(y);
        auto* to = out.ptr<cv::Vec3b>(y);
        for (int x = 0; x < out.cols; ++x) {
            if (is_ink[x] <= kPaperGrain) continue;
            // The middle of a stroke is all ink, its border keeps its slope.
            const double part = static_cast<double>(from[x]) / full[x];
            const double covered =
                part < kEdge ? part : std::min(1.0, kEdge + (part - kEdge) * (1 - kEdge) / (kMiddle - kEdge));
            const double taken = covered * full[x] / 255 * paper;
            for (int c = 0; c < 3; ++c) to[x][c] = cv::saturate_cast<uchar>(paper - taken * of_hue[x][c] / 255);
        }
    }
    return out;
}

}  // namespace fernleaf
