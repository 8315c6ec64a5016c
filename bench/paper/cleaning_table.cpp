#include <chrono>
#include <cstdio>
#include <fstream>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include "bench/paper/colour_error.h"
#include "bench/paper/sheets.h"
#include "bench/paper/tables.h"
#include "bench/reading/errors.h"
#include "paper/cleaning.h"
#include "paper/ink_mask.h"
#include "paper/printed_text.h"
#include "paper/sheet_finding.h"
#include "paper/sheet_picture.h"
#include "paper/straightening.h"

namespace fernleaf {
namespace {

double peak_megabytes() {
    std::ifstream status("/proc/self/status");
    for (std::string line; std::getline(status, line);)
        if (line.starts_with("VmHWM:")) return std::stod(line.substr(6)) / 1024;
    return 0;
}

constexpr double kAboutStrokesMm = 0.8;  // as far as a page that was photographed may lie from what was drawn

cv::Mat about_strokes(const DrawnSheet& sheet, cv::Size size) {
    cv::Mat out(size, CV_8U, cv::Scalar(0));
    const double px = size.width / sheet.width_mm;
    for (const Stroke& s : sheet.strokes) {
        std::vector<cv::Point> line;
        for (const InkPoint& p : s.points)
            line.emplace_back(static_cast<int>(p.at.x * px), static_cast<int>(p.at.y * px));
        cv::polylines(out, std::vector{line}, false, cv::Scalar(255), static_cast<int>(2 * kAboutStrokesMm * px));
    }
    return out;
}

// How far the ink on a cleaned page is from the colour of its pen, in the mean over the middles of its strokes: places
// of ink that are farther from its border than those about them.
double ink_error(const cv::Mat& page, const DrawnSheet& sheet) {
    const InkMask found = ink_of_page(page);
    const cv::Mat drawn = about_strokes(sheet, found.dark.size());
    cv::Mat ink(found.dark.size(), CV_8U, cv::Scalar(0)), inside, farthest;
    for (const InkPiece& piece : found.pieces) ink(piece.box).setTo(255, found.labels(piece.box) == piece.label);
    cv::distanceTransform(ink, inside, cv::DIST_L2, 5);
    cv::dilate(inside, farthest, cv::getStructuringElement(cv::MORPH_RECT, {3, 3}));
    double sum = 0, count = 0;
    for (int y = 0; y < ink.rows; ++y)
        for (int x = 0; x < ink.cols; ++x) {
            if (ink.at<uchar>(y, x) == 0 || drawn.at<uchar>(y, x) == 0 ||
                inside.at<float>(y, x) < farthest.at<float>(y, x))
                continue;
            // The mask may be smaller than the page: its middle is right within a pixel.
            cv::Vec3b c(255, 255, 255);
            const cv::Point at(x * page.cols / ink.cols, y * page.rows / ink.rows);
            for (const cv::Point off : {cv::Point(0, 0), {-1, 0}, {1, 0}, {0, -1}, {0, 1}}) {
                const cv::Point p = at + off;
                if (!cv::Rect({}, page.size()).contains(p)) continue;
                const auto v = page.at<cv::Vec3b>(p);
                if (v[0] + v[1] + v[2] < c[0] + c[1] + c[2]) c = v;
            }
            const uint32_t rgb = static_cast<uint32_t>(c[2]) << 16 | static_cast<uint32_t>(c[1]) << 8 | c[0];
            sum += colour_error(lab_of(rgb), lab_of(sheet.ink)), ++count;
        }
    return sum / std::max(1.0, count);
}

std::string read_all(const cv::Mat& page, const Reader& reader) {
    std::string out;
    for (const AnyLineReading& line : read_scanned(scan_page(page), reader, nullptr, {}))
        for (const WordReading& word : line.line.words) out += word.text + ' ';
    return out;
}

}  // namespace

void cleaning_table(const PaperBench& bench, const Reader& reader) {
    const int threads = cv::getNumThreads();
    double finding = 0, laying = 0, cleaning = 0, flat_colour = 0, photo_colour = 0, reading = 0;
    size_t photographs = 0, pages = 0, lines = 0;
    Errors with_rules, without_rules;
    using Clock = std::chrono::steady_clock;
    const auto seconds = [](Clock::time_point a, Clock::time_point b) {
        return std::chrono::duration<double>(b - a).count();
    };
    for (size_t i = bench.first; i < bench.count; ++i) {
        std::mt19937 random(bench.seed * 100000 + static_cast<unsigned>(i));
        const DrawnSheet sheet = draw_sheet(bench.hands[i % bench.hands.size()], bench.texts, Content::written, random);
        if (sheet.strokes.empty()) continue;
        const cv::Mat photo = photographed(sheet.pixels, *bench.camera, random).photo.pixels;
        cv::setNumThreads(1);
        const auto a = Clock::now();
        const std::vector<FoundSheet> found = find_sheets(photo, 1);
        const auto b = Clock::now();
        if (!found.empty()) {
            const cv::Mat flat = straightened(photo, found[0].outline, flat_size(found[0].outline, photo.size()));
            const auto c = Clock::now();
            const cv::Mat clean = cleaned(flat, Look::clean);
            const auto d = Clock::now();
            finding += seconds(a, b), laying += seconds(b, c), cleaning += seconds(c, d);
            const double error = ink_error(clean, sheet);
            photo_colour += error;
            if (!bench.failures.empty()) {
                std::printf("%3zu colour error photographed %.1f, of the ink %06X\n", i, error, sheet.ink);
                const std::string name = "cleaned" + std::to_string(i);
                cv::imwrite((bench.failures / (name + ".png")).string(), clean);
                cv::imwrite((bench.failures / (name + "_laid.png")).string(), flat);
                cv::imwrite((bench.failures / (name + "_drawn.png")).string(), about_strokes(sheet, flat.size()));
            }
            ++photographs;
        }
        cv::setNumThreads(threads);
        const std::string truth = truth_of(sheet);
        Treatment plain, bare;
        plain.look = bare.look = Look::clean;
        bare.without_rules = true;
        const cv::Mat kept = treated(sheet.pixels, plain);
        flat_colour += ink_error(kept, sheet);
        const auto e = Clock::now();
        const std::string of_kept = read_all(kept, reader);
        reading += seconds(e, Clock::now());
        with_rules.add(truth, of_kept);
        lines += sheet.lines.size();
        const cv::Mat without = treated(sheet.pixels, bare);
        const std::string of_bare = read_all(without, reader);
        without_rules.add(truth, of_bare);
        if (!bench.failures.empty()) {
            Errors kept_alone, bare_alone;
            kept_alone.add(truth, of_kept), bare_alone.add(truth, of_bare);
            std::printf("%3zu CER %.2f, rules painted over %.2f\n", i, kept_alone.cer(), bare_alone.cer());
            cv::imwrite((bench.failures / ("bare" + std::to_string(i) + ".png")).string(), without);
        }
        ++pages;
    }
    const auto n = static_cast<double>(std::max<size_t>(1, photographs)),
               m = static_cast<double>(std::max<size_t>(1, pages));
    std::printf(
        "twelve megapixels, one thread: found in %.2f s, straightened in %.2f, cleaned in %.2f; the whole process, "
        "with "
        "making the photographs, took %.0f MB at its peak\n",
        finding / n, laying / n, cleaning / n, peak_megabytes());
    std::printf("ink against its pen, CIEDE2000: flat pages %.1f, photographed %.1f\n", flat_colour / m,
                photo_colour / n);
    std::printf("CER of cleaned flat pages %.2f, with rules and holes painted over %.2f\n", with_rules.cer(),
                without_rules.cer());
    std::printf("a page of 25 written lines read in %.2f s\n",
                reading * 25 / static_cast<double>(std::max<size_t>(1, lines)));
}

}  // namespace fernleaf
