#include "reading/raster.h"

#include <cmath>
#include <numeric>
#include <opencv2/imgproc.hpp>

namespace fernleaf {
namespace {

constexpr int kSupersampling = 3;
constexpr int kPenPx = 2;
constexpr int kFixedBits = 4;

}  // namespace

LinePicture draw_line(const std::vector<const Stroke*>& strokes, double slope) {
    LinePicture line;
    line.slope = slope;
    Box box;
    double total = 0, sum = 0, squares = 0, last_y = 0;
    size_t paths = 0;
    const auto level = [slope](Point p) { return Point{p.x, p.y - slope * p.x}; };
    for (const Stroke* stroke : strokes) {
        paths += stroke->points.empty() ? 0 : 1;
        for (size_t i = 0; i < stroke->points.size(); ++i) {
            const Point p = level(stroke->points[i].at);
            box.include(p);
            last_y = p.y;
            if (i == 0) continue;
            const Point before = level(stroke->points[i - 1].at);
            const double d = distance(before, p);
            const double middle = (before.y + p.y) / 2;
            const double dy = p.y - before.y;
            total += d, sum += d * middle, squares += d * (middle * middle + dy * dy / 12);
        }
    }
    if (box.empty()) return line;
    const double mean = total > 0 ? sum / total : last_y;
    const double deviation = total > 0 ? std::sqrt(std::max(squares / total - mean * mean, 0.0)) : 0;
    // A dash has no height to speak of: never more than a letter's usual breadth wide.
    const bool dash = paths == 1 && box.width() > 4 * box.height() && total < 1.3 * box.width();
    const double floor = dash ? 0.25 * box.width() : 0;
    line.scale = total > 0 ? kLineSpreadPx / std::max({deviation, 0.12 * box.height(), floor, 1e-3}) : 10.0;
    line.scale = std::min(line.scale, (kLongestLinePx - 2.0 * kLineMarginPx) / std::max(box.width(), 1e-6));
    line.left = box.left - kLineMarginPx / line.scale;

    const int columns = static_cast<int>(std::ceil(box.width() * line.scale)) + 2 * kLineMarginPx;
    cv::Mat large = cv::Mat::zeros(kLineHeightPx * kSupersampling, columns * kSupersampling, CV_8U);
    std::vector<cv::Point> path;
    for (const Stroke* stroke : strokes) {
        path.clear();
        for (const InkPoint& point : stroke->points) {
            const Point p = level(point.at);
            const double k = kSupersampling * (1 << kFixedBits);
            const cv::Point q(static_cast<int>(std::lround(((p.x - box.left) * line.scale + kLineMarginPx) * k)),
                              static_cast<int>(std::lround(((p.y - mean) * line.scale + kLineHeightPx / 2.0) * k)));
            if (path.empty() || path.back() != q) path.push_back(q);
        }
        if (path.size() == 1) path.push_back(path.front());
        if (!path.empty()) cv::polylines(large, path, false, 255, kPenPx * kSupersampling, cv::LINE_AA, kFixedBits);
    }
    cv::resize(large, line.pixels, {columns, kLineHeightPx}, 0, 0, cv::INTER_AREA);
    return line;
}

LinePicture fit_line(const cv::Mat& mask, double slope) {
    LinePicture line;
    line.slope = slope;
    if (mask.empty()) return line;
    cv::Mat level;
    const cv::Matx23d shear(1, 0, 0, -slope, 1, std::max(0.0, slope * mask.cols));
    cv::warpAffine(mask, level, shear, {mask.cols, mask.rows + static_cast<int>(std::abs(slope) * mask.cols) + 1});

    cv::Mat rows, columns;
    cv::reduce(level, rows, 1, cv::REDUCE_SUM, CV_64F);
    cv::reduce(level, columns, 0, cv::REDUCE_SUM, CV_64F);
    double total = 0, sum = 0, squares = 0;
    for (int y = 0; y < rows.rows; ++y) {
        const double ink = rows.at<double>(y);
        total += ink, sum += ink * (y + 0.5), squares += ink * (y + 0.5) * (y + 0.5);
    }
    int first = 0, last = columns.cols - 1;
    while (first < columns.cols && columns.at<double>(first) < 128) ++first;
    while (last > first && columns.at<double>(last) < 128) --last;
    if (total <= 0 || first >= columns.cols) return line;
    const double mean = sum / total;
    const double deviation = std::sqrt(std::max(squares / total - mean * mean, 0.0));
    const double width = last - first + 1;
    line.scale = kLineSpreadPx / std::max(deviation, 1.0);
    line.scale = std::min(line.scale, (kLongestLinePx - 2.0 * kLineMarginPx) / width);
    line.left = first - kLineMarginPx / line.scale;

    // Averages before it samples, so that thin strokes of large scans do not break up.
    cv::Mat soft = level;
    if (line.scale < 1) cv::GaussianBlur(level, soft, {}, 0.45 / line.scale);
    const int out = static_cast<int>(std::ceil(width * line.scale)) + 2 * kLineMarginPx;
    const cv::Matx23d place(line.scale, 0, kLineMarginPx - first * line.scale, 0, line.scale,
                            kLineHeightPx / 2.0 - mean * line.scale);
    cv::warpAffine(soft, line.pixels, place, {out, kLineHeightPx}, cv::INTER_LINEAR);
    double brightest = 0;
    cv::minMaxLoc(line.pixels, nullptr, &brightest);
    if (brightest > 0) line.pixels.convertTo(line.pixels, CV_8U, 255 / brightest);
    return line;
}

}  // namespace fernleaf
