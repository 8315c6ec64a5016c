#include <unistd.h>

#include <array>
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <fstream>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include "bench/paper/things.h"
#include "paper/cleaning.h"
#include "paper/page_reading.h"
#include "paper/scan_lines.h"

namespace fernleaf {
namespace {

struct PageSaid {
    InkShare ink;
    std::string text;
    std::vector<std::pair<cv::Rect, bool>> words;  // where, and whether taken for print
};

PageSaid said(const cv::Mat& page, const Reader& reader, PrintSkills& print) {
    PageSaid out;
    const ScannedPage scanned = scan_page(page);
    out.ink = ink_share(scanned);
    const std::vector<AnyLineReading> readings = read_scanned(scanned, reader, &print, {});
    for (size_t at = 0; at < scanned.lines.size(); ++at) {
        const ScanLine& line = scanned.lines[at];
        const AnyLineReading& reading = readings[at];
        for (size_t i = 0; i < reading.line.words.size(); ++i) {
            const WordReading& word = reading.line.words[i];
            const ScanSpan span = span_of(line, word);
            out.text += word.text + ' ';
            out.words.push_back({cv::Rect(static_cast<int>(span.begin), line.box_px.y,
                                          static_cast<int>(span.end - span.begin), line.box_px.height),
                                 reading.printed[i]});
        }
    }
    return out;
}

// The whole page read by the program tesseract; nothing where it is not installed.
std::string tesseract_alone(const cv::Mat& page) {
    const std::filesystem::path folder = std::filesystem::temp_directory_path();
    const std::string out = (folder / ("fernleaf-page-" + std::to_string(getpid()))).string(), in = out + ".png";
    cv::imwrite(in, page);
    if (std::system(("OMP_THREAD_LIMIT=1 tesseract " + in + " " + out + " >/dev/null 2>&1").c_str()) != 0) return {};
    std::ifstream text(out + ".txt");
    std::string all;
    for (std::string word; text >> word;) all += word + ' ';
    for (const std::string& file : {in, out + ".txt"}) std::filesystem::remove(file);
    return all;
}

std::string said_together(const std::vector<std::string>& traits) {
    std::string out;
    for (const std::string& trait : traits) out += ", " + trait;
    return out;
}

}  // namespace

void reading_table(const PaperBench& bench, const Reader& reader, PrintSkills& print) {
    const std::array<const char*, 3> names{"written", "printed", "both by turns"};
    for (const Content content : {Content::written, Content::printed, Content::both}) {
        Errors flat, photographed, alone;
        InkShare flat_ink, photographed_ink;
        size_t words = 0, told = 0;
        double seconds = 0;
        for (size_t i = bench.first; i < bench.count; ++i) {
            std::mt19937 random(bench.seed * 100000 + static_cast<unsigned>(i));
            const DrawnSheet sheet = draw_sheet(bench.hands[i % bench.hands.size()], bench.texts, content, random);
            const PhotographedPage photo = found_in_photograph(sheet.pixels, *bench.camera, random);
            const std::string truth = truth_of(sheet);
            Errors one, seen;
            const auto begin = std::chrono::steady_clock::now();
            const PageSaid on_flat = said(sheet.pixels, reader, print);
            seconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
            one.add(truth, on_flat.text);
            // Which kind each word is, on the flat page, where its place is known.
            size_t page_words = 0, page_told = 0;
            for (const auto& [box, printed] : on_flat.words)
                for (const DrawnLine& line : sheet.lines)
                    if (line.box.contains({box.x + box.width / 2.0, box.y + box.height / 2.0})) {
                        ++page_words;
                        page_told += printed == line.printed;
                        break;
                    }
            words += page_words, told += page_told;
            const bool there = !photo.page.empty();
            const PageSaid on_photo = there ? said(photo.page, reader, print) : PageSaid();
            seen.add(truth, on_photo.text);
            flat_ink.add(on_flat.ink), photographed_ink.add(on_photo.ink);
            if (there) alone.add(truth, tesseract_alone(photo.page));
            flat.add(one);
            photographed.add(seen);
            if (!bench.failures.empty()) {
                std::printf("%3zu %s%s: flat %.1f, photographed %.1f; %zu of %zu words told; %d px\n", i,
                            photo.shot.ground.c_str(), said_together(photo.shot.traits).c_str(), one.cer(), seen.cer(),
                            page_told, page_words, photo.page.cols);
                cv::imwrite((bench.failures /
                             (std::string(names[static_cast<size_t>(content)]) + std::to_string(i) + "_taken.jpg"))
                                .string(),
                            photo.shot.photo.pixels);
                const std::string name = std::string(names[static_cast<size_t>(content)]) + std::to_string(i);
                cv::imwrite((bench.failures / (name + "_flat.png")).string(), sheet.pixels);
                if (there) cv::imwrite((bench.failures / (name + "_photo.png")).string(), photo.page);
            }
        }
        std::printf(
            "%-14s CER flat %.2f, photographed %.2f; tesseract alone on the straightened %.2f; kinds told right %.2f "
            "%% of %zu words; ink in lines %.2f / %.2f %%; %.2f s a flat page\n",
            names[static_cast<size_t>(content)], flat.cer(), photographed.cer(), alone.cer(),
            100.0 * static_cast<double>(told) / static_cast<double>(std::max<size_t>(words, 1)), words,
            flat_ink.percent(), photographed_ink.percent(), seconds / static_cast<double>(bench.count - bench.first));
    }
}

}  // namespace fernleaf
