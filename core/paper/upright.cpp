#include "paper/upright.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "base/text.h"
#include "paper/scan_lines.h"
#include "paper/shrunk.h"
#include "paper/straightening.h"

namespace fernleaf {
namespace {

constexpr int kLongSidePx = 1700;
constexpr size_t kMostLines = 4;     // a way; the longest, and of those the beginnings
constexpr int kMostColumns = 360;    // of a line's picture
constexpr double kClearly = 1.35;    // times as good as the page as it is
constexpr double kLeastLetters = 6;  // read for certain: fewer tell nothing
constexpr double kTopLeft = 0.5;
constexpr double kSure = 0.75, kEnoughLetters = 12;   // read so well, it stands upright
constexpr double kPartTop = 0.05, kPartBottom = 0.4;  // of the page's height

// The letters in some lines, and those of them that are certain: each counted by how certain its word is.
struct Letters {
    double all = 0, certain = 0;
};

struct SomeLines {
    std::vector<LinePicture> pictures;
    Point middle{0.5, 0.5};  // of the ink, in parts of the page
};

SomeLines some_lines(const cv::Mat& page) {
    std::vector<ScanLine> lines = scan_page(page).lines;
    std::erase_if(lines, &ScanLine::drawing);
    Box all;
    for (const ScanLine& line : lines)
        all.include(Box::of(line.box_px.x, line.box_px.y, line.box_px.width, line.box_px.height));
    std::ranges::sort(lines, std::greater(), [](const ScanLine& l) { return l.picture.pixels.cols; });
    if (lines.size() > kMostLines) lines.resize(kMostLines);
    SomeLines out;
    for (ScanLine& line : lines) {
        if (line.picture.pixels.cols > kMostColumns)
            line.picture.pixels = line.picture.pixels.colRange(0, kMostColumns);
        out.pictures.push_back(std::move(line.picture));
    }
    if (!all.empty()) out.middle = {all.centre().x / page.cols, all.centre().y / page.rows};
    return out;
}

// How likely a page with its ink there stands upright: who writes begins at the top and on the left.
double likely_place(Point middle) { return std::exp(kTopLeft * (1 - middle.x - middle.y)); }

Letters letters_in(const SomeLines& lines, bool upside_down, const Reader& reader, const ReadSettings& settings) {
    Letters out;
    for (const LinePicture& line : lines.pictures) {
        LinePicture picture = line;
        if (upside_down) cv::rotate(line.pixels, picture.pixels, cv::ROTATE_180);
        for (const WordReading& word : reader.read(picture, settings).words) {
            const auto letters = static_cast<double>(decode_utf8(word.text).size());
            out.all += letters;
            out.certain += word.certainty * letters;
        }
    }
    return out;
}

}  // namespace

int upright_turns(const cv::Mat& page, const Reader& reader, const ReadSettings& settings) {
    if (!may_hold_writing(page)) return 0;
    const auto stands = [](const Letters& l) { return l.all > kEnoughLetters && l.certain > kSure * l.all; };
    const cv::Mat small = shrunk(page, factor_to(page, kLongSidePx));
    // Most pages stand upright, and a part of one shows it.
    const cv::Mat part =
        small.rowRange(static_cast<int>(kPartTop * small.rows), static_cast<int>(kPartBottom * small.rows));
    if (stands(letters_in(some_lines(part), false, reader, settings))) return 0;
    const SomeLines lines = some_lines(small);
    const Letters upright = letters_in(lines, false, reader, settings);
    if (stands(upright)) return 0;
    cv::Mat aside;
    cv::rotate(small, aside, cv::ROTATE_90_CLOCKWISE);
    const SomeLines others = some_lines(aside);
    const auto turned = [](Point middle) { return Point{1 - middle.x, 1 - middle.y}; };
    const std::array<Letters, 4> read{upright, letters_in(others, false, reader, settings),
                                      letters_in(lines, true, reader, settings),
                                      letters_in(others, true, reader, settings)};
    const std::array<Point, 4> middles{lines.middle, others.middle, turned(lines.middle), turned(others.middle)};
    const bool few = std::ranges::all_of(read, [](const Letters& l) { return l.all <= kEnoughLetters; });
    std::array<double, 4> letters{};
    for (size_t i = 0; i < letters.size(); ++i) letters[i] = read[i].certain * (few ? likely_place(middles[i]) : 1);
    const auto best = std::ranges::max_element(letters);
    if (*best < kLeastLetters || *best < kClearly * letters[0]) return 0;
    return static_cast<int>(best - letters.begin());
}

Suggestion set_upright(const cv::Mat& pixels, Suggestion sheet, const FindUpright& find) {
    if (!find || !may_hold_writing(pixels)) return sheet;
    // Laid flat from a smaller picture, in which the sheet is as large as it is read.
    Treatment laid = sheet.treatment;
    laid.look = Look::original, laid.without_rules = false;
    const cv::Size size = laid.outline ? flat_size(*laid.outline, pixels.size(), laid.aspect) : pixels.size();
    const double shrink = std::min(1.0, static_cast<double>(kLongSidePx) / std::max(size.width, size.height));
    const cv::Mat small = shrunk(pixels, shrink);
    if (laid.outline) laid.outline = scaled(*laid.outline, shrink);
    const int turns = find(treated(small, laid)) & 3;
    sheet.treatment.quarter_turns = (sheet.treatment.quarter_turns + turns) & 3;
    if (turns % 2 == 1) std::swap(sheet.width_mm, sheet.height_mm);
    return sheet;
}

}  // namespace fernleaf
