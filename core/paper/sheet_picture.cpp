#include "paper/sheet_picture.h"

#include <algorithm>
#include <opencv2/imgproc.hpp>

#include "paper/ink_mask.h"
#include "paper/picture_file.h"
#include "paper/sheet_finding.h"
#include "paper/straightening.h"

namespace fernleaf {
namespace {

constexpr int kWorkingWidthPx = 1700;                              // in which rules and holes are looked for
constexpr double kLeastHoleShare = 0.018, kMostHoleShare = 0.045;  // of the sheet's width: across a punched hole
constexpr double kHoleMargin = 0.11;                               // of it: from the edge

cv::Mat turned(const cv::Mat& pixels, const Treatment& treatment) {
    cv::Mat out = pixels;
    const int turns = treatment.quarter_turns & 3;
    if (turns == 1) cv::rotate(out, out, cv::ROTATE_90_CLOCKWISE);
    if (turns == 2) cv::rotate(out, out, cv::ROTATE_180);
    if (turns == 3) cv::rotate(out, out, cv::ROTATE_90_COUNTERCLOCKWISE);
    if (treatment.turn_deg == 0) return out;
    // The page keeps its size; what turns in from beside it is as the paper's border is.
    const cv::Point2f middle(static_cast<float>(out.cols) / 2, static_cast<float>(out.rows) / 2);
    cv::Mat aslant;
    cv::warpAffine(out, aslant, cv::getRotationMatrix2D(middle, -treatment.turn_deg, 1), out.size(), cv::INTER_LINEAR,
                   cv::BORDER_REPLICATE);
    return aslant;
}

// Holes punched for a folder: round, dark, near the left or right edge.
void add_holes(const InkMask& ink, cv::Mat& mask) {
    cv::Mat dark;
    cv::threshold(ink.dark, dark, 40, 255, cv::THRESH_BINARY);
    std::vector<std::vector<cv::Point>> contours;
    cv::findContours(dark, contours, cv::RETR_EXTERNAL, cv::CHAIN_APPROX_NONE);
    for (const std::vector<cv::Point>& contour : contours) {
        const cv::Rect box = cv::boundingRect(contour);
        const double across = std::max(box.width, box.height), w = mask.cols;
        if (across < kLeastHoleShare * w || across > kMostHoleShare * w) continue;
        if (std::min(box.width, box.height) < 0.8 * across) continue;
        const double middle = box.x + box.width / 2.0;
        if (middle > kHoleMargin * w && middle < (1 - kHoleMargin) * w) continue;
        const double disc = CV_PI / 4 * box.width * box.height;
        if (std::abs(cv::contourArea(contour) / disc - 1) > 0.15) continue;
        const double inside = cv::mean(dark(box))[0] / 255 * box.area() / disc;
        if (inside < 0.85) continue;  // a letter o is hollow
        cv::circle(mask, {static_cast<int>(middle), box.y + box.height / 2}, static_cast<int>(0.6 * across),
                   cv::Scalar(255), cv::FILLED);
    }
}

void paint_over_rules(cv::Mat& pixels, const cv::Mat& like) {
    cv::Mat grey;
    cv::cvtColor(pixels, grey, cv::COLOR_BGR2GRAY);
    const double shrink = std::min(1.0, static_cast<double>(kWorkingWidthPx) / grey.cols);
    if (shrink < 1) cv::resize(grey, grey, {}, shrink, shrink, cv::INTER_AREA);
    const InkMask ink = ink_mask(grey);
    cv::Mat mask = ink.rules.clone();
    // A rule's soft border goes with it, ink beside it stays.
    cv::dilate(mask, mask, cv::getStructuringElement(cv::MORPH_RECT, {3, 3}));
    for (const InkPiece& piece : ink.pieces) mask(piece.box).setTo(0, ink.labels(piece.box) == piece.label);
    add_holes(ink, mask);
    cv::resize(mask, mask, pixels.size(), 0, 0, cv::INTER_LINEAR);
    like.copyTo(pixels, mask > 96);
}

// Sheets as they are read: in rows, each from the left.
void set_in_reading_order(std::vector<FoundSheet>& sheets) {
    const auto box = [](const FoundSheet& s) {
        Box out;
        for (const Point& p : s.outline.corners) out.include(p);
        return out;
    };
    std::ranges::sort(sheets, {}, [&](const FoundSheet& s) { return box(s).centre().y; });
    for (size_t begin = 0; begin < sheets.size();) {
        size_t end = begin + 1;
        const Box first = box(sheets[begin]);
        while (end < sheets.size() && box(sheets[end]).centre().y < first.centre().y + first.height() / 2) ++end;
        std::sort(sheets.begin() + static_cast<std::ptrdiff_t>(begin),
                  sheets.begin() + static_cast<std::ptrdiff_t>(end),
                  [&](const FoundSheet& a, const FoundSheet& b) { return box(a).left < box(b).left; });
        begin = end;
    }
}

cv::Mat flat(const cv::Mat& pixels, const Treatment& treatment) {
    if (!treatment.outline || !sound(*treatment.outline)) return turned(pixels, treatment);
    const cv::Size size = flat_size(*treatment.outline, pixels.size(), treatment.aspect);
    return turned(straightened(pixels, *treatment.outline, size), treatment);
}

Result<cv::Mat> decoded(const std::string& bytes, const Picture& picture, bool to_read) {
    auto pixels = decode_picture(bytes, picture.frame);
    if (!pixels || picture.treatment.untouched()) return pixels;
    return to_read ? flat(*pixels, picture.treatment) : treated(*pixels, picture.treatment);
}

}  // namespace

cv::Mat treated(const cv::Mat& pixels, const Treatment& treatment) {
    const cv::Mat page = flat(pixels, treatment);
    cv::Mat out = cleaned(page, treatment.look);
    if (!treatment.without_rules || out.empty()) return out;
    if (treatment.look == Look::original) {
        out = out.clone();
        paint_over_rules(out, paper_light(page));
        return out;
    }
    if (treatment.look == Look::black_white) {
        // In black and white a rule is as dark as ink: it is taken out before.
        cv::Mat clean = cleaned(page, Look::clean);
        paint_over_rules(clean, cv::Mat(clean.size(), CV_8UC3, cv::Scalar::all(255)));
        return cleaned(clean, Look::black_white);
    }
    paint_over_rules(out, cv::Mat(out.size(), CV_8UC3, cv::Scalar::all(255)));
    return out;
}

Result<cv::Mat> picture_pixels(const std::string& bytes, const Picture& picture) {
    return decoded(bytes, picture, false);
}

Result<cv::Mat> picture_to_read(const std::string& bytes, const Picture& picture) {
    return decoded(bytes, picture, true);
}

Suggestion judged(const cv::Mat& pixels, const Treatment& treatment) {
    const cv::Mat page = flat(pixels, treatment);
    const double aspect = static_cast<double>(page.cols) / std::max(1, page.rows);
    const SheetMm size = sheet_mm(aspect);
    return {treatment, size.width, size.height, faults_of(page, size.width)};
}

std::vector<Suggestion> suggested(const cv::Mat& pixels) {
    std::vector<FoundSheet> sheets = find_sheets(pixels, kMostSheetsInPicture);
    set_in_reading_order(sheets);
    std::vector<Suggestion> out;
    for (const FoundSheet& sheet : sheets) {
        Treatment treatment;
        treatment.outline = sheet.outline;
        treatment.look = Look::clean;
        out.push_back(judged(pixels, treatment));
    }
    if (out.empty()) out.push_back(judged(pixels, {}));
    return out;
}

}  // namespace fernleaf
