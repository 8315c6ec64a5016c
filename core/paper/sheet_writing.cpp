#include "paper/sheet_writing.h"

#include <algorithm>
#include <opencv2/imgproc.hpp>

#include "paper/quadrilateral.h"
#include "paper/shrunk.h"
#include "paper/straightening.h"

namespace fernleaf {
namespace {

constexpr int kLeastSidePx = 150,
              kMostSidePx = 900;         // of the sheet's longer side: less tells nothing, more is not needed
constexpr double kMargin = 0.05;         // of the sheet: its border is not writing
constexpr int kStrokePx = 9;             // what is narrower and darker than what is about it may be ink
constexpr int kLeastDark = 16;           // grey levels,
constexpr double kLeastDarkShare = 0.1;  // and of the light about it
constexpr double kMostAcross = 0.15;     // of the sheet: more is a seam, a crack, a picture
constexpr int kLeastPiecePx = 4;
constexpr int kBlankPieces = 4, kWrittenPieces = 15;

constexpr double kMostDarkOfBlank = 0.02;  // of a sheet without writing: squares and rules are more
constexpr int kMostWordPx = 120, kMostLetterPx = 40;
constexpr int kAboutPx = 13;                            // about a spot what it lies on is looked at,
constexpr double kEven = 0.18;                          // and differs by no more of its light
constexpr int kCellPx = 8;                              // of the map
constexpr std::array<int, 4> kReachesPx{4, 8, 16, 28};  // from spot to spot of a block
constexpr size_t kMostBlocks = 40;
constexpr double kLeastBlockPx = 20;
constexpr double kSameBlock = 0.2;  // of its width and height

// What is narrow and darker than what is about it, 255; light: the picture without it.
cv::Mat thin_and_dark(const cv::Mat& grey, cv::Mat& light) {
    cv::morphologyEx(grey, light, cv::MORPH_CLOSE,
                     cv::getStructuringElement(cv::MORPH_ELLIPSE, {kStrokePx, kStrokePx}));
    return (light - grey > kLeastDark) & (light - grey > kLeastDarkShare * light);
}

}  // namespace

WritingMap::WritingMap(const cv::Mat& pixels, double scale)
    : size_(static_cast<int>(std::ceil(pixels.cols * scale)), static_cast<int>(std::ceil(pixels.rows * scale))) {
    const cv::Size cells(size_.width / kCellPx + 1, size_.height / kCellPx + 1);
    spot_count_ = cv::Mat(cells, CV_32F, cv::Scalar(0));
    cv::Mat grey, light, lightest, least, labels, stats, centres;
    cv::cvtColor(pixels, grey, cv::COLOR_BGR2GRAY);
    const cv::Mat ink = thin_and_dark(grey, light);
    cv::resize(ink, dark_share_, cells, 0, 0, cv::INTER_AREA);
    dark_share_.convertTo(dark_share_, CV_32F, 1 / 255.0);
    const cv::Mat about = cv::getStructuringElement(cv::MORPH_RECT, {kAboutPx, kAboutPx});
    cv::dilate(light, lightest, about), cv::erode(light, least, about);
    const int count = cv::connectedComponentsWithStats(ink, labels, stats, centres);
    for (int i = 1; i < count; ++i) {
        if (stats.at<int>(i, cv::CC_STAT_AREA) < kLeastPiecePx || stats.at<int>(i, cv::CC_STAT_WIDTH) > kMostWordPx ||
            stats.at<int>(i, cv::CC_STAT_HEIGHT) > kMostLetterPx)
            continue;
        const Point middle{centres.at<double>(i, 0), centres.at<double>(i, 1)};
        const int x = static_cast<int>(middle.x), y = static_cast<int>(middle.y);
        const int most = lightest.at<uchar>(y, x);
        if (most - least.at<uchar>(y, x) > kEven * most) continue;
        spots_.push_back(middle * scale);
        spot_count_.at<float>(static_cast<int>(spots_.back().y) / kCellPx,
                              static_cast<int>(spots_.back().x) / kCellPx) += 1;
    }
}

std::vector<Box> WritingMap::blocks() const {
    std::vector<Box> out;
    cv::Mat dots(size_, CV_8U, cv::Scalar(0));
    const auto place = [](Point p) { return cv::Point(static_cast<int>(p.x), static_cast<int>(p.y)); };
    for (const Point& p : spots_) dots.at<uchar>(place(p)) = 255;
    for (const int reach : kReachesPx) {
        cv::Mat joined, labels, stats, centres;
        cv::dilate(dots, joined, cv::getStructuringElement(cv::MORPH_RECT, {2 * reach + 1, 2 * reach + 1}));
        const int count = cv::connectedComponentsWithStats(joined, labels, stats, centres);
        std::vector<int> held(static_cast<size_t>(count));
        for (const Point& p : spots_) ++held[static_cast<size_t>(labels.at<int>(place(p)))];
        for (int i = 1; i < count; ++i) {
            if (held[static_cast<size_t>(i)] < kWrittenPieces) continue;
            const double left = stats.at<int>(i, cv::CC_STAT_LEFT), top = stats.at<int>(i, cv::CC_STAT_TOP);
            const Box box{left + reach, top + reach, left + stats.at<int>(i, cv::CC_STAT_WIDTH) - reach,
                          top + stats.at<int>(i, cv::CC_STAT_HEIGHT) - reach};
            if (std::min(box.width(), box.height()) < kLeastBlockPx) continue;
            const auto same = [&](const Box& other) {
                return std::abs(other.left - box.left) + std::abs(other.right - box.right) < kSameBlock * box.width() &&
                       std::abs(other.top - box.top) + std::abs(other.bottom - box.bottom) < kSameBlock * box.height();
            };
            if (std::ranges::none_of(out, same)) out.push_back(box);
            if (out.size() == kMostBlocks) return out;  // a texture
        }
    }
    return out;
}

double WritingMap::sum(const cv::Mat& cells, const std::array<Point, 4>& outline, bool mean) const {
    const auto [left, right] = std::minmax({outline[0].x, outline[1].x, outline[2].x, outline[3].x});
    const auto [top, bottom] = std::minmax({outline[0].y, outline[1].y, outline[2].y, outline[3].y});
    double out = 0;
    int count = 0;
    for (int y = std::max(0, static_cast<int>(top) / kCellPx); y < cells.rows && y * kCellPx < bottom; ++y)
        for (int x = std::max(0, static_cast<int>(left) / kCellPx); x < cells.cols && x * kCellPx < right; ++x) {
            const float value = cells.at<float>(y, x);
            if (!(mean || value > 0) || !lies_in(outline, Point{x + 0.5, y + 0.5} * kCellPx)) continue;
            out += value, ++count;
        }
    return mean ? out / std::max(1, count) : out;
}

std::optional<std::array<Point, 4>> WritingMap::rectangle_about(const Box& box) const {
    std::vector<cv::Point2f> points;
    for (const Point& p : spots_)
        if (box.contains(p)) points.emplace_back(static_cast<float>(p.x), static_cast<float>(p.y));
    if (points.size() < static_cast<size_t>(kWrittenPieces)) return {};
    const cv::RotatedRect tight = cv::minAreaRect(points);
    std::array<cv::Point2f, 4> corners;
    tight.points(corners.data());
    std::array<Point, 4> out;
    for (size_t i = 0; i < 4; ++i) out[i] = {corners[i].x, corners[i].y};
    set_clockwise(out);
    return out;
}

double WritingMap::spots(const std::array<Point, 4>& outline) const { return sum(spot_count_, outline, false); }

double WritingMap::dark(const std::array<Point, 4>& outline) const { return sum(dark_share_, outline, true); }

Writing writing_on(const cv::Mat& pixels, const SheetOutline& outline) {
    const cv::Size size = flat_size(outline, pixels.size());
    if (std::max(size.width, size.height) < kLeastSidePx || std::min(size.width, size.height) < kLeastPicturePx)
        return Writing::little;
    cv::Mat flat = straightened(pixels, outline, size), grey, light;
    flat = shrunk(flat, factor_to(flat, kMostSidePx));
    cv::cvtColor(flat, grey, cv::COLOR_BGR2GRAY);
    const cv::Mat ink = thin_and_dark(grey, light);
    const auto within = [](int side) {
        return cv::Range(static_cast<int>(kMargin * side), static_cast<int>((1 - kMargin) * side));
    };
    cv::Mat labels, stats, centres;
    const cv::Mat inner = ink(within(ink.rows), within(ink.cols));
    const int count = cv::connectedComponentsWithStats(inner, labels, stats, centres);
    const double dark = cv::countNonZero(inner) / static_cast<double>(std::max<size_t>(1, inner.total()));
    int pieces = 0;
    for (int i = 1; i < count; ++i)
        pieces += stats.at<int>(i, cv::CC_STAT_AREA) >= kLeastPiecePx &&
                  stats.at<int>(i, cv::CC_STAT_WIDTH) < kMostAcross * ink.cols &&
                  stats.at<int>(i, cv::CC_STAT_HEIGHT) < kMostAcross * ink.rows;
    // Squares join all that is written on them into one piece.
    return pieces <= kBlankPieces && dark < kMostDarkOfBlank ? Writing::none
           : pieces >= kWrittenPieces                        ? Writing::much
                                                             : Writing::little;
}

}  // namespace fernleaf
