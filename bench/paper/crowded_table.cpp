#include <array>
#include <cstdio>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include "bench/paper/things.h"
#include "exchange/plain_text.h"
#include "paper/page_reading.h"
#include "paper/scan_lines.h"

namespace fernleaf {
namespace {

constexpr std::array<double, 6> kPitchesMm{8, 9, 10, 12, 14, 16};
constexpr double kXHeightMm = 2.5;
constexpr int kLines = 12;
constexpr double kPxPerMm = 200 / 25.4;

struct Crowded {
    std::vector<Stroke> strokes;
    std::string truth;
    cv::Mat pixels;
};

// Ascenders and tails that many times as long.
void lengthen(std::vector<Stroke>& strokes, double baseline, double times) {
    for (Stroke& stroke : strokes)
        for (InkPoint& p : stroke.points.change()) {
            const double above = baseline - kXHeightMm - p.at.y, below = p.at.y - baseline;
            if (above > 0) p.at.y -= (times - 1) * above;
            if (below > 0) p.at.y += (times - 1) * below;
        }
}

Crowded draw_page(const Hand& hand, const std::vector<std::string>& texts, size_t first, double pitch_mm, double times,
                  std::mt19937& random) {
    Crowded out;
    const cv::Size size(static_cast<int>(210 * kPxPerMm), static_cast<int>((pitch_mm * (kLines + 2)) * kPxPerMm));
    out.pixels = cv::Mat(size, CV_8UC3, cv::Scalar(244, 248, 249));
    WritingStyle style;
    style.x_height_mm = kXHeightMm;
    style.pen.width_mm = 0.35F;
    style.pen.colour = 0x1E2A44;
    int lines = 0;
    for (size_t next = first; lines < kLines && next < first + texts.size(); ++next) {
        const std::string& text = texts[next % texts.size()];
        if (!hand.can_write(text)) continue;
        const double baseline = pitch_mm * (lines + 1.5);
        std::vector<Stroke> strokes = hand.write(text, {16, baseline}, style, random);
        lengthen(strokes, baseline, times);
        Box box;
        for (const Stroke& s : strokes) box.include(s.box());
        if (box.empty() || box.right > 204) continue;
        draw_ink(out.pixels, strokes, kPxPerMm);
        out.strokes.insert(out.strokes.end(), strokes.begin(), strokes.end());
        out.truth += text + ' ';
        ++lines;
    }
    return out;
}

void crowded_table(const PaperBench& bench, const Reader& reader, double times) {
    std::printf(
        "CER by the distance of lines (mm) at an x-height of %.1f mm, ascenders and tails %.1f times as long: ink / "
        "flat "
        "picture; share of ink read\n",
        kXHeightMm, times);
    std::array<Errors, kPitchesMm.size()> ink_all, flat_all;
    for (size_t h = 0; h < bench.hands.size(); ++h) {
        std::printf("hand %2zu", h);
        for (size_t p = 0; p < kPitchesMm.size(); ++p) {
            std::mt19937 random(bench.seed * 1000 + static_cast<unsigned>(h));
            const Crowded page =
                draw_page(bench.hands[h], bench.texts, random() % bench.texts.size(), kPitchesMm[p], times, random);
            Errors ink, flat;
            const Reading read{read_ink(page.strokes, reader, {}, {})};
            std::string text;
            for (const ReadLine& line : read.lines)
                for (const ReadWord& word : line.words) text += word.text + ' ';
            ink.add(page.truth, text);
            const ScannedPage scanned = scan_page(page.pixels);
            if (!bench.failures.empty() && ink.cer() > 5)
                std::fprintf(stderr, "ink %zu at %.0f mm\n  %s\n  %s\n", h, kPitchesMm[p], page.truth.c_str(),
                             text.c_str());
            text.clear();
            for (const AnyLineReading& line : read_scanned(scanned, reader, nullptr, {}))
                for (const WordReading& word : line.line.words) text += word.text + ' ';
            flat.add(page.truth, text);
            std::printf("  %4.0f: %4.1f / %4.1f %5.1f", kPitchesMm[p], ink.cer(), flat.cer(),
                        ink_share(scanned).percent());
            ink_all[p].add(ink), flat_all[p].add(flat);
            if (!bench.failures.empty() && flat.cer() > 5) {
                const std::string name =
                    "crowded" + std::to_string(h) + "_" + std::to_string(static_cast<int>(kPitchesMm[p]));
                cv::imwrite((bench.failures / (name + ".png")).string(), page.pixels);
                std::fprintf(stderr, "%s\n  %s\n  %s\n", name.c_str(), page.truth.c_str(), text.c_str());
            }
        }
        std::printf("\n");
        std::fflush(stdout);
    }
    std::printf("all    ");
    for (size_t p = 0; p < kPitchesMm.size(); ++p)
        std::printf("  %4.0f: %4.1f / %4.1f      ", kPitchesMm[p], ink_all[p].cer(), flat_all[p].cer());
    std::printf("\n");
}

}  // namespace

void crowded_table(const PaperBench& bench, const Reader& reader) {
    for (const double times : {1.0, 1.7}) crowded_table(bench, reader, times);
}

}  // namespace fernleaf
