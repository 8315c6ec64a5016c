#include <chrono>
#include <cstdio>
#include <fstream>
#include <opencv2/imgproc.hpp>

#include "bench/paper/colour_error.h"
#include "bench/paper/sheets.h"
#include "bench/paper/tables.h"
#include "bench/reading/errors.h"
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

// How far the ink on a cleaned page is from the colour of its pen: the darkest pixel about each point of the strokes,
// in the middle of all.
double ink_error(const cv::Mat& page, const DrawnSheet& sheet) {
    const double px = page.cols / sheet.width_mm;
    std::vector<double> errors;
    for (const Stroke& s : sheet.strokes)
        for (const InkPoint& p : s.points) {
            const cv::Rect about =
                cv::Rect(static_cast<int>(p.at.x * px) - 2, static_cast<int>(p.at.y * px) - 2, 5, 5) &
                cv::Rect({}, page.size());
            if (about.empty()) continue;
            cv::Vec3b darkest(255, 255, 255);
            for (int y = about.y; y < about.br().y; ++y)
                for (int x = about.x; x < about.br().x; ++x)
                    if (const cv::Vec3b c = page.at<cv::Vec3b>(y, x);
                        c[0] + c[1] + c[2] < darkest[0] + darkest[1] + darkest[2])
                        darkest = c;
            const uint32_t rgb =
                static_cast<uint32_t>(darkest[2]) << 16 | static_cast<uint32_t>(darkest[1]) << 8 | darkest[0];
            errors.push_back(colour_error(lab_of(rgb), lab_of(s.pen.colour)));
        }
    double sum = 0;
    for (const double e : errors) sum += e;
    return errors.empty() ? 0 : sum / static_cast<double>(errors.size());
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
    for (size_t i = 0; i < bench.count; ++i) {
        std::mt19937 random(bench.seed * 100000 + static_cast<unsigned>(i));
        const DrawnSheet sheet = draw_sheet(bench.hands[i % bench.hands.size()], bench.texts, Content::written, random);
        if (sheet.strokes.empty()) continue;
        const cv::Mat photo = photographed(sheet, random).pixels;
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
            photo_colour += ink_error(clean, sheet);
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
        with_rules.add(truth, read_all(kept, reader));
        reading += seconds(e, Clock::now());
        lines += sheet.lines.size();
        without_rules.add(truth, read_all(treated(sheet.pixels, bare), reader));
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
