#include "paper/pen_blur.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "base/quantile.h"

namespace fernleaf {
namespace {

constexpr double kMostBlur = 6;
constexpr int kRounds = 24;                  // of halving
constexpr int kStridePx = 9, kReachPx = 24;  // between rows that are looked through; across a stroke
constexpr int kLeastDark = 36;               // of 255: the middle of a stroke
constexpr size_t kLeastPlaces = 80;
constexpr double kDarkest = 0.95, kAsInk = 0.6;  // of the middles, by darkness; and of that darkness
constexpr double kHalf = 0.5;                    // of the middle's darkness: there a stroke ends
constexpr double kUsualWidth = 0.3;              // of the places, by width: where strokes meet they seem wider
constexpr double kUsualEdge = 0.6;               // of the places, by steepness: at bends and crossings it is less

// What lies across a stroke: how wide it seems there and how steeply it ends.
struct Cut {
    double width = 0, edge = 0;
};

// Through the middle of a stroke that runs across or down; of others pixels are too far apart to tell how they end.
bool cut_at(const cv::Mat& dark, cv::Point at, Cut& out) {
    const int peak = dark.at<uchar>(at);
    constexpr std::array<std::array<int, 2>, 4> kWays{{{1, 0}, {0, 1}, {1, 1}, {1, -1}}};
    out.width = kReachPx;
    bool found = false;
    for (const auto& [dx, dy] : kWays) {
        const double step = std::hypot(dx, dy);
        double width = 0, edge = 0;
        bool whole = true;
        for (const int way : {-1, 1}) {
            int before = peak, earlier = peak;
            bool ended = false;
            for (int k = 1; k < kReachPx && !ended; ++k) {
                const cv::Point p(at.x + way * k * dx, at.y + way * k * dy);
                if (!cv::Rect({}, dark.size()).contains(p)) break;
                const int value = dark.at<uchar>(p);
                if (value > peak) break;                                // another stroke, or not its middle
                edge = std::max(edge, (earlier - value) / (2 * step));  // as a bar's is taken
                if (value < kHalf * peak) {
                    width += step * (k - 1 + (before - kHalf * peak) / std::max(1, before - value));
                    ended = true;
                }
                earlier = before, before = value;
            }
            whole = whole && ended;
        }
        if (whole && width < out.width) out = {width, edge / peak}, found = dx * dy == 0;
    }
    return found;
}

}  // namespace

SeenBar seen_bar(double width_px, double blur_px) {
    const double sigma = std::sqrt(blur_px * blur_px + 1.0 / 12);  // what pixels blur, too
    const auto profile = [&](double x) {
        const double root = std::sqrt(2.0) * sigma;
        return 0.5 * (std::erf((x + width_px / 2) / root) - std::erf((x - width_px / 2) / root));
    };
    return {profile(0), (profile(width_px / 2 - 1) - profile(width_px / 2 + 1)) / 2};
}

double width_behind(double seen_px, double blur_px) {
    double low = kThinnestPx, high = seen_px;
    for (int i = 0; i < kRounds && low < high; ++i) {
        const double w = (low + high) / 2;
        (w / seen_bar(w, blur_px).peak < seen_px ? low : high) = w;
    }
    return std::max(kThinnestPx, (low + high) / 2);
}

double blur_of(double seen_px, double edge) {
    double low = 0, high = kMostBlur;
    for (int i = 0; i < kRounds; ++i) {
        const double blur = (low + high) / 2;
        const SeenBar bar = seen_bar(width_behind(seen_px, blur), blur);
        (bar.edge / bar.peak > edge ? low : high) = blur;
    }
    return (low + high) / 2;
}

PenBlur pen_blur(const cv::Mat& dark) {
    std::vector<cv::Point> middles;
    std::vector<uchar> darkness;
    for (int y = kStridePx; y < dark.rows - kStridePx; y += kStridePx) {
        const uchar* row = dark.ptr<uchar>(y);
        for (int x = 1; x < dark.cols - 1; ++x)
            if (row[x] >= kLeastDark && row[x] >= row[x - 1] && row[x] > row[x + 1])
                middles.emplace_back(x, y), darkness.push_back(row[x]);
    }
    if (middles.size() < kLeastPlaces) return {};
    // Printed rules are fainter than what is written.
    const double least = kAsInk * quantile(std::move(darkness), kDarkest);
    std::vector<double> widths, edges;
    for (const cv::Point& at : middles) {
        Cut cut;
        if (dark.at<uchar>(at) < least || !cut_at(dark, at, cut)) continue;
        widths.push_back(cut.width), edges.push_back(cut.edge);
    }
    if (widths.size() < kLeastPlaces) return {};
    const double seen = quantile(std::move(widths), kUsualWidth);
    const double blur = blur_of(seen, quantile(std::move(edges), kUsualEdge));
    return {width_behind(seen, blur), blur};
}

}  // namespace fernleaf
