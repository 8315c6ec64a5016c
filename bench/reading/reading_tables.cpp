#include <algorithm>
#include <chrono>
#include <cstdio>
#include <random>

#include "base/text.h"
#include "bench/reading/errors.h"
#include "bench/reading/tables.h"
#include "reading/ctc.h"
#include "reading/teaching.h"

namespace fernleaf {
namespace {

const double kDefaultLean = ReadSettings{}.language_weight;

std::string greedy(const Network& network, const cv::Mat& pixels) {
    std::u32string text;
    for (const int s : ctc_greedy(network.log_probabilities(pixels))) text.push_back(network.alphabet().character(s));
    return trimmed(encode_utf8(composed(text)));
}

void calibration(const Errors& errors) {
    std::printf("\ncertainty    words    of them right\n");
    for (const auto& [bin, v] : errors.bins)
        std::printf("%.1f to %.1f  %7zu    %5.1f %% (said %.1f %%)\n", bin / 10.0, (bin + 1) / 10.0, v.count,
                    100 * v.right / static_cast<double>(v.count), 100 * v.certainty / static_cast<double>(v.count));
}

}  // namespace

LinePicture written(const Hand& hand, const std::string& text, unsigned seed) {
    if (!hand.can_write(text)) return {};
    std::mt19937 random(seed);
    const std::vector<Stroke> strokes = hand.write(text, {20, 30}, {}, random);
    std::vector<const Stroke*> pointers;
    for (const Stroke& s : strokes) pointers.push_back(&s);
    return draw_line(pointers, 0);
}

void hands_table(const Hands& hands, const std::vector<std::string>& texts, const Reader& reader) {
    const double leans[] = {0, 0.3, kDefaultLean, 1};
    std::printf("%-20s  greedy CER   WER", "hand");
    for (const double language_weight : leans) std::printf("   lean %.1f CER   WER", language_weight);
    std::printf("   top 5   ECE   ms/line\n");
    std::map<double, Errors> all;
    Errors all_greedy;
    double all_spent = 0;
    size_t all_lines = 0;
    const auto row = [&](const std::string& name, const Errors& plain, std::map<double, Errors>& errors, double ms) {
        std::printf("%-20s       %5.1f %5.1f", name.c_str(), plain.cer(), plain.wer());
        for (const double language_weight : leans)
            std::printf("          %5.1f %5.1f", errors[language_weight].cer(), errors[language_weight].wer());
        std::printf("   %5.1f %5.1f   %7.1f\n", errors[kDefaultLean].top(), errors[kDefaultLean].certainty_gap(), ms);
        std::fflush(stdout);
    };
    for (const auto& [name, hand] : hands) {
        std::map<double, Errors> errors;
        Errors plain;
        double spent = 0;
        size_t lines = 0;
        for (size_t i = 0; i < texts.size(); ++i) {
            const LinePicture picture = written(hand, texts[i], static_cast<unsigned>(i));
            if (picture.pixels.empty()) continue;
            plain.add(texts[i], greedy(reader.network(), picture.pixels));
            for (const double language_weight : leans) {
                ReadSettings settings;
                settings.language_weight = language_weight;
                const auto began = std::chrono::steady_clock::now();
                const LineReading reading = reader.read(picture, settings);
                const std::chrono::duration<double, std::milli> took = std::chrono::steady_clock::now() - began;
                if (language_weight == kDefaultLean) spent += took.count();
                errors[language_weight].add(texts[i], reading);
            }
            ++lines;
        }
        if (lines == 0) continue;
        row(name, plain, errors, spent / static_cast<double>(lines));
        for (const double language_weight : leans) all[language_weight].add(errors[language_weight]);
        all_greedy.add(plain);
        all_spent += spent, all_lines += lines;
    }
    row("all", all_greedy, all, all_spent / static_cast<double>(std::max<size_t>(all_lines, 1)));
    calibration(all[kDefaultLean]);
}

void language_table(const Hands& hands, const Texts& texts, const Reader& reader) {
    std::printf("\nlanguage  hands  lines   greedy CER   WER    decoded CER   WER    beside English CER   WER\n");
    Errors sums[3];
    for (const auto& [code, lines] : texts) {
        Errors plain, own, mixed;
        size_t writers = 0, count = 0;
        for (const auto& [name, hand] : hands) {
            size_t mine = 0;
            for (size_t i = 0; i < lines.size(); ++i) {
                const LinePicture picture = written(hand, lines[i], static_cast<unsigned>(i));
                if (picture.pixels.empty()) continue;
                ReadSettings settings;
                settings.languages = {code};
                plain.add(lines[i], greedy(reader.network(), picture.pixels));
                own.add(lines[i], reader.read(picture, settings));
                settings.languages = {code, "en"};
                if (code != "en") mixed.add(lines[i], reader.read(picture, settings));
                ++mine;
            }
            writers += mine > 0;
            count += mine;
        }
        std::printf("%-8s  %5zu  %5zu        %5.1f %5.1f         %5.1f %5.1f                %5.1f %5.1f\n",
                    code.c_str(), writers, count, plain.cer(), plain.wer(), own.cer(), own.wer(), mixed.cer(),
                    mixed.wer());
        std::fflush(stdout);
        sums[0].add(plain), sums[1].add(own), sums[2].add(mixed);
    }
    std::printf("all                           %5.1f %5.1f         %5.1f %5.1f                %5.1f %5.1f\n",
                sums[0].cer(), sums[0].wer(), sums[1].cer(), sums[1].wer(), sums[2].cer(), sums[2].wer());
}

void literal_table(const Hands& hands, const std::vector<std::string>& texts, const Reader& reader) {
    const double leans[] = {0, 0.2, kDefaultLean, 1};
    std::printf("\nnames and codes     ");
    for (const double language_weight : leans) std::printf("   lean %.1f CER   WER", language_weight);
    std::printf("\n");
    std::map<double, Errors> all;
    const auto row = [&](const std::string& name, std::map<double, Errors>& errors) {
        std::printf("%-20s", name.c_str());
        for (const double language_weight : leans)
            std::printf("          %5.1f %5.1f", errors[language_weight].cer(), errors[language_weight].wer());
        std::printf("\n");
        std::fflush(stdout);
    };
    for (const auto& [name, hand] : hands) {
        std::map<double, Errors> errors;
        for (size_t i = 0; i < texts.size(); ++i)
            if (const LinePicture picture = written(hand, texts[i], static_cast<unsigned>(i)); !picture.pixels.empty())
                for (const double language_weight : leans) {
                    ReadSettings settings;
                    settings.language_weight = language_weight;
                    errors[language_weight].add(texts[i], reader.read(picture, settings));
                }
        row(name, errors);
        for (const double language_weight : leans) all[language_weight].add(errors[language_weight]);
    }
    row("all", all);
}

void boxes_table(const Hands& hands, const std::vector<std::string>& texts, const Reader& reader) {
    std::vector<double> errors;  // in widths of a letter
    for (const auto& [name, hand] : hands)
        for (size_t i = 0; i < texts.size(); ++i) {
            std::mt19937 random(static_cast<unsigned>(i));
            WritingStyle style;
            const std::string& text = texts[i];
            std::vector<Stroke> strokes;
            std::vector<Box> boxes;  // of the words as written
            Point at{20, 30};
            for (size_t begin = 0; begin < text.size();) {
                const size_t end = std::min(text.find(' ', begin), text.size());
                Box box;
                for (Stroke& s : hand.write(text.substr(begin, end - begin), at, style, random)) {
                    box.include(s.box());
                    strokes.push_back(std::move(s));
                }
                begin = end + 1;
                if (box.empty()) continue;
                boxes.push_back(box);
                at.x = box.right + style.x_height_mm;
            }
            std::vector<const Stroke*> pointers;
            for (const Stroke& s : strokes) pointers.push_back(&s);
            const LinePicture picture = draw_line(pointers, 0);
            const LineReading reading = reader.read(picture, {});
            if (reading.words.size() != boxes.size()) continue;
            for (size_t w = 0; w < boxes.size(); ++w) {
                const double letter = boxes[w].width() / static_cast<double>(reading.words[w].text.size());
                // Half the gap belongs to each neighbour: only what cuts into ink is an error.
                errors.push_back(std::max(0.0, picture.source_x(reading.words[w].begin) - boxes[w].left) / letter);
                errors.push_back(std::max(0.0, boxes[w].right - picture.source_x(reading.words[w].end)) / letter);
            }
        }
    if (errors.empty()) return;
    std::ranges::sort(errors);
    const auto at = [&](double share) {
        return errors[static_cast<size_t>(share * static_cast<double>(errors.size() - 1))];
    };
    std::printf(
        "\nborders of words: %zu, beyond their ink's edge in widths of a letter: median %.2f, 95 %% %.2f, 99 %% %.2f; "
        "over half a letter %.2f %%\n",
        errors.size(), at(0.5), at(0.95), at(0.99),
        100.0 * static_cast<double>(std::ranges::count_if(errors, [](double e) { return e > 0.5; })) /
            static_cast<double>(errors.size()));
}

void teaching_table(const Hands& hands, const std::vector<std::string>& texts, const Reader& reader) {
    // The first lines teach, the others are read; then the hand so learnt reads the lines of the next two hands.
    constexpr size_t kMostTaught = 30;
    constexpr size_t kOthersLines = 10;
    if (texts.size() <= kMostTaught) return;
    std::printf(
        "\ntaught lines          0: CER   WER      10: CER   WER      30: CER   WER    seconds    others, 0: CER   30: "
        "CER\n");
    Errors all[3], others_before, others_after;
    const std::vector<Example> rehearsal = *reader.rehearsal();
    for (auto it = hands.begin(); it != hands.end(); ++it) {
        const Hand& hand = it->second;
        std::vector<Example> examples;
        for (size_t i = 0; i < kMostTaught; ++i)
            if (LinePicture p = written(hand, texts[i], static_cast<unsigned>(i)); !p.pixels.empty())
                examples.push_back({p.pixels, texts[i]});
        Errors errors[3];
        double seconds = 0;
        Errors before, after;
        const size_t counts[] = {0, 10, kMostTaught};
        for (size_t k = 0; k < 3; ++k) {
            ReadSettings settings;
            if (counts[k] > 0) {
                const std::vector<Example> lesson(
                    examples.begin(),
                    examples.begin() + static_cast<std::ptrdiff_t>(std::min(counts[k], examples.size())));
                const auto began = std::chrono::steady_clock::now();
                const auto taught = teach(reader.network(), lesson, rehearsal);
                seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
                if (taught && taught->better())
                    settings.hand = *reader.hand(encode_head(taught->head, *reader.network().weights()));
            }
            for (size_t i = kMostTaught; i < texts.size(); ++i)
                if (const LinePicture p = written(hand, texts[i], static_cast<unsigned>(i)); !p.pixels.empty())
                    errors[k].add(texts[i], reader.read(p, settings));
            all[k].add(errors[k]);
            if (counts[k] == 10) continue;
            auto other = it;
            for (int n = 0; n < 2; ++n) {
                if (++other == hands.end()) other = hands.begin();
                for (size_t i = kMostTaught; i < std::min(texts.size(), kMostTaught + kOthersLines); ++i)
                    if (const LinePicture p = written(other->second, texts[i], static_cast<unsigned>(i));
                        !p.pixels.empty())
                        (k == 0 ? before : after).add(texts[i], reader.read(p, settings));
            }
        }
        std::printf("%-20s  %5.1f %5.1f         %5.1f %5.1f         %5.1f %5.1f    %7.1f             %5.1f     %5.1f\n",
                    it->first.c_str(), errors[0].cer(), errors[0].wer(), errors[1].cer(), errors[1].wer(),
                    errors[2].cer(), errors[2].wer(), seconds, before.cer(), after.cer());
        std::fflush(stdout);
        others_before.add(before), others_after.add(after);
    }
    std::printf("%-20s  %5.1f %5.1f         %5.1f %5.1f         %5.1f %5.1f                        %5.1f     %5.1f\n",
                "all", all[0].cer(), all[0].wer(), all[1].cer(), all[1].wer(), all[2].cer(), all[2].wer(),
                others_before.cer(), others_after.cer());
}

}  // namespace fernleaf
