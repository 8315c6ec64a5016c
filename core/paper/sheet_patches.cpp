#include "paper/sheet_patches.h"

#include <numbers>
#include <opencv2/imgproc.hpp>
#include <optional>

namespace fernleaf {
namespace {

constexpr int kPatchLevels = 16;      // at which patches are cut out of the background
constexpr double kLeastSolid = 0.88;  // of its quadrilateral, which a patch must fill
constexpr double kLeastRange = 1;     // of colours (CIE76): a channel with less shows none
constexpr std::array<double, 4> kSmoothSlopes{0.7, 1.1, 1.7, 2.6};  // CIE76 a px: what changes less is one surface
constexpr int kSurfaceBorderPx = 2;  // so far from a surface's border it begins to change

// The corners of a convex outline that is nearly a quadrilateral: of its sides all but four are given up, each where
// that adds the least area.
std::optional<std::array<Point, 4>> quadrilateral(const std::vector<cv::Point>& hull) {
    std::vector<Point> corners;
    for (const cv::Point& p : hull) corners.push_back({static_cast<double>(p.x), static_cast<double>(p.y)});
    while (corners.size() > 4) {
        const size_t n = corners.size();
        double least = std::numeric_limits<double>::infinity();
        size_t side = n;
        Point tip;
        for (size_t i = 0; i < n; ++i) {
            // Without the side from i to i + 1 its neighbours meet.
            const Point a = corners[(i + n - 1) % n], b = corners[i], c = corners[(i + 1) % n],
                        d = corners[(i + 2) % n];
            const Point u = b - a, v = c - d;
            const double cross = u.x * v.y - u.y * v.x;
            if (std::abs(cross) < 1e-9) continue;
            const double t = ((c.x - b.x) * v.y - (c.y - b.y) * v.x) / cross;
            if (t < 0) continue;  // they part
            const Point meeting = b + u * t;
            const double added = std::abs((c.x - b.x) * (meeting.y - b.y) - (c.y - b.y) * (meeting.x - b.x)) / 2;
            if (added < least) least = added, side = i, tip = meeting;
        }
        if (side == n) return std::nullopt;
        corners[side] = tip;
        corners.erase(corners.begin() + static_cast<std::ptrdiff_t>((side + 1) % n));
    }
    if (corners.size() != 4) return std::nullopt;
    return std::array<Point, 4>{corners[0], corners[1], corners[2], corners[3]};
}

// Of each patch of the mask that is large and solid. grown_px: how far the patches end before their borders.
void take_patches(const cv::Mat& mask, double grown_px, std::vector<std::array<Point, 4>>& out) {
    const double whole = static_cast<double>(mask.total());
    std::vector<std::vector<cv::Point>> contours;
    cv::findContours(mask, contours, cv::RETR_EXTERNAL, cv::CHAIN_APPROX_SIMPLE);
    for (const std::vector<cv::Point>& contour : contours) {
        const double size = cv::contourArea(contour);
        if (size + grown_px * cv::arcLength(contour, true) < kLeastSheet * whole) continue;
        std::vector<cv::Point> hull;
        cv::convexHull(contour, hull);
        if (size < kLeastSolid * cv::contourArea(hull)) continue;
        auto corners = quadrilateral(hull);
        if (!corners || std::abs(area(*corners)) * kLeastSolid > size) continue;
        const Point middle = ((*corners)[0] + (*corners)[1] + (*corners)[2] + (*corners)[3]) * 0.25;
        for (Point& corner : *corners) {
            const double away = std::max(1.0, distance(corner, middle));
            corner = corner + (corner - middle) * (std::numbers::sqrt2 * grown_px / away);
        }
        out.push_back(*corners);
    }
}

// Surfaces without edges, which the edges about them part: paper is one on the busiest ground, in any light that
// changes slowly.
void take_surfaces(const EdgePicture& picture, std::vector<std::array<Point, 4>>& out) {
    const cv::Mat all_x = picture.slope_x.reshape(1, static_cast<int>(picture.lab.total())),
                  all_y = picture.slope_y.reshape(1, static_cast<int>(picture.lab.total()));
    cv::Mat slope;
    cv::reduce(all_x.mul(all_x) + all_y.mul(all_y), slope, 1, cv::REDUCE_SUM);
    slope = slope.reshape(1, picture.lab.rows);
    for (const double most : kSmoothSlopes) {
        cv::Mat mask = slope < most * most;
        // Crumbs of writing are no edges.
        cv::morphologyEx(mask, mask, cv::MORPH_CLOSE, cv::getStructuringElement(cv::MORPH_RECT, {3, 3}));
        cv::morphologyEx(mask, mask, cv::MORPH_OPEN, cv::getStructuringElement(cv::MORPH_RECT, {7, 7}));
        take_patches(mask, kSurfaceBorderPx, out);
    }
}

}  // namespace

std::vector<std::array<Point, 4>> sheet_patches(const EdgePicture& picture) {
    std::vector<std::array<Point, 4>> out;
    std::vector<cv::Mat> channels;
    cv::split(picture.lab, channels);
    // Against the light's own slow change.
    cv::Mat light;
    cv::blur(channels[0], light, cv::Size(picture.lab.cols / 2, picture.lab.rows / 2));
    channels.push_back(channels[0] - light);
    for (const cv::Mat& channel : channels) {
        double least = 0, most = 0;
        cv::minMaxLoc(channel, &least, &most);
        if (most - least < kLeastRange) continue;
        cv::Mat grey;
        cv::normalize(channel, grey, 0, 255, cv::NORM_MINMAX, CV_8U);
        for (int level = 1; level < kPatchLevels; ++level)
            for (const int kind : {cv::THRESH_BINARY, cv::THRESH_BINARY_INV}) {
                if (kind == cv::THRESH_BINARY_INV && &channel == &channels.front()) continue;
                cv::Mat mask;
                cv::threshold(grey, mask, 255.0 * level / kPatchLevels, 255, kind);
                cv::morphologyEx(mask, mask, cv::MORPH_OPEN, cv::getStructuringElement(cv::MORPH_RECT, {5, 5}));
                take_patches(mask, 0, out);
            }
    }
    take_surfaces(picture, out);
    return out;
}

}  // namespace fernleaf
