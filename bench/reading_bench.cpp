// Character and word error rates of the reader, by hand, and of the finding of lines on whole pages.
//
//   reading_bench                              the demo hands writing the demo's texts, and the demo's pages
//   reading_bench DIRECTORY [LINES]            every hand of a directory (training/demo_hands.py --all) writing the
//                                              sentences of DIRECTORY/lines.txt
#include <chrono>
#include <cstdio>
#include <fstream>
#include <map>
#include <set>

#include <opencv2/core.hpp>

#include "base/text.h"
#include "bench/figures.h"
#include "demo/demo_library.h"
#include "demo/hand.h"
#include "ink/grouping.h"
#include "reading/ink_reading.h"
#include "reading/models_directory.h"

using namespace fernleaf;

namespace {

struct Errors {
    size_t characters = 0, character_errors = 0, words = 0, word_errors = 0, in_top_five = 0, word_places = 0;
    double certainty_gap() const {
        // Expected calibration error (Naeini, Cooper & Hauskrecht 2015) over equal bins of certainty.
        double gap = 0;
        size_t all = 0;
        for (const auto& [bin, v] : bins_) all += v.count;
        for (const auto& [bin, v] : bins_)
            gap += std::abs(v.certainty - v.right) / static_cast<double>(std::max<size_t>(all, 1));
        return gap;
    }
    struct Bin {
        size_t count = 0;
        double certainty = 0, right = 0;
    };
    std::map<int, Bin> bins_;

    void add(const std::string& truth, const LineReading& reading) {
        std::string text;
        std::vector<std::string> read;
        for (const WordReading& w : reading.words) text += (text.empty() ? "" : " ") + w.text, read.push_back(w.text);
        const std::u32string a = decode_utf8(truth), b = decode_utf8(text);
        characters += a.size();
        character_errors += edit_distance(a, b);
        const auto meant = split(truth);
        words += meant.size();
        word_errors += edit_distance(meant, read);
        if (meant.size() != reading.words.size())
            return;  // words can be compared one by one only when they are as many
        for (size_t i = 0; i < meant.size(); ++i) {
            const WordReading& w = reading.words[i];
            ++word_places;
            bool there = w.text == meant[i];
            Bin& bin = bins_[std::min(9, static_cast<int>(10 * w.certainty))];
            ++bin.count;
            bin.certainty += w.certainty;
            bin.right += there ? 1 : 0;
            for (size_t k = 0; k < std::min<size_t>(4, w.alternatives.size()); ++k)
                there |= w.alternatives[k].text == meant[i];
            in_top_five += there;
        }
    }
    void add(const Errors& other) {
        characters += other.characters, character_errors += other.character_errors, words += other.words,
            word_errors += other.word_errors;
        in_top_five += other.in_top_five, word_places += other.word_places;
        for (const auto& [bin, v] : other.bins_)
            bins_[bin].count += v.count, bins_[bin].certainty += v.certainty, bins_[bin].right += v.right;
    }
    static std::vector<std::string> split(const std::string& text) {
        std::vector<std::string> out;
        for (size_t begin = 0; begin < text.size();) {
            const size_t end = std::min(text.find(' ', begin), text.size());
            if (end > begin) out.push_back(text.substr(begin, end - begin));
            begin = end + 1;
        }
        return out;
    }
    double cer() const {
        return 100.0 * static_cast<double>(character_errors) / static_cast<double>(std::max<size_t>(characters, 1));
    }
    double wer() const {
        return 100.0 * static_cast<double>(word_errors) / static_cast<double>(std::max<size_t>(words, 1));
    }
    double top() const {
        return 100.0 * static_cast<double>(in_top_five) / static_cast<double>(std::max<size_t>(word_places, 1));
    }
};

LinePicture picture_of(const std::vector<Stroke>& strokes) {
    std::vector<const Stroke*> pointers;
    for (const Stroke& s : strokes) pointers.push_back(&s);
    return draw_line(pointers, 0);
}

void table(const std::map<std::string, Hand>& hands, const std::vector<std::string>& texts, const Reader& reader) {
    std::printf("%-22s", "hand");
    const double leans[] = {0, 0.3, 0.6, 1};
    for (const double lean : leans) std::printf("   lean %.1f: CER   WER", lean);
    std::printf("   top 5   ECE   ms/line\n");
    std::map<double, Errors> all;
    double slow = 0;
    size_t lines = 0;
    for (const auto& [name, hand] : hands) {
        std::map<double, Errors> errors;
        double spent = 0;
        std::mt19937 random(7);
        for (const std::string& text : texts) {
            const LinePicture picture = picture_of(hand.write(text, {20, 30}, {}, random));
            if (picture.pixels.empty()) continue;
            for (const double lean : leans) {
                ReadSettings settings;
                settings.lean = lean;
                const auto began = std::chrono::steady_clock::now();
                const LineReading reading = reader.read(picture, settings);
                if (lean == 0.6)
                    spent +=
                        std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - began).count();
                errors[lean].add(text, reading);
            }
        }
        std::printf("%-22s", name.c_str());
        for (const double lean : leans) {
            std::printf("            %5.1f %5.1f", errors[lean].cer(), errors[lean].wer());
            all[lean].add(errors[lean]);
        }
        std::printf("   %5.1f %5.1f   %7.1f\n", errors[0.6].top(), 100 * errors[0.6].certainty_gap(),
                    spent / static_cast<double>(texts.size()));
        slow += spent, lines += texts.size();
    }
    std::printf("%-22s", "all");
    for (const double lean : leans) std::printf("            %5.1f %5.1f", all[lean].cer(), all[lean].wer());
    std::printf("   %5.1f %5.1f   %7.1f\n", all[0.6].top(), 100 * all[0.6].certainty_gap(),
                slow / static_cast<double>(lines));
}

// Pages of known lines: how many strokes come into the line they were written in, and how the page reads as a whole.
void pages(const std::map<std::string, Hand>& hands, const Reader& reader) {
    size_t strokes_right = 0, strokes_all = 0, characters = 0, errors = 0;
    for (const auto& [name, hand] : hands) {
        for (const DemoPage& page : *demo_texts()) {
            if (page.language != "en") continue;
            std::mt19937 random(11);
            std::vector<Stroke> strokes;
            std::vector<size_t> line_of;
            double y = 20;
            for (size_t l = 0; l < page.lines.size(); ++l, y += 8)
                for (Stroke& s : hand.write(page.lines[l], {20, y}, {}, random)) {
                    s.id = static_cast<StrokeId>(strokes.size()) + 1;
                    strokes.push_back(std::move(s));
                    line_of.push_back(l);
                }
            // A written line is matched with the found line that holds most of it.
            const auto groups = group_lines(strokes);
            std::map<size_t, std::map<size_t, size_t>> share;
            for (size_t g = 0; g < groups.size(); ++g)
                for (const size_t m : groups[g].members) ++share[line_of[m]][g];
            std::set<size_t> taken;
            for (const auto& [line, found] : share) {
                size_t best = 0, most = 0;
                for (const auto& [g, n] : found)
                    if (n > most && !taken.contains(g)) most = n, best = g;
                if (most > 0) taken.insert(best);
                strokes_right += most;
            }
            strokes_all += strokes.size();
            std::u32string read, truth;
            for (const std::string& line : page.lines) truth += decode_utf8(line) + U"\n";
            for (const ReadLine& line : read_ink(strokes, reader, {}, {}))
                if (!line.words.empty()) read += decode_utf8(line.text()) + U"\n";
            characters += truth.size();
            errors += edit_distance(truth, read);
        }
    }
    std::printf("strokes in the right line: %.2f %% of %zu; whole pages: CER %.1f %%\n",
                100.0 * static_cast<double>(strokes_right) / static_cast<double>(strokes_all), strokes_all,
                100.0 * static_cast<double>(errors) / static_cast<double>(characters));
}

}  // namespace

int main(int argc, char** argv) {
    cv::setNumThreads(1);
    const std::filesystem::path directory = argc > 1 ? argv[1] : std::string(FERNLEAF_SOURCE_DIR) + "/demo/hands";
    std::map<std::string, Hand> hands;
    for (const auto& entry : std::filesystem::directory_iterator(directory))
        if (entry.path().extension() == ".json") hands.emplace(entry.path().stem(), *Hand::load(entry.path()));
    std::vector<std::string> texts;
    if (argc > 1) {
        std::ifstream in(directory / "lines.txt");
        for (std::string line; std::getline(in, line);) texts.push_back(line);
    } else {
        for (const DemoPage& page : *demo_texts())
            if (page.language == "en") texts.insert(texts.end(), page.lines.begin(), page.lines.end());
    }
    if (argc > 2) texts.resize(std::min<size_t>(texts.size(), std::stoul(argv[2])));
    const auto reader = *Reader::load(models_directory());
    (void)static_cast<bool>(reader->load_language("en"));
    table(hands, texts, *reader);
    pages(hands, *reader);
}
