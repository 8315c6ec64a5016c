#include <chrono>
#include <cstdio>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include "bench/paper/sheets.h"
#include "bench/paper/tables.h"
#include "bench/reading/errors.h"
#include "demo/photo.h"
#include "paper/cleaning.h"
#include "paper/page_reading.h"
#include "paper/scan_lines.h"
#include "paper/sheet_finding.h"
#include "paper/straightening.h"

namespace fernleaf {
namespace {

constexpr int kLongSidePx = 4000;  // twelve megapixels, as telephones take them

std::string said(const cv::Mat& page, const Reader& reader) {
    std::string out;
    for (const ScanLine& line : find_scan_lines(page)) {
        if (line.drawing) continue;
        std::string text;
        for (const WordReading& word : reader.read(line.picture, {}).words)
            text += (text.empty() ? "" : " ") + word.text;
        out += text + ' ';
    }
    return out;
}

std::string truth_of(const DrawnSheet& sheet) {
    std::string out;
    for (const DrawnLine& line : sheet.lines) out += line.text + ' ';
    return out;
}

}  // namespace

void reading_table(const PaperBench& bench, const Reader& reader) {
    Errors flat, photographed;
    for (size_t i = 0; i < bench.count; ++i) {
        std::mt19937 random(bench.seed * 100000 + static_cast<unsigned>(i));
        const DrawnSheet sheet = draw_sheet(bench.hands[i % bench.hands.size()], bench.texts, Content::written, random);
        View view = any_view(random);
        view.long_side_px = kLongSidePx;
        view.fill = std::min(view.fill, 0.95);  // what is not in the picture can't be read
        const Photo photo = take_photo({sheet.pixels}, view, random);
        const std::string truth = truth_of(sheet);
        Errors one, seen;
        one.add(truth, said(sheet.pixels, reader));
        const std::vector<FoundSheet> found = find_sheets(photo.pixels, 1);
        cv::Mat page;
        if (!found.empty())
            page = straightened(photo.pixels, found[0].outline, flat_size(found[0].outline, photo.pixels.size()));
        seen.add(truth, found.empty() ? "" : said(page, reader));
        flat.add(one);
        photographed.add(seen);
        if (!bench.failures.empty()) {
            std::printf("%3zu tilt %.0f curl %.2f blur %.1f: flat %.1f, photographed %.1f; %d px\n", i, view.tilt_deg,
                        view.curl, view.blur_px, one.cer(), seen.cer(), page.cols);
            cv::imwrite((bench.failures / (std::to_string(i) + "_flat.png")).string(), sheet.pixels);
            if (!page.empty()) cv::imwrite((bench.failures / (std::to_string(i) + "_photo.png")).string(), page);
        }
    }
    std::printf("written pages: CER flat %.2f, photographed %.2f\n", flat.cer(), photographed.cer());
}

}  // namespace fernleaf
