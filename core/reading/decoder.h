// From the network's scores to text: CTC prefix beam search with a character model and word bonuses.
//
// Graves & Jaitly 2014 and Hannun et al. 2014 ("First-pass large vocabulary continuous speech recognition using
// bi-directional recurrent DNNs") for the prefix beam; the language's share is chosen per character, so that digits,
// codes and capitals lean on what was seen. Of several languages, each has a share that grows with how well it
// language_log_prob the text so far and is evened out a little at every space (a mixture of experts, updated by Bayes'
// rule).
#pragma once

#include <opencv2/core.hpp>
#include <string>
#include <unordered_set>
#include <vector>

#include "reading/alphabet.h"
#include "reading/language.h"

namespace fernleaf {

constexpr size_t kMostLanguages = 4;  // in one reading

// Words spelt as the alphabet has it.
using WordList = std::unordered_set<std::u32string>;

struct DecoderSettings {
    std::vector<const Language*> languages;  // a word may be of any of these, kMostLanguages at most; none: literal
    const WordList* words = nullptr;         // a person's or notebook's own words
    double language_weight = 0.5;            // 0 literal to 1 strong
    int beam = 24;
};

struct Hypothesis {
    std::u32string text;
    double score = 0;  // natural logarithm, network and language together
};

// The best readings, best first, at most the beam's width. scores: rows of log-probabilities as Network gives them.
// before, after: text that stands in front and behind, for the language's context; of what stands behind some letters
// are enough.
std::vector<Hypothesis> decode(const cv::Mat& scores, const Alphabet& alphabet, const DecoderSettings& settings,
                               const std::u32string& before = {}, const std::u32string& after = {});

// The time steps at which each character of a text is seen best (Viterbi alignment): first and one past the last step
// in which it is active. Empty when the text can't be fitted into the steps.
struct Span {
    int begin = 0;
    int end = 0;
};
std::vector<Span> align(const cv::Mat& scores, const Alphabet& alphabet, const std::u32string& text);

}  // namespace fernleaf
