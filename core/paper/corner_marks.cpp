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
constexpr double kFullestOpen = 0.8, kThinnestOpen = 0.12;  // of the hull of a cross or a bracket, that it fills
constexpr double kLeastHollow = 0.13, kUnlikeHollows = 2;   // of the width across; and how many times as deep
constexpr double kLeastBracket = 0.3;                       // of the width across: a bracket's hollow
constexpr double kUnlikeArms = 1.7, kRightAngle = 0.5;      // times as long; and a cosine, seen aslant
constexpr int kDarker = 55;                                 // grey levels: than the paper about it
constexpr double kAlike = 3;                                // times the area: nearer marks look larger
constexpr double kLeastOfPicture = 0.15;                    // of its area, between the marks
constexpr size_t kMostSpots = 400;                          // more, and it is a pattern
constexpr double kMarginStep = 0.01;
constexpr int kPaperPx = 900;       // longer side of the copy in which the margin is followed
constexpr double kSamePaper = 4;    // CIE76, from one step to the next
constexpr double kMostOfIt = 0.75;  // of the places along a margin

enum class Shape { full, cross, bracket };

struct Spot {
    Shape shape = Shape::full;
    Point at;  // its middle; of a bracket its outer corner
    double area = 0;
    Point opens;  // of a bracket: the way from its corner to between the ends of its arms
};

Point point_of(const cv::Point& p) { return {static_cast<double>(p.x), static_cast<double>(p.y)}; }

// A cross or a bracket, told by where it is hollow: four times alike, or once, between two arms as long as one another.
std::optional<Spot> open_mark(const std::vector<cv::Point>& contour, double area, double hull_area, double across) {
    if (area > kFullestOpen * hull_area || area < kThinnestOpen * hull_area) return std::nullopt;
    std::vector<cv::Point> outline;
    cv::approxPolyDP(contour, outline, 0.04 * across, true);
    std::vector<int> hull;
    cv::convexHull(outline, hull);
    std::ranges::sort(hull);
    if (hull.size() < 3) return std::nullopt;
    std::vector<cv::Vec4i> hollows;
    cv::convexityDefects(outline, hull, hollows);
    const auto depth = [](const cv::Vec4i& hollow) { return hollow[3] / 256.0; };
    std::erase_if(hollows, [&](const cv::Vec4i& hollow) { return depth(hollow) < kLeastHollow * across; });
    if (hollows.size() == 4) {
        const auto [least, most] = std::ranges::minmax(hollows, {}, depth);
        if (depth(most) > kUnlikeHollows * depth(least)) return std::nullopt;
        const cv::Moments m = cv::moments(contour);
        return Spot{Shape::cross, {m.m10 / m.m00, m.m01 / m.m00}, area, {}};
    }
    if (hollows.size() != 1 || depth(hollows[0]) < kLeastBracket * across) return std::nullopt;
    const auto vertex = [&](int i) { return point_of(outline[static_cast<size_t>(i)]); };
    const Point a = vertex(hollows[0][0]), b = vertex(hollows[0][1]);
    // The corner lies farthest from between the ends of the arms, on the side of the hollow.
    Point corner = vertex(hollows[0][2]);
    const Point between = (a + b) * 0.5, way = corner - between;
    for (const int i : hull)
        if (dot(vertex(i) - between, way) > dot(corner - between, way)) corner = vertex(i);
    const double one = distance(corner, a), other = distance(corner, b);
    if (std::max(one, other) > kUnlikeArms * std::min(one, other)) return std::nullopt;
    const double cosine = dot(a - corner, b - corner) / (one * other);
    if (std::abs(cosine) > kRightAngle) return std::nullopt;
    return Spot{Shape::bracket, corner, area, between - corner};
}

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
        const double hull_area = cv::contourArea(hull);
        if (area > kConvex * hull_area && area > kFull * across * along) {
            const cv::Moments m = cv::moments(contour);
            out.push_back({Shape::full, {m.m10 / m.m00, m.m01 / m.m00}, area, {}});
        } else if (auto spot = open_mark(contour, area, hull_area, across)) {
            out.push_back(*spot);
        } else {
            continue;
        }
        out.back().at = out.back().at * (1 / scale);
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

// The four outermost of one shape.
std::optional<std::array<Point, 4>> marks_among(const std::vector<Spot>& spots, double picture_area) {
    if (spots.size() < 4 || spots.size() > kMostSpots) return std::nullopt;
    // The outermost spot towards each corner.
    std::array<const Spot*, 4> outermost{};
    constexpr std::array<std::array<double, 2>, 4> kTowards{{{-1, -1}, {1, -1}, {1, 1}, {-1, 1}}};
    for (size_t i = 0; i < 4; ++i)
        outermost[i] = &*std::ranges::max_element(
            spots, {}, [&](const Spot& s) { return s.at.x * kTowards[i][0] + s.at.y * kTowards[i][1]; });
    std::array<Point, 4> out;
    double least = outermost[0]->area, most = least;
    for (size_t i = 0; i < 4; ++i) {
        if (std::ranges::count(outermost, outermost[i]) != 1) return std::nullopt;
        out[i] = outermost[i]->at;
        least = std::min(least, outermost[i]->area), most = std::max(most, outermost[i]->area);
    }
    if (most > kAlike * least) return std::nullopt;
    // Other spots as large: these are no marks of a sheet, but a pattern, or writing.
    const auto as_large = std::ranges::count_if(spots, [&](const Spot& s) { return s.area > 0.6 * least; });
    if (as_large > 4 || !is_valid({out, {}})) return std::nullopt;
    if (area(out) < kLeastOfPicture * picture_area) return std::nullopt;
    // Brackets open to the middle of the sheet, or all away from it.
    const Point middle = (out[0] + out[1] + out[2] + out[3]) * 0.25;
    const auto opens_inwards = [&](const Spot* s) { return dot(s->opens, middle - s->at) >= 0; };
    const auto inwards = std::ranges::count_if(outermost, opens_inwards);
    if (inwards != 0 && inwards != 4) return std::nullopt;
    return out;
}

}  // namespace

std::optional<std::array<Point, 4>> corner_marks(const cv::Mat& pixels) {
    double scale = 1;
    const std::vector<Spot> spots = spots_in(pixels, scale);
    for (const Shape shape : {Shape::full, Shape::bracket, Shape::cross}) {
        std::vector<Spot> alike;
        std::ranges::copy_if(spots, std::back_inserter(alike), [&](const Spot& s) { return s.shape == shape; });
        if (const auto marks = marks_among(alike, static_cast<double>(pixels.total()))) return marks;
    }
    return std::nullopt;
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
