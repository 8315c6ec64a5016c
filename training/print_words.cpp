// Gathers words, written and printed, as the line network sees them, for training/print_head.py to learn telling one
// from the other.
//
//   print_words HANDS TEXTS OUT [learnt|held] [PASSES]
//
// HANDS: a directory of hands (demo_hands.py --trained, or held ones); TEXTS: a file of lines; OUT: a file of words,
// each as in Word below. "held" prints in the typefaces that are kept out of learning.
#include <QFontInfo>
#include <QGuiApplication>
#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <opencv2/imgproc.hpp>

#include "bench/paper/sheets.h"
#include "demo/photo.h"
#include "paper/print_teller.h"
#include "paper/scan_lines.h"
#include "paper/straightening.h"
#include "reading/models_directory.h"
#include "render/fonts.h"

using namespace fernleaf;

namespace {

// All are packages of Debian. None is a near relative of one that is held.
const std::vector<std::string> kLearntFaces{"DejaVu Sans",
                                            "DejaVu Serif",
                                            "C059",
                                            "P052",
                                            "URW Gothic",
                                            "Nimbus Mono PS",
                                            "Nimbus Sans",
                                            "DejaVu Sans Mono",
                                            "Noto Sans Mono",
                                            "Liberation Sans",
                                            "EB Garamond",
                                            "Carlito",
                                            "Caladea",
                                            "Linux Libertine O",
                                            "Roboto",
                                            "Open Sans",
                                            "Lato",
                                            "Cantarell",
                                            "Courier Prime",
                                            "GFS Didot",
                                            "Inconsolata",
                                            "Old Standard TT",
                                            "Gentium",
                                            "Charis SIL",
                                            "Junicode Two Beta",
                                            "Quicksand",
                                            "Comfortaa",
                                            "Linux Biolinum O",
                                            "Roboto Condensed",
                                            "Open Sans Condensed"};

std::vector<Hand> hands_in(const std::filesystem::path& directory) {
    std::vector<std::filesystem::path> files;
    for (const auto& entry : std::filesystem::directory_iterator(directory))
        if (entry.path().extension() == ".json") files.push_back(entry.path());
    std::ranges::sort(files);
    std::vector<Hand> out;
    for (const auto& file : files)
        if (auto hand = Hand::load(file)) out.push_back(*std::move(hand));
    return out;
}

struct Word {
    cv::Mat columns;  // CV_16F, one row a column of the network, one column a channel
    bool printed = false;
    int32_t hand = 0;                                             // of the page: its place among them
    std::array<int32_t, kOffsetClasses * kOffsetBins> offsets{};  // how many pieces stand so: by place_of
};

// As scans are: a little blurred, coarser or finer, noisy.
cv::Mat scanned(const cv::Mat& sheet, std::mt19937& random) {
    cv::Mat blurred, out;
    cv::GaussianBlur(sheet, blurred, {}, 0.3 + 0.2 * static_cast<double>(random() % 8));
    const double scale = 0.6 + 0.1 * static_cast<double>(random() % 6);
    cv::resize(blurred, out, {}, scale, scale, cv::INTER_AREA);
    cv::Mat grain(out.size(), CV_16SC3), noisy;
    cv::RNG(random()).fill(grain, cv::RNG::NORMAL, 0, 1 + static_cast<double>(random() % 6));
    out.convertTo(noisy, CV_16SC3);
    noisy += grain;
    noisy.convertTo(out, CV_8UC3);
    return out;
}

// As a telephone takes it, straightened again.
cv::Mat photographed(const cv::Mat& sheet, std::mt19937& random) {
    View view = any_view(random);
    view.long_side_px = 2400 + static_cast<int>(random() % 1600);
    view.curl = 0, view.torn = false;
    view.fill = std::min(view.fill, 0.95);
    const Photo photo = take_photo({sheet}, view, random);
    const SheetOutline outline{photo.sheets.front().corners, {}};
    const double aspect = static_cast<double>(sheet.cols) / sheet.rows;
    return straightened(photo.pixels, outline, flat_size(outline, photo.pixels.size(), aspect));
}

// Words of drawn pages, a page in each hand.
void gather(const std::vector<Hand>& hands, const std::vector<std::string>& faces,
            const std::vector<std::string>& texts, const Reader& reader, unsigned seed, std::vector<Word>& out) {
    for (size_t i = 0; i < hands.size(); ++i) {
        std::mt19937 random(seed + static_cast<unsigned>(i));
        const DrawnSheet sheet = draw_sheet(hands[i], texts, Content::both, random, faces);
        const cv::Mat page = random() % 2 == 0 ? scanned(sheet.pixels, random) : photographed(sheet.pixels, random);
        const double scale = static_cast<double>(page.rows) / sheet.pixels.rows;
        const ScannedPage scan = scan_page(page);
        for (const ScanLine& line : scan.lines) {
            const double middle = (line.box_px.y + line.box_px.height / 2.0) / scale;
            const DrawnLine* truth = nullptr;
            for (const DrawnLine& drawn : sheet.lines)
                if (middle > drawn.box.top && middle < drawn.box.bottom) truth = &drawn;
            if (!truth || line.drawing) continue;
            cv::Mat seen;
            const std::vector<WordReading> words = reader.read(line.picture, {}, &seen).words;
            const std::vector<std::vector<BaselineOffset>> offsets = offsets_about_words(scan, line, words);
            for (size_t w = 0; w < words.size(); ++w) {
                Word one{{}, truth->printed, static_cast<int32_t>(i), {}};
                word_rows(seen, words[w]).convertTo(one.columns, CV_16F);
                for (const BaselineOffset& offset : offsets[w]) {
                    const cv::Point at = place_of(offset);
                    ++one.offsets[static_cast<size_t>(at.y * kOffsetBins + at.x)];
                }
                out.push_back(std::move(one));
            }
        }
    }
}

void save(const std::vector<Word>& words, const std::filesystem::path& file) {
    std::ofstream out(file, std::ios::binary);
    for (const Word& word : words) {
        const std::array<int32_t, 4> head{word.printed ? 1 : 0, word.hand, word.columns.rows, word.columns.cols};
        out.write(reinterpret_cast<const char*>(head.data()), sizeof head);
        out.write(reinterpret_cast<const char*>(word.offsets.data()), sizeof word.offsets);
        out.write(reinterpret_cast<const char*>(word.columns.data),
                  static_cast<std::streamsize>(word.columns.total() * word.columns.elemSize()));
    }
}

}  // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QGuiApplication application(argc, argv);
    load_fonts();
    auto reader = Reader::load(models_directory());
    if (argc < 4 || !reader || !(*reader)->load_language("en")) {
        std::fprintf(stderr, "usage: print_words HANDS TEXTS OUT [learnt|held] [PASSES]\n");
        return 2;
    }
    std::vector<std::string> texts;
    std::ifstream in(argv[2]);
    for (std::string line; std::getline(in, line);)
        if (!line.empty()) texts.push_back(line);
    const std::vector<Hand> hands = hands_in(argv[1]);
    if (hands.empty() || texts.empty()) return 1;
    const bool held = argc > 4 && std::string(argv[4]) == "held";
    const unsigned passes = argc > 5 ? static_cast<unsigned>(std::stoul(argv[5])) : 4;
    for (const std::string& face : kLearntFaces)
        if (!held && !QFontInfo(QFont(QString::fromStdString(face))).family().startsWith(QString::fromStdString(face)))
            std::fprintf(stderr, "the typeface %s is not installed\n", face.c_str());
    std::vector<Word> words;
    for (unsigned pass = 0; pass < passes; ++pass) {
        gather(hands, held ? kUsualFaces : kLearntFaces, texts, **reader, (held ? 77000 : 0) + 1000 * pass, words);
        std::fprintf(stderr, "pass %u: %zu words\n", pass + 1, words.size());
    }
    save(words, argv[3]);
    return 0;
}
