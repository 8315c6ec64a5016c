// A notebook of two hundred pages, read as the background reader does: page after page on one thread.
#include <chrono>
#include <cstdio>
#include <fstream>
#include <random>
#include <string>

#include "bench/reading/tables.h"
#include "reading/ink_reading.h"

namespace fernleaf {
namespace {

constexpr size_t kPages = 200;
constexpr size_t kLinesOfPage = 20;

// Memory of this process in MB, as the system counts it: now ("VmRSS:") or at most ("VmHWM:").
double memory_mb(const std::string& which) {
    std::ifstream status("/proc/self/status");
    for (std::string word; status >> word;)
        if (double kb = 0; word == which && status >> kb) return kb / 1024;
    return 0;
}

}  // namespace

void notebook_table(const Hands& hands, const std::vector<std::string>& texts, const Reader& reader) {
    if (hands.empty() || texts.empty()) return;
    const double before_mb = memory_mb("VmRSS:");
    size_t lines = 0, words = 0, characters = 0;
    double seconds = 0;
    auto hand = hands.begin();
    for (size_t page = 0; page < kPages; ++page) {
        std::mt19937 random(static_cast<unsigned>(page));
        std::vector<Stroke> strokes;
        for (size_t i = 0; i < kLinesOfPage; ++i) {
            const Point at{20, 20 + 9.0 * static_cast<double>(i)};
            for (Stroke& s : hand->second.write(texts[(page * 7 + i) % texts.size()], at, {}, random))
                strokes.push_back(std::move(s));
        }
        if (++hand == hands.end()) hand = hands.begin();
        for (size_t i = 0; i < strokes.size(); ++i) strokes[i].id = static_cast<StrokeId>(i) + 1;
        const auto began = std::chrono::steady_clock::now();
        const std::vector<ReadLine> read = read_ink(strokes, reader, {}, {});
        seconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
        lines += read.size();
        for (const ReadLine& line : read)
            for (const ReadWord& word : line.words) ++words, characters += word.text.size();
    }
    std::printf(
        "\n%zu pages: %zu lines, %zu words, %.1f characters a line; %.1f s on one thread, %.1f ms a line; memory "
        "%.0f MB before, %.0f MB at most\n",
        kPages, lines, words, static_cast<double>(characters) / static_cast<double>(lines), seconds,
        1000 * seconds / static_cast<double>(lines), before_mb, memory_mb("VmHWM:"));
}

}  // namespace fernleaf
