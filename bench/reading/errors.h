// Counts what a reading gets wrong.
#pragma once

#include <cmath>
#include <map>
#include <string>
#include <vector>

#include "base/edit_distance.h"
#include "base/text.h"
#include "reading/reader.h"

namespace fernleaf {

struct Bin {
    size_t count = 0;
    double certainty = 0, right = 0;
};

class Errors {
public:
    std::map<int, Bin> bins;  // of certainty, by tenths

    void add(const std::string& truth, const LineReading& reading) {
        std::string text;
        std::vector<std::string> read;
        for (const WordReading& w : reading.words) text += (text.empty() ? "" : " ") + w.text, read.push_back(w.text);
        add(truth, text);
        const auto meant = split(truth);
        if (meant.size() != read.size()) return;  // words can be compared one by one only when they are as many
        for (size_t i = 0; i < meant.size(); ++i) {
            const WordReading& w = reading.words[i];
            ++word_places_;
            bool there = w.text == meant[i];
            Bin& bin = bins[std::min(9, static_cast<int>(10 * w.certainty))];
            ++bin.count;
            bin.certainty += w.certainty;
            bin.right += there ? 1 : 0;
            for (size_t k = 0; k < std::min<size_t>(4, w.alternatives.size()); ++k)
                there |= w.alternatives[k].text == meant[i];
            in_top_five_ += there;
        }
    }
    void add(const std::string& truth, const std::string& text) {
        const std::u32string meant = decode_utf8(truth);
        characters_ += meant.size();
        character_errors_ += edit_distance(meant, decode_utf8(text));
        const auto words = split(truth);
        words_ += words.size();
        word_errors_ += edit_distance(words, split(text));
    }
    void add(const Errors& other) {
        characters_ += other.characters_, character_errors_ += other.character_errors_, words_ += other.words_,
            word_errors_ += other.word_errors_;
        in_top_five_ += other.in_top_five_, word_places_ += other.word_places_;
        for (const auto& [bin, v] : other.bins)
            bins[bin].count += v.count, bins[bin].certainty += v.certainty, bins[bin].right += v.right;
    }
    double cer() const { return share(character_errors_, characters_); }
    double wer() const { return share(word_errors_, words_); }
    double top() const { return share(in_top_five_, word_places_); }
    // Expected calibration error (Naeini, Cooper & Hauskrecht 2015) over equal bins of certainty.
    double certainty_gap() const {
        double gap = 0;
        for (const auto& [bin, v] : bins) gap += std::abs(v.certainty - v.right);
        return 100 * gap / static_cast<double>(std::max<size_t>(word_places_, 1));
    }

private:
    static double share(size_t part, size_t all) {
        return 100.0 * static_cast<double>(part) / static_cast<double>(std::max<size_t>(all, 1));
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

    size_t characters_ = 0, character_errors_ = 0, words_ = 0, word_errors_ = 0, in_top_five_ = 0, word_places_ = 0;
};

}  // namespace fernleaf
