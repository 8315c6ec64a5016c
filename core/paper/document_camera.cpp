#include "paper/document_camera.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "paper/picture_faults.h"
#include "paper/sheet_finding.h"
#include "paper/straightening.h"

namespace fernleaf {
namespace {

constexpr double kLookPx = 360;        // the longer side in which sheets are sought
constexpr double kStillShare = 0.012;  // of the sheet's diagonal, that corners may move
constexpr int64_t kStillMs = 600;
constexpr double kSameSheet = 0.9;  // correlation
const cv::Size kSmallSheet(48, 64);
constexpr double kUsualWidthMm = 210;
constexpr double kMostBlurPx = 2;
constexpr double kLeastSpread = 2;  // grey levels: less is a blank sheet

double diagonal_px(const SheetOutline& o) {
    return std::max(distance(o.corners[0], o.corners[2]), distance(o.corners[1], o.corners[3]));
}

bool still(const SheetOutline& a, const SheetOutline& b) {
    const double most = kStillShare * diagonal_px(a);
    for (size_t i = 0; i < 4; ++i)
        if (distance(a.corners[i], b.corners[i]) > most) return false;
    return true;
}

cv::Mat small_sheet(const cv::Mat& frame, const SheetOutline& outline) {
    cv::Mat grey, out;
    cv::cvtColor(straightened(frame, outline, kSmallSheet), grey, cv::COLOR_BGR2GRAY);
    // Light that falls otherwise makes no other sheet.
    cv::Mat about;
    cv::GaussianBlur(grey, about, {}, 9);
    cv::subtract(grey, about, out, cv::noArray(), CV_32F);
    return out;
}

bool same_sheet(const cv::Mat& a, const cv::Mat& b) {
    if (a.empty() || b.empty()) return false;
    cv::Scalar mean, of_a, of_b;
    cv::meanStdDev(a, mean, of_a);
    cv::meanStdDev(b, mean, of_b);
    if (of_a[0] < kLeastSpread && of_b[0] < kLeastSpread) return true;  // both blank
    cv::Mat match;
    cv::matchTemplate(a, b, match, cv::TM_CCOEFF_NORMED);
    return static_cast<double>(match.at<float>(0, 0)) > kSameSheet;
}

}  // namespace

CameraView DocumentCamera::look(const cv::Mat& frame, int64_t now_ms) {
    CameraView out;
    if (frame.empty()) return out;
    const double scale = std::min(1.0, kLookPx / std::max(frame.cols, frame.rows));
    cv::Mat small;
    cv::resize(frame, small, {}, scale, scale, cv::INTER_AREA);
    const std::vector<FoundSheet> found = find_sheets(small, 1);
    if (found.empty()) {
        outline_.reset();
        return out;
    }
    out.outline = scaled(found.front().outline, 1 / scale);
    const bool stays = outline_ && still(*outline_, *out.outline);
    if (!stays) {
        outline_ = out.outline;
        still_since_ = now_ms;
    }
    if (now_ms - still_since_ < kStillMs) {
        out.state = CameraState::moving;
        return out;
    }
    seen_ = small_sheet(frame, *out.outline);
    if (same_sheet(seen_, taken_)) {
        out.state = CameraState::taken;
        return out;
    }
    const cv::Mat flat = straightened(frame, *out.outline, flat_size(*out.outline, frame.size()));
    out.faults = faults_of(flat, kUsualWidthMm);
    // Cameras of few pixels are judged by their pixels: for them every sheet would be blurred in mm.
    out.faults.blurred = out.faults.blurred && blur_px(flat) > kMostBlurPx;
    out.state = out.faults.blurred || out.faults.glare ? CameraState::faulty : CameraState::ready;
    return out;
}

}  // namespace fernleaf
