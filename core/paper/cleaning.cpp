#include "paper/cleaning.h"

#include <opencv2/imgproc.hpp>

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
}  // namespace fernleaf
