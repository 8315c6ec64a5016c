#include "paper/straightening.h"

#include <array>
#include <opencv2/imgproc.hpp>

namespace fernleaf {
namespace {

constexpr double kUsualFocal = 1.1;                  // of telephones, in parts of the picture's longer side
constexpr double kLeastFocal = 0.5, kMostFocal = 4;  // of cameras at all
constexpr std::array<double, 4> kUsualAspects{1, 0.7071, 0.7727, 0.6667};  // square, A series, Letter, 2 : 3
constexpr double kNearUsual = 0.02;                                        // relative
constexpr double kWidthMm = 210, kHeightMm = 297, kNoteMm = 76, kLetterWidthMm = 215.9, kLetterHeightMm = 279.4;

cv::Vec3d homogeneous(Point p, cv::Size picture) { return {p.x - picture.width / 2.0, p.y - picture.height / 2.0, 1}; }

double usual(double aspect) {
    for (const double known : kUsualAspects) {
        if (std::abs(aspect / known - 1) < kNearUsual) return known;
        if (std::abs(aspect * known - 1) < kNearUsual) return 1 / known;
    }
    return aspect;
}

}  // namespace

double aspect_of(const SheetOutline& outline, cv::Size picture) {
    const auto& c = outline.corners;
    const cv::Vec3d m1 = homogeneous(c[0], picture), m2 = homogeneous(c[1], picture), m3 = homogeneous(c[3], picture),
                    m4 = homogeneous(c[2], picture);
    const double k2 = m1.cross(m4).dot(m3) / m2.cross(m4).dot(m3), k3 = m1.cross(m4).dot(m2) / m3.cross(m4).dot(m2);
    const cv::Vec3d n2 = k2 * m2 - m1, n3 = k3 * m3 - m1;
    const double longer = std::max(picture.width, picture.height);
    // How far the two directions of the sheet are from being orthogonal tells the focal length, where both vanish.
    double focal = kUsualFocal * longer;
    if (std::abs(n2[2] * n3[2]) > 1e-4) {
        const double squared = -(n2[0] * n3[0] + n2[1] * n3[1]) / (n2[2] * n3[2]);
        if (squared > kLeastFocal * longer * kLeastFocal * longer &&
            squared < kMostFocal * longer * kMostFocal * longer)
            focal = std::sqrt(squared);
    }
    const auto size = [&](const cv::Vec3d& n) {
        return std::sqrt((n[0] * n[0] + n[1] * n[1]) / (focal * focal) + n[2] * n[2]);
    };
    const double aspect = size(n2) / size(n3);
    return std::isfinite(aspect) ? usual(std::clamp(aspect, 0.1, 10.0)) : 1;
}

cv::Size flat_size(const SheetOutline& outline, cv::Size picture, double aspect) {
    const auto& c = outline.corners;
    if (aspect <= 0) aspect = aspect_of(outline, picture);
    double width = std::max(distance(c[0], c[1]), distance(c[3], c[2]));
    const double height = std::max(distance(c[1], c[2]), distance(c[0], c[3]));
    width = std::max(width, height * aspect);
    const double megapixels = 1e-6 * width * width / aspect;
    if (megapixels > kLargestFlatMegapixels) width *= std::sqrt(kLargestFlatMegapixels / megapixels);
    return {std::max(1, static_cast<int>(std::lround(width))),
            std::max(1, static_cast<int>(std::lround(width / aspect)))};
}

cv::Mat straightened(const cv::Mat& pixels, const SheetOutline& outline, cv::Size size) {
    std::array<cv::Point2f, 4> from, to;
    const std::array<cv::Point2f, 4> unit{{{0, 0}, {1, 0}, {1, 1}, {0, 1}}};
    for (size_t i = 0; i < 4; ++i) {
        from[i] = {static_cast<float>(outline.corners[i].x), static_cast<float>(outline.corners[i].y)};
        to[i] = {unit[i].x * static_cast<float>(size.width), unit[i].y * static_cast<float>(size.height)};
    }
    cv::Mat out;
    if (outline.straight()) {
        cv::warpPerspective(pixels, out, cv::getPerspectiveTransform(from.data(), to.data()), size, cv::INTER_LINEAR,
                            cv::BORDER_REPLICATE);
        return out;
    }
    const cv::Matx33d lay = cv::getPerspectiveTransform(unit.data(), from.data());
    const auto seen = [&](double u, double v) {
        const cv::Vec3d p = lay * cv::Vec3d(u, v, 1);
        return Point{p[0] / p[2], p[1] / p[2]};
    };
    // How far each place of a side lies from the straight way between its corners.
    const auto bulge = [&](size_t side, Point on_way, bool backwards) {
        const Point a = outline.corners[side], b = outline.corners[(side + 1) % 4];
        const double t = distance(on_way, backwards ? b : a) / distance(a, b);
        const double along = backwards ? 1 - t : t;
        return outline.on_side(side, along) - (a + (b - a) * along);
    };
    std::vector<Point> top, bottom;
    for (int x = 0; x < size.width; ++x) {
        const double u = (x + 0.5) / size.width;
        top.push_back(bulge(0, seen(u, 0), false));
        bottom.push_back(bulge(2, seen(u, 1), true));
    }
    cv::Mat map_x(size, CV_32F), map_y(size, CV_32F);
    for (int y = 0; y < size.height; ++y) {
        const double v = (y + 0.5) / size.height;
        const Point left = bulge(3, seen(0, v), true), right = bulge(1, seen(1, v), false);
        auto* row_x = map_x.ptr<float>(y);
        auto* row_y = map_y.ptr<float>(y);
        for (int x = 0; x < size.width; ++x) {
            const double u = (x + 0.5) / size.width;
            const auto i = static_cast<size_t>(x);
            const Point p = seen(u, v) + top[i] * (1 - v) + bottom[i] * v + left * (1 - u) + right * u;
            row_x[x] = static_cast<float>(p.x - 0.5);
            row_y[x] = static_cast<float>(p.y - 0.5);
        }
    }
    cv::remap(pixels, out, map_x, map_y, cv::INTER_LINEAR, cv::BORDER_REPLICATE);
    return out;
}

SheetMm sheet_mm(double aspect) {
    const auto is = [&](double known) { return std::abs(aspect / known - 1) < 2 * kNearUsual; };
    if (is(1)) return {kNoteMm, kNoteMm / aspect};
    if (is(kWidthMm / kHeightMm)) return {kWidthMm, kHeightMm};
    if (is(kHeightMm / kWidthMm)) return {kHeightMm, kWidthMm};
    if (is(kLetterWidthMm / kLetterHeightMm)) return {kLetterWidthMm, kLetterHeightMm};
    if (is(kLetterHeightMm / kLetterWidthMm)) return {kLetterHeightMm, kLetterWidthMm};
    return {kWidthMm, kWidthMm / aspect};
}

}  // namespace fernleaf
