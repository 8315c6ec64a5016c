#include "paper/corner_marks.h"

#include <algorithm>
#include <opencv2/imgproc.hpp>

#include "paper/sheet_edges.h"
#include "paper/sheet_patches.h"
#include "paper/shrunk.h"

namespace fernleaf {
namespace {

constexpr int kLookedAtPx = 1600;                        // longer side
constexpr double kLeastMark = 0.005, kMostMark = 0.035;  // of it: across a mark
constexpr double kConvex = 0.9, kFull = 0.72;  // of its hull, and of the rectangle about it, that a mark fills
constexpr double kMostSlender = 2.2;           // seen aslant
constexpr int kDarker = 55;                    // grey levels: than the paper about it
constexpr double kAlike = 3;                   // times the area: nearer marks look larger
constexpr double kLeastOfPicture = 0.15;       // of its area, between the marks
constexpr size_t kMostSpots = 400;             // more, and it is a pattern
constexpr double kMarginStep = 0.01;
constexpr int kPaperPx = 900;       // longer side of the copy in which the margin is followed
constexpr double kSamePaper = 4;    // CIE76, from one step to the next
constexpr double kMostOfIt = 0.75;  // of the places along a margin

struct Spot {
    Point middle;
    double area = 0;
};

std::vector<Spot> spots_in(const cv::Mat& pixels, double& scale) {
    scale = factor_to(pixels, kLookedAtPx);
    if (!may_hold_writing(pixels)) return {};
    cv::Mat grey, dark;
    cv::cvtColor(shrunk(pixels, scale), grey, cv::COLOR_BGR2GRAY);
    const double longer = std::max(grey.cols, grey.rows);
    cv::adaptiveThreshold(grey, dark, 255, cv::ADAPTIVE_THRESH_MEAN_C, cv::THRESH_BINARY_INV,
                          std::max(3, static_cast<int>(2 * kMostMark * longer) | 1), kDarker);
    std::vector<std::vector<cv::Point>> contours;
    cv::findContours(dark, contours, cv::RETR_EXTERNAL, cv::CHAIN_APPROX_NONE);
    std::vector<Spot> out;
    for (const std::vector<cv::Point>& contour : contours) {
        const cv::RotatedRect box = cv::minAreaRect(contour);
        const double across = std::min(box.size.width, box.size.height),
                     along = std::max(box.size.width, box.size.height);
        if (across < kLeastMark * longer || along > kMostMark * longer || along > kMostSlender * across) continue;
        const double area = cv::contourArea(contour);
        std::vector<cv::Point> hull;
        cv::convexHull(contour, hull);
        if (area < kConvex * cv::contourArea(hull) || area < kFull * across * along) continue;
        const cv::Moments m = cv::moments(contour);
        out.push_back({{m.m10 / m.m00 / scale, m.m01 / m.m00 / scale}, area});
    }
    return out;
}

cv::Matx33d to_picture(const std::array<Point, 4>& marks) {
    const std::array<cv::Point2f, 4> unit{{{0, 0}, {1, 0}, {1, 1}, {0, 1}}};
    std::array<cv::Point2f, 4> seen;
    for (size_t i = 0; i < 4; ++i) seen[i] = {static_cast<float>(marks[i].x), static_cast<float>(marks[i].y)};
    return cv::getPerspectiveTransform(unit.data(), seen.data());
}

Point place(const cv::Matx33d& view, double u, double v) {
    const cv::Vec3d p = view * cv::Vec3d(u, v, 1);
    return {p[0] / p[2], p[1] / p[2]};
}

}  // namespace

std::optional<std::array<Point, 4>> corner_marks(const cv::Mat& pixels) {
    double scale = 1;
    const std::vector<Spot> spots = spots_in(pixels, scale);
    if (spots.size() < 4 || spots.size() > kMostSpots) return std::nullopt;
    // The outermost spot towards each corner.
    std::array<const Spot*, 4> outermost{};
    constexpr std::array<std::array<double, 2>, 4> kTowards{{{-1, -1}, {1, -1}, {1, 1}, {-1, 1}}};
    for (size_t i = 0; i < 4; ++i)
        outermost[i] = &*std::ranges::max_element(
            spots, {}, [&](const Spot& s) { return s.middle.x * kTowards[i][0] + s.middle.y * kTowards[i][1]; });
    std::array<Point, 4> out;
    double least = outermost[0]->area, most = least;
    for (size_t i = 0; i < 4; ++i) {
        if (std::ranges::count(outermost, outermost[i]) != 1) return std::nullopt;
        out[i] = outermost[i]->middle;
        least = std::min(least, outermost[i]->area), most = std::max(most, outermost[i]->area);
    }
    if (most > kAlike * least) return std::nullopt;
    // Other spots as large: these are no marks of a sheet, but a pattern, or writing.
    const auto as_large = std::ranges::count_if(spots, [&](const Spot& s) { return s.area > 0.6 * least; });
    if (as_large > 4 || !is_valid({out, {}})) return std::nullopt;
    if (area(out) < kLeastOfPicture * static_cast<double>(pixels.total())) return std::nullopt;
    return out;
}

SheetOutline sheet_about(const std::array<Point, 4>& marks, const cv::Mat& pixels) {
    const EdgePicture picture = edge_picture(pixels, kPaperPx);
    const cv::Matx33d view = to_picture(marks);
    const auto colour = [&](double u, double v, cv::Vec3f& out) {
        const Point p = place(view, u, v) * picture.scale;
        if (p.x < 0 || p.y < 0 || p.x > picture.lab.cols - 1 || p.y > picture.lab.rows - 1) return false;
        out = picture.lab.at<cv::Vec3f>(static_cast<int>(p.y), static_cast<int>(p.x));
        return true;
    };
    // Beyond the marks' own border.
    const auto margin = [&](auto place_at) {
        double reached = 2 * kMarginStep;
        for (double m = 3 * kMarginStep; m <= kWidestMargin + 1e-9; m += kMarginStep) {
            int seen = 0, same = 0;
            for (int i = 1; i < 24; ++i) {
                cv::Vec3f here, before;
                const auto [u, v] = place_at(i / 24.0, m);
                const auto [nearer_u, nearer_v] = place_at(i / 24.0, m - kMarginStep);
                if (!colour(u, v, here) || !colour(nearer_u, nearer_v, before)) continue;
                ++seen;
                same += cv::norm(here - before) < kSamePaper;
            }
            if (seen < 8 || same < kMostOfIt * seen) break;
            reached = m;
        }
        return reached;
    };
    using Place = std::pair<double, double>;
    const double top = margin([](double t, double m) {
        return Place{t, -m};
    }),
                 right = margin([](double t, double m) {
                     return Place{1 + m, t};
                 }),
                 bottom = margin([](double t, double m) {
                     return Place{t, 1 + m};
                 }),
                 left = margin([](double t, double m) {
                     return Place{-m, t};
                 });
    return {{place(view, -left, -top), place(view, 1 + right, -top), place(view, 1 + right, 1 + bottom),
             place(view, -left, 1 + bottom)},
            {}};
}

}  // namespace fernleaf
