#include "paper/sheet_picture.h"

#include "paper/cleaning.h"
#include "paper/picture_faults.h"

#include <algorithm>
#include <opencv2/imgproc.hpp>

#include "paper/ink_mask.h"
#include "paper/mean_about.h"
#include "paper/picture_file.h"
#include "paper/sheet_finding.h"
#include "paper/shrunk.h"
#include "paper/straightening.h"

namespace fernleaf {
namespace {

constexpr int kPaperPx = 700;  // the long side of the copy in which paper is spread
constexpr double kPaperSigma = 6, kFarFromPaper = 0.01;
constexpr int kPaperDark = 12;      // darker than the paper about it by so much, it is none
constexpr double kSamePiece = 0.7;  // of the area that two boxes share: ink may be told a little otherwise by now
constexpr double kHalo = 0.8;       // of a stroke's width: about lifted ink
constexpr double kSliver = 0.005;   // of a side: what looks in from beside the sheet
constexpr int kSliverInk = 110;     // grey level: darker may be ink that reaches to the border,
constexpr int kSlant = 9;           // px: if there is ink so near within
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

// What is beside the mask, spread over it; far from all paper it is as the paper mostly is.
cv::Mat paper_around(const cv::Mat& pixels, const cv::Mat& mask) {
    cv::Mat known, out;
    cv::Mat(mask == 0).convertTo(known, CV_32F, 1.0 / 255);
    const double shrink = std::min(1.0, static_cast<double>(kPaperPx) / std::max(pixels.cols, pixels.rows));
    const cv::Size coarse(std::max(1, static_cast<int>(std::lround(shrink * pixels.cols))),
                          std::max(1, static_cast<int>(std::lround(shrink * pixels.rows))));
    cv::resize(mean_about(pixels, known, coarse, kPaperSigma, cv::mean(pixels, mask == 0), kFarFromPaper), out,
               pixels.size(), 0, 0, cv::INTER_LINEAR);
    out.convertTo(out, CV_8UC3);
    return out;
}

// Paints over rules and holes, and over ink that became strokes. page: flat and not cleaned, as it is read; pixels: the
// same as it is shown.
void paint_over(cv::Mat& pixels, const cv::Mat& page, bool white, const Treatment& treatment) {
    const InkMask ink = ink_of_page(page);
    const cv::Size size = ink.dark.size();
    cv::Mat mask(size, CV_8U, cv::Scalar(0));
    // A border that is soft goes with what it is the border of.
    const cv::Mat about = cv::getStructuringElement(cv::MORPH_RECT, {3, 3});
    if (treatment.without_rules) {
        cv::dilate(ink.rules, mask, about);
        for (const InkPiece& piece : ink.pieces) mask(piece.box).setTo(0, ink.labels(piece.box) == piece.label);
        add_holes(ink, mask);
    }
    if (!treatment.lifted.empty()) {
        cv::Mat lifted(size, CV_8U, cv::Scalar(0)), staying = lifted.clone();
        for (const InkPiece& piece : ink.pieces) {
            const bool goes = was_lifted(treatment, piece.box, size);
            (goes ? lifted : staying)(piece.box).setTo(255, ink.labels(piece.box) == piece.label);
        }
        // As far as blur carries ink; what stays keeps its own soft border.
        const int far = 2 * static_cast<int>(std::ceil(kHalo * ink.stroke_px)) + 5;
        cv::dilate(lifted, lifted, cv::getStructuringElement(cv::MORPH_ELLIPSE, {far, far}));
        cv::dilate(staying, staying, about);
        mask |= lifted & ~staying & ~ink.rules;
    }
    cv::resize(mask, mask, pixels.size(), 0, 0, cv::INTER_LINEAR);
    mask = mask > 96;
    if (white) {
        pixels.setTo(cv::Scalar::all(255), mask);
        return;
    }
    // Neither what goes nor ink that stays is paper.
    cv::Mat other = ink.dark > kPaperDark;
    cv::dilate(other, other, about);
    cv::resize(other, other, pixels.size(), 0, 0, cv::INTER_NEAREST);
    paper_around(pixels, mask | other).copyTo(pixels, mask);
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
    if (!treatment.outline || !is_valid(*treatment.outline)) return turned(pixels, treatment);
    const cv::Size size = flat_size(*treatment.outline, pixels.size(), treatment.aspect);
    return turned(straightened(pixels, *treatment.outline, size), treatment);
}

// The ground shows in a line of pixels where the outline is not quite the sheet's: on a clean page it is paper. Ink
// that reaches to the border comes from inside and stays.
void clean_border(cv::Mat& page) {
    const int across = static_cast<int>(std::ceil(kSliver * page.cols)),
              down = static_cast<int>(std::ceil(kSliver * page.rows));
    if (page.cols <= 2 * across || page.rows <= 2 * down) return;
    const auto dark = [&](const cv::Rect& where) {
        cv::Mat grey;
        cv::cvtColor(page(where), grey, cv::COLOR_BGR2GRAY);
        return cv::Mat(grey <= kSliverInk);
    };
    // side: of the page; line: of pixels within it
    const auto clean = [&](const cv::Rect& side, const cv::Rect& line) {
        cv::Mat inside = dark(line), all;
        cv::dilate(inside, inside, cv::getStructuringElement(cv::MORPH_RECT, {kSlant, kSlant}));
        cv::repeat(inside, side.height / line.height, side.width / line.width, all);
        page(side).setTo(cv::Scalar::all(255), ~(dark(side) & all));
    };
    const int right = page.cols - across, bottom = page.rows - down, wide = right - across, high = bottom - down;
    clean({0, down, across, high}, {across, down, 1, high});
    clean({right, down, across, high}, {right - 1, down, 1, high});
    clean({across, 0, wide, down}, {across, down, wide, 1});
    clean({across, bottom, wide, down}, {across, bottom - 1, wide, 1});
    for (const cv::Point corner : {cv::Point(0, 0), {right, 0}, {0, bottom}, {right, bottom}})
        page(cv::Rect(corner, cv::Size(across, down))).setTo(cv::Scalar::all(255));
}

}  // namespace

cv::Mat treated(const cv::Mat& pixels, const Treatment& treatment) {
    cv::Mat page = flat(pixels, treatment);
    if (!may_hold_writing(page)) return page;
    cv::Mat out = cleaned(page, treatment.look);
    if (treatment.outline && treatment.look != Look::original && !out.empty()) clean_border(out);
    if ((!treatment.without_rules && treatment.lifted.empty()) || out.empty()) return out;
    if (treatment.look == Look::original) {
        out = out.clone();
        paint_over(out, page, false, treatment);
        return out;
    }
    if (treatment.look == Look::black_white) {
        // In black and white a rule is as dark as ink: it is taken out before.
        cv::Mat clean = cleaned(page, Look::clean);
        paint_over(clean, page, true, treatment);
        return cleaned(clean, Look::black_white);
    }
    paint_over(out, page, true, treatment);
    return out;
}

bool was_lifted(const Treatment& treatment, const cv::Rect& piece, cv::Size size) {
    const cv::Rect2d box(piece);
    return std::ranges::any_of(treatment.lifted, [&](const Box& b) {
        const cv::Rect2d lifted(b.left * size.width, b.top * size.height, b.width() * size.width,
                                b.height() * size.height);
        return (box & lifted).area() >= kSamePiece * (box | lifted).area();
    });
}

Result<cv::Mat> picture_pixels(const std::string& bytes, const Picture& picture) {
    const int dpi = picture.treatment.dpi;
    auto pixels = decode_picture(bytes, picture.frame, dpi == 0 ? kUsualDpi : dpi);
    if (!pixels || picture.treatment.untouched()) return pixels;
    return treated(*pixels, picture.treatment);
}

Result<cv::Mat> picture_to_read(const std::string& bytes, const Picture& picture) {
    Picture laid = picture;
    laid.treatment.look = Look::original, laid.treatment.without_rules = false;
    return picture_pixels(bytes, laid);
}

IntakeEntry with_suggestion(IntakeEntry entry, const Suggestion& suggestion) {
    entry.treatment = suggestion.treatment;
    entry.width_mm = suggestion.width_mm, entry.height_mm = suggestion.height_mm;
    entry.faults = suggestion.faults;
    entry.looked_at = true;
    return entry;
}

Suggestion judged(const cv::Mat& pixels, const Treatment& treatment, double scan_dpi) {
    const cv::Mat page = flat(pixels, treatment);
    const double aspect = static_cast<double>(page.cols) / std::max(1, page.rows);
    SheetMm size = sheet_mm(aspect);
    if (scan_dpi > 0) size = {page.cols / scan_dpi * kMmPerInch, page.rows / scan_dpi * kMmPerInch};
    Faults faults = faults_of(page, size.width);
    faults.no_sheet = !treatment.outline && scan_dpi <= 0 && !like_paper(page);
    return {treatment, size.width, size.height, faults};
}

Treatment about_all(const std::vector<Treatment>& parts) {
    Treatment out = parts.front();
    out.aspect = 0;
    std::vector<cv::Point2f> corners;
    for (const Treatment& part : parts) {
        if (!part.outline) {
            out.outline.reset();
            return out;
        }
        for (const Point& p : part.outline->corners)
            corners.emplace_back(static_cast<float>(p.x), static_cast<float>(p.y));
    }
    std::array<cv::Point2f, 4> about;
    cv::minAreaRect(corners).points(about.data());
    SheetOutline outline;
    for (size_t i = 0; i < 4; ++i) outline.corners[i] = {about[i].x, about[i].y};
    // They go clockwise; the first is the one nearest the picture's top left.
    const auto first = std::ranges::min_element(outline.corners, {}, [](Point p) { return p.x + p.y; });
    std::rotate(outline.corners.begin(), first, outline.corners.end());
    out.outline = outline;
    return out;
}

std::vector<Suggestion> suggested(const cv::Mat& pixels, double scan_dpi) {
    std::vector<FoundSheet> sheets = find_sheets(pixels, kMostSheetsInPicture);
    set_in_reading_order(sheets);
    std::vector<Suggestion> out;
    for (const FoundSheet& sheet : sheets) {
        Treatment treatment;
        treatment.outline = sheet.outline;
        treatment.look = Look::clean;
        out.push_back(judged(pixels, treatment, scan_dpi));
    }
    if (out.empty()) out.push_back(judged(pixels, {}, scan_dpi));
    return out;
}

}  // namespace fernleaf
