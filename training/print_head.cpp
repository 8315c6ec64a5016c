// Trains what tells printed words from written ones (core/paper/print_teller.h): a logistic regression, by stochastic
// gradient descent, over what the line network sees in words.
//
//   print_head HANDS TEXTS OUT [HELD_HANDS]
//
// HANDS: a directory of hands to learn from (demo_hands.py --trained); TEXTS: a file of lines; OUT: the file to write,
// models/print.head. With HELD_HANDS, the share of words told right on those hands and on typefaces that were kept out.
#include <QGuiApplication>
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <opencv2/imgproc.hpp>

#include "bench/paper/sheets.h"
#include "paper/print_teller.h"
#include "paper/scan_lines.h"
#include "reading/models_directory.h"
#include "render/fonts.h"

using namespace fernleaf;

namespace {

const std::vector<std::string> kLearntFaces{"DejaVu Sans", "DejaVu Serif",     "C059",
                                            "P052",        "URW Gothic",       "Nimbus Mono PS",
                                            "Nimbus Sans", "DejaVu Sans Mono", "Noto Sans Mono"};
const std::vector<std::string> kHeldFaces{"Nimbus Roman", "URW Bookman", "Nimbus Sans Narrow", "Fernleaf Sans",
                                          "Fernleaf Serif"};
constexpr int kEpochs = 60;
constexpr double kRate = 0.05, kDecay = 1e-4;

struct Sample {
    std::vector<float> features;
    bool printed = false;
};

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

// Words of drawn pages, a page in each hand.
std::vector<Sample> samples_of(const std::vector<Hand>& hands, const std::vector<std::string>& faces,
                               const std::vector<std::string>& texts, const Reader& reader, unsigned seed) {
    std::vector<Sample> out;
    for (size_t i = 0; i < hands.size(); ++i) {
        std::mt19937 random(seed + static_cast<unsigned>(i));
        DrawnSheet sheet = draw_sheet(hands[i], texts, Content::both, random, faces);
        // As photographs and scans are: a little blurred, coarser or finer, noisy.
        cv::GaussianBlur(sheet.pixels, sheet.pixels, {}, 0.3 + 0.2 * static_cast<double>(random() % 8));
        const double scale = 0.6 + 0.1 * static_cast<double>(random() % 6);
        cv::resize(sheet.pixels, sheet.pixels, {}, scale, scale, cv::INTER_AREA);
        cv::Mat grain(sheet.pixels.size(), CV_16SC3), noisy;
        cv::RNG(random()).fill(grain, cv::RNG::NORMAL, 0, 1 + static_cast<double>(random() % 6));
        sheet.pixels.convertTo(noisy, CV_16SC3);
        noisy += grain;
        noisy.convertTo(sheet.pixels, CV_8UC3);
        for (const ScanLine& line : find_scan_lines(sheet.pixels)) {
            const double middle = (line.box_px.y + line.box_px.height / 2.0) / scale;
            const DrawnLine* truth = nullptr;
            for (const DrawnLine& drawn : sheet.lines)
                if (middle > drawn.box.top && middle < drawn.box.bottom) truth = &drawn;
            if (!truth || line.drawing) continue;
            cv::Mat features;
            const LineReading reading = reader.read(line.picture, {}, &features);
            for (const WordReading& word : reading.words)
                out.push_back({word_features(features, word), truth->printed});
        }
    }
    return out;
}

double dot(const std::vector<double>& weights, const std::vector<float>& x) {
    double sum = weights.back();
    for (size_t i = 0; i < x.size(); ++i) sum += weights[i] * static_cast<double>(x[i]);
    return sum;
}

}  // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QGuiApplication application(argc, argv);
    load_fonts();
    auto reader = Reader::load(models_directory());
    if (argc < 4 || !reader || !(*reader)->load_language("en")) {
        std::fprintf(stderr, "usage: print_head HANDS TEXTS OUT [HELD_HANDS]\n");
        return 2;
    }
    std::vector<std::string> texts;
    std::ifstream in(argv[2]);
    for (std::string line; std::getline(in, line);)
        if (!line.empty()) texts.push_back(line);
    const std::vector<Hand> hands = hands_in(argv[1]);
    if (hands.empty() || texts.empty()) return 1;
    std::vector<Sample> samples;
    for (unsigned pass = 0; pass < 3; ++pass)
        std::ranges::move(samples_of(hands, kLearntFaces, texts, **reader, 1000 * pass), std::back_inserter(samples));
    std::printf("%zu words to learn from\n", samples.size());

    // Channels of one size learn alike: each is scaled by its deviation, and the scale is folded into the weights.
    const size_t n = samples.front().features.size();
    std::vector<double> mean(n, 0), deviation(n, 0), weights(n + 1, 0);
    for (const Sample& s : samples)
        for (size_t i = 0; i < n; ++i)
            mean[i] += static_cast<double>(s.features[i]) / static_cast<double>(samples.size());
    for (const Sample& s : samples)
        for (size_t i = 0; i < n; ++i)
            deviation[i] +=
                std::pow(static_cast<double>(s.features[i]) - mean[i], 2) / static_cast<double>(samples.size());
    for (double& d : deviation) d = std::sqrt(d) + 1e-3;
    for (Sample& s : samples)
        for (size_t i = 0; i < n; ++i)
            s.features[i] = static_cast<float>((static_cast<double>(s.features[i]) - mean[i]) / deviation[i]);
    std::mt19937 random(1);
    for (int epoch = 0; epoch < kEpochs; ++epoch) {
        std::ranges::shuffle(samples, random);
        const double rate = kRate / (1 + epoch * 0.2);
        for (const Sample& s : samples) {
            const double off = (s.printed ? 1.0 : 0.0) - 1 / (1 + std::exp(-dot(weights, s.features)));
            for (size_t i = 0; i < n; ++i)
                weights[i] += rate * (off * static_cast<double>(s.features[i]) - kDecay * weights[i]);
            weights[n] += rate * off;
        }
    }
    for (size_t i = 0; i < n; ++i) weights[n] -= weights[i] * mean[i] / deviation[i], weights[i] /= deviation[i];
    std::ofstream out(argv[3]);
    out << "fernleaf print 1\n" << n << ' ' << weights[n] << '\n';
    for (size_t i = 0; i < n; ++i) out << weights[i] << (i % 8 == 7 ? '\n' : ' ');
    out << '\n';
    out.close();
    if (argc < 5) return 0;
    size_t right[2] = {0, 0}, all[2] = {0, 0};
    for (unsigned pass = 0; pass < 5; ++pass)
        for (const Sample& s : samples_of(hands_in(argv[4]), kHeldFaces, texts, **reader, 77000 + 100 * pass)) {
            ++all[s.printed];
            right[s.printed] += (dot(weights, s.features) > 0) == s.printed;
        }
    for (const bool printed : {false, true})
        std::printf("%s words: %zu of %zu told right (%.2f %%)\n", printed ? "printed" : "written", right[printed],
                    all[printed], 100.0 * static_cast<double>(right[printed]) / static_cast<double>(all[printed]));
    return 0;
}
