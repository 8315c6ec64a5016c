#include "paper/baseline.h"

#include <algorithm>
#include <cmath>
#include <opencv2/core.hpp>

#include "base/quantile.h"

namespace fernleaf {
namespace {

constexpr int kSoftPx = 2;             // beside a piece: its soft border
constexpr double kLeastHeight = 0.6;   // of the median: what is lower is a dot or a dash
constexpr double kNear = 0.12;         // of it: so near to one another stand those by which the baseline is sought
constexpr size_t kLeastStanding = 6;   // that tell a baseline
constexpr size_t kMostForSlope = 100;  // pieces; their number of pairs is its square
constexpr int kRounds = 4;
constexpr double kDarkest = 0.75;  // of the rows of a piece, from the lightest: as dark as its strokes are

struct Border {
    double y = 0;
    double slope = 0;  // how fast the rows darken there, a px
};

// Where a piece ends below: its rows' darkness falls to half of what its strokes have.
Border lower_border(const InkMask& ink, const InkPiece& piece) {
    const cv::Rect around =
        cv::Rect(piece.box.x, piece.box.y - kSoftPx, piece.box.width, piece.box.height + 2 * kSoftPx) &
        cv::Rect({}, ink.dark.size());
    std::vector<double> rows(static_cast<size_t>(around.height));
    const auto own = [&](int x, int y) {
        for (int k = std::max(0, y - kSoftPx); k <= std::min(ink.labels.rows - 1, y + kSoftPx); ++k)
            if (ink.labels.at<int>(k, x) == piece.label) return true;
        return false;
    };
    for (int y = around.y; y < around.br().y; ++y)
        for (int x = around.x; x < around.br().x; ++x)
            if (const double dark = ink.dark.at<uchar>(y, x);
                dark > rows[static_cast<size_t>(y - around.y)] && own(x, y))
                rows[static_cast<size_t>(y - around.y)] = dark;
    const double half = quantile(rows, kDarkest) / 2;
    size_t last = rows.size() - 1;
    while (last > 0 && rows[last] < half) --last;
    const double below = last + 1 < rows.size() ? rows[last + 1] : half;
    const double part = rows[last] > below ? (rows[last] - half) / (rows[last] - below) : 0;
    return {around.y + static_cast<double>(last) + 0.5 + part, rows[last] - below};
}

struct Standing {
    size_t at = 0;  // among the line's pieces
    double x = 0, y = 0, slope = 0;
};

double slope_through(const std::vector<Standing>& all, double height) {
    std::vector<double> slopes;
    const size_t step = all.size() / kMostForSlope + 1;
    for (size_t i = 0; i < all.size(); i += step)
        for (size_t k = i + step; k < all.size(); k += step)
            if (std::abs(all[k].x - all[i].x) > height) slopes.push_back((all[k].y - all[i].y) / (all[k].x - all[i].x));
    return median(std::move(slopes));
}

// Where along a slope most of them stand.
double where_most_stand(const std::vector<Standing>& all, double slope, double reach) {
    const auto level = [&](const Standing& s) { return s.y - slope * s.x; };
    double best = 0;
    std::ptrdiff_t most = 0;
    for (const Standing& s : all) {
        const auto count = std::ranges::count_if(
            all, [&](const Standing& other) { return std::abs(level(other) - level(s)) < reach; });
        if (count > most) most = count, best = level(s);
    }
    return best;
}

}  // namespace

std::vector<std::optional<BaselineOffset>> baseline_offsets(const InkMask& ink, const std::vector<size_t>& pieces) {
    std::vector<std::optional<BaselineOffset>> out(pieces.size());
    std::vector<double> heights;
    for (const size_t piece : pieces) heights.push_back(ink.pieces[piece].box.height);
    const double height = median(heights);
    std::vector<Standing> all;
    for (size_t i = 0; i < pieces.size(); ++i)
        if (heights[i] > kLeastHeight * height) {
            const Border border = lower_border(ink, ink.pieces[pieces[i]]);
            all.push_back({i, ink.pieces[pieces[i]].middle.x, border.y, border.slope});
        }
    if (all.size() < kLeastStanding) return out;
    std::ranges::sort(all, {}, &Standing::x);
    const double slope = slope_through(all, height), level = where_most_stand(all, slope, kNear * height);
    const double from = all.front().x, across = std::max(1.0, all.back().x - from);
    std::vector<double> off;  // of each, from the baseline as it is known so far
    for (const Standing& s : all) off.push_back(s.y - slope * s.x - level);
    for (int round = 0; round < kRounds; ++round) {
        cv::Mat places, ends, curve;
        for (size_t i = 0; i < all.size(); ++i) {
            if (std::abs(off[i]) > kMostOffset * height) continue;
            const double t = (all[i].x - from) / across;
            places.push_back(cv::Mat((cv::Mat_<double>(1, 3) << 1, t, t * t)));
            ends.push_back(all[i].y);
        }
        if (places.rows < static_cast<int>(kLeastStanding)) return out;
        cv::solve(places, ends, curve, cv::DECOMP_SVD);
        for (size_t i = 0; i < all.size(); ++i) {
            const double t = (all[i].x - from) / across;
            off[i] = all[i].y - curve.at<double>(0) - t * (curve.at<double>(1) + t * curve.at<double>(2));
        }
    }
    for (size_t i = 0; i < all.size(); ++i)
        if (std::abs(off[i]) <= kMostOffset * height)
            out[all[i].at] = {off[i] / height, ink.grain / std::max(1.0, all[i].slope) / height};
    return out;
}

}  // namespace fernleaf
