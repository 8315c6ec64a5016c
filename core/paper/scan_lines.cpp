#include "paper/scan_lines.h"

#include <algorithm>
#include <opencv2/imgproc.hpp>

#include "ink/grouping.h"

namespace fernleaf {
namespace {

constexpr int kWorkingWidthPx = 1700;  // an A4 sheet at 200 dots an inch
constexpr int kFaintest = 22;          // darker than the paper by this many of 255, at least
constexpr double kRuleShare = 0.18;    // of the page's width: a thin run this long is a printed rule
constexpr int kRuleThicknessPx = 4;
constexpr int kSmallestPx = 5;  // pieces of fewer pixels are dirt
constexpr int kPad = 4;

// How much darker than the paper around it each pixel is, 0 to 255.
cv::Mat darkness(const cv::Mat& grey) {
    cv::Mat small, paper;
    const double shrink = 200.0 / std::max(grey.cols, grey.rows);
    cv::resize(grey, small, {}, std::min(1.0, shrink), std::min(1.0, shrink), cv::INTER_AREA);
    // The paper is what remains when dark strokes are closed over; then smoothed, as light is.
    const cv::Mat kernel = cv::getStructuringElement(cv::MORPH_ELLIPSE, {9, 9});
    cv::morphologyEx(small, small, cv::MORPH_CLOSE, kernel);
    cv::GaussianBlur(small, small, {}, 5);
    cv::resize(small, paper, grey.size(), 0, 0, cv::INTER_CUBIC);
    cv::Mat flat;
    cv::divide(grey, paper, flat, 255);
    return 255 - flat;
}

// Takes printed rules out of the mask and leaves the strokes that cross them.
void remove_rules(cv::Mat& mask) {
    const int length = std::max(60, static_cast<int>(kRuleShare * mask.cols));
    cv::Mat rules;
    cv::morphologyEx(mask, rules, cv::MORPH_OPEN, cv::getStructuringElement(cv::MORPH_RECT, {length, 1}));
    if (cv::countNonZero(rules) == 0) return;
    cv::Mat labels, stats, centres;
    const int count = cv::connectedComponentsWithStats(rules, labels, stats, centres);
    for (int i = 1; i < count; ++i) {
        const cv::Rect box(stats.at<int>(i, cv::CC_STAT_LEFT), stats.at<int>(i, cv::CC_STAT_TOP),
                           stats.at<int>(i, cv::CC_STAT_WIDTH), stats.at<int>(i, cv::CC_STAT_HEIGHT));
        if (box.height > 3 * kRuleThicknessPx) continue;
        for (int y = box.y; y < box.br().y; ++y)
            for (int x = box.x; x < box.br().x; ++x) {
                if (labels.at<int>(y, x) != i) continue;
                // Ink just above or below the rule means that a stroke runs through it here.
                const auto ink = [&](int yy) {
                    return yy >= 0 && yy < mask.rows && mask.at<uchar>(yy, x) != 0 && rules.at<uchar>(yy, x) == 0;
                };
                bool crossed = false;
                for (int k = 1; k <= kRuleThicknessPx && !crossed; ++k)
                    crossed = ink(box.y - k) && ink(box.br().y + k - 1);
                if (!crossed) mask.at<uchar>(y, x) = 0;
            }
    }
}

}  // namespace

std::vector<ScanLine> find_scan_lines(const cv::Mat& pixels) {
    std::vector<ScanLine> out;
    if (pixels.empty()) return out;
    cv::Mat grey;
    if (pixels.channels() == 3)
        cv::cvtColor(pixels, grey, cv::COLOR_BGR2GRAY);
    else
        grey = pixels;
    const double shrink = std::min(1.0, static_cast<double>(kWorkingWidthPx) / grey.cols);
    if (shrink < 1) cv::resize(grey, grey, {}, shrink, shrink, cv::INTER_AREA);

    const cv::Mat dark = darkness(grey);
    cv::Mat mask;
    const double otsu = cv::threshold(dark, mask, 0, 255, cv::THRESH_BINARY | cv::THRESH_OTSU);
    cv::threshold(dark, mask, std::max<double>(kFaintest, 0.75 * otsu), 255, cv::THRESH_BINARY);
    remove_rules(mask);

    cv::Mat labels, stats, centres;
    const int count = cv::connectedComponentsWithStats(mask, labels, stats, centres);
    std::vector<Blot> blots;
    std::vector<int> label_of;
    for (int i = 1; i < count; ++i) {
        const int area = stats.at<int>(i, cv::CC_STAT_AREA);
        const Box box = Box::of(stats.at<int>(i, cv::CC_STAT_LEFT), stats.at<int>(i, cv::CC_STAT_TOP),
                                stats.at<int>(i, cv::CC_STAT_WIDTH), stats.at<int>(i, cv::CC_STAT_HEIGHT));
        if (area < kSmallestPx) continue;
        // In px; grouping takes mm, and its only length in mm is the smallest height of a letter.
        blots.push_back({box, centres.at<double>(i, 1), area / 3.0});
        label_of.push_back(i);
    }

    std::vector<int> line_of_label(static_cast<size_t>(count), -1);
    const std::vector<InkLine> lines = group_shapes(blots);
    for (size_t l = 0; l < lines.size(); ++l)
        for (const size_t m : lines[l].members) line_of_label[static_cast<size_t>(label_of[m])] = static_cast<int>(l);
    for (size_t l = 0; l < lines.size(); ++l) {
        const Box& box = lines[l].box;
        ScanLine line;
        line.region = lines[l].region;
        line.drawing = lines[l].drawing;
        const cv::Rect whole(0, 0, grey.cols, grey.rows);
        const cv::Rect cut =
            cv::Rect(static_cast<int>(box.left) - kPad, static_cast<int>(box.top) - kPad,
                     static_cast<int>(box.width()) + 2 * kPad, static_cast<int>(box.height()) + 2 * kPad) &
            whole;
        if (!line.drawing) {
            // The line's own pieces and a pixel around them; what belongs to other lines is left out.
            cv::Mat own(cut.size(), CV_8U, cv::Scalar(0));
            for (int y = 0; y < cut.height; ++y)
                for (int x = 0; x < cut.width; ++x) {
                    const int label = labels.at<int>(cut.y + y, cut.x + x);
                    if (label != 0 && line_of_label[static_cast<size_t>(label)] == static_cast<int>(l))
                        own.at<uchar>(y, x) = 255;
                }
            cv::dilate(own, own, cv::getStructuringElement(cv::MORPH_RECT, {3, 3}));
            cv::Mat soft(cut.size(), CV_8U, cv::Scalar(0));
            dark(cut).copyTo(soft, own);
            double brightest = 0;
            cv::minMaxLoc(soft, nullptr, &brightest);
            if (brightest > 0) soft.convertTo(soft, CV_8U, 255 / brightest);
            line.picture = fit_line(soft, lines[l].slope);
        }
        // Back to the pixels of the picture given.
        line.box_px = {static_cast<int>(cut.x / shrink), static_cast<int>(cut.y / shrink),
                       static_cast<int>(cut.width / shrink), static_cast<int>(cut.height / shrink)};
        line.picture.scale *= shrink;
        line.picture.left /= shrink;
        out.push_back(std::move(line));
    }
    return out;
}

}  // namespace fernleaf
