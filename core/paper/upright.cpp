#include "paper/upright.h"

#include <algorithm>
#include <array>
#include <opencv2/imgproc.hpp>

#include "base/text.h"
#include "paper/scan_lines.h"
#include "paper/shrunk.h"
#include "paper/straightening.h"

namespace fernleaf {
namespace {

constexpr int kLongSidePx = 1700;
constexpr size_t kMostLines = 4;                      // a way; the longest, and of those the beginnings
constexpr int kMostColumns = 360;                     // of a line's picture
constexpr double kClearly = 1.35;                     // times as good as the page as it is
constexpr double kLeastLetters = 6;                   // read for certain: fewer tell nothing
constexpr double kSure = 0.75, kEnoughLetters = 12;   // read so well, it stands upright
constexpr double kPartTop = 0.05, kPartBottom = 0.4;  // of the page's height

// The letters in some lines, and those of them that are certain: each counted by how certain its word is.
struct Letters {
    double all = 0, certain = 0;
};

std::vector<LinePicture> some_lines(const cv::Mat& page) {
    std::vector<ScanLine> lines = scan_page(page).lines;
    std::erase_if(lines, &ScanLine::drawing);
    std::ranges::sort(lines, std::greater(), [](const ScanLine& l) { return l.picture.pixels.cols; });
    if (lines.size() > kMostLines) lines.resize(kMostLines);
    std::vector<LinePicture> out;
    for (ScanLine& line : lines) {
        if (line.picture.pixels.cols > kMostColumns)
            line.picture.pixels = line.picture.pixels.colRange(0, kMostColumns);
        out.push_back(std::move(line.picture));
    }
    return out;
}

Letters letters_in(const std::vector<LinePicture>& lines, bool upside_down, const Reader& reader,
                   const ReadSettings& settings) {
    Letters out;
    for (const LinePicture& line : lines) {
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
    const std::vector<LinePicture> lines = some_lines(small);
    const Letters upright = letters_in(lines, false, reader, settings);
    if (stands(upright)) return 0;
    cv::Mat aside;
    cv::rotate(small, aside, cv::ROTATE_90_CLOCKWISE);
    const std::vector<LinePicture> others = some_lines(aside);
    const std::array<double, 4> letters{upright.certain, letters_in(others, false, reader, settings).certain,
                                        letters_in(lines, true, reader, settings).certain,
                                        letters_in(others, true, reader, settings).certain};
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
