#include "paper/board_frame.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <optional>
#include <vector>

#include "base/quantile.h"

namespace fernleaf {
namespace {

constexpr int kWidthPx = 600;        // of the copy looked at
constexpr int kPlaces = 20;          // along a side
constexpr double kReach = 0.14;      // of the picture's height or width: a frame is no broader
constexpr double kStep = 0.06;       // of the board's lightness
constexpr double kDarker = 0.05;     // so much darker is a bar
constexpr double kBars = 0.7;        // of the places: so many must agree
constexpr double kTray = 0.5;        // and so many for a tray
constexpr int kNear = 2, kEdge = 3;  // px: from a straight line; on either side of a step
constexpr int kMostSlant = 6;        // px along a side
constexpr int kLeastSides = 3;

// The picture with one side on top: rows go inwards.
cv::Mat side_on_top(const cv::Mat& picture, int side) {
    cv::Mat out;
    switch (side) {
        case 0:
            return picture;
        case 1:
            cv::rotate(picture, out, cv::ROTATE_90_COUNTERCLOCKWISE);  // the right one
            return out;
        case 2:
            cv::rotate(picture, out, cv::ROTATE_180);
            return out;
        default:
            cv::rotate(picture, out, cv::ROTATE_90_CLOCKWISE);  // the left one
            return out;
    }
}

// How far the bar along the upper side reaches inwards, px; none where there is no bar.
std::optional<int> bar_on_top(const cv::Mat& picture, int from, double share) {
    const int reach = from + static_cast<int>(kReach * picture.rows);
    if (reach + 2 * kEdge >= picture.rows || picture.cols < 2 * kPlaces) return std::nullopt;
    std::vector<std::vector<int>> steps(kPlaces);
    std::vector<std::vector<double>> profiles(kPlaces);
    for (int place = 0; place < kPlaces; ++place) {
        const int left = place * picture.cols / kPlaces, right = (place + 1) * picture.cols / kPlaces;
        cv::Mat mean;
        cv::reduce(picture(cv::Range(0, reach + 2 * kEdge), cv::Range(left, right)), mean, 1, cv::REDUCE_AVG, CV_64F);
        std::vector<double>& profile = profiles[static_cast<size_t>(place)];
        profile.assign(mean.begin<double>(), mean.end<double>());
        const double board = profile.back();
        const auto about = [&](int y) {
            double sum = 0;
            for (int k = 0; k < kEdge; ++k) sum += profile[static_cast<size_t>(y) + static_cast<size_t>(k)];
            return sum / kEdge;
        };
        for (int y = from + kEdge; y < reach; ++y)
            if (about(y) - about(y - kEdge) > kStep * board) steps[static_cast<size_t>(place)].push_back(y);
    }
    // The innermost line that enough places agree on; of those beside it the one that most agree on, and the
    // straightest.
    std::optional<int> bar;
    int best = 0, innermost = reach;
    for (int y = reach; y-- > from + kEdge && innermost - y < 2 * kMostSlant;) {
        if (!bar) innermost = y;
        for (int slant = -kMostSlant; slant <= kMostSlant; ++slant) {
            const auto row_at = [&](int place) { return y + slant * (2 * place + 1 - kPlaces) / (2 * kPlaces); };
            int agree = 0, darker = 0;
            for (int place = 0; place < kPlaces; ++place)
                agree += std::ranges::any_of(steps[static_cast<size_t>(place)],
                                             [at = row_at(place)](int step) { return std::abs(step - at) < kNear; });
            const int worth = 2 * kMostSlant * agree - std::abs(slant);
            if (agree < share * kPlaces || worth <= best) continue;
            for (int place = 0; place < kPlaces; ++place) {
                const auto& profile = profiles[static_cast<size_t>(place)];
                const int end = std::clamp(row_at(place) - kEdge, from + 1, reach);
                const double lightness = median(std::vector<double>(profile.begin() + from, profile.begin() + end));
                darker += lightness < (1 - kDarker) * profile.back();
            }
            if (darker < share * kPlaces) continue;
            best = worth;
            bar = y + std::abs(slant) / 2 + 1;
        }
    }
    return bar;
}

}  // namespace

cv::Rect within_frame(const cv::Mat& grey) {
    const cv::Rect whole({}, grey.size());
    if (grey.cols < 4 * kPlaces || grey.rows < 4 * kPlaces) return whole;
    const double scale = std::min(1.0, static_cast<double>(kWidthPx) / grey.cols);
    cv::Mat small;
    cv::resize(grey, small, {}, scale, scale, cv::INTER_AREA);
    int found = 0;
    int bars[4] = {0, 0, 0, 0};
    for (int side = 0; side < 4; ++side)
        if (const auto bar = bar_on_top(side_on_top(small, side), 0, kBars)) bars[side] = *bar, ++found;
    if (found < kLeastSides) return whole;
    if (const auto tray = bar_on_top(side_on_top(small, 2), bars[2], kTray)) bars[2] = *tray;
    const auto px = [scale](int bar) { return static_cast<int>(std::ceil(bar / scale)); };
    return cv::Rect(cv::Point(px(bars[3]), px(bars[0])), cv::Point(grey.cols - px(bars[1]), grey.rows - px(bars[2]))) &
           whole;
}

}  // namespace fernleaf
