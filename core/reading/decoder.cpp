#include "reading/decoder.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <deque>
#include <limits>
#include <utility>
#include <vector>

#include "base/text.h"

namespace fernleaf {
namespace {

constexpr double kNever = -std::numeric_limits<double>::infinity();
constexpr float kLeastLogProbability = -7.5F;  // symbols less likely than this at a step are not tried
constexpr float kClearBlank = -0.002F;         // steps at which nothing but the blank is worth trying

// At full lean; the default lean of 0.6 gives what measured best on three hands kept out of training, see
// docs/reading.md.
constexpr double kLanguageWeight = 1.2;
constexpr double kLengthBonus = 4.25;  // for each character, against the language's taste for short texts
constexpr double kWordBonus = 1.56;
constexpr double kStrangeWordCost = 2.0;  // for words in no list
constexpr double kOwnWordBonus = 3.5;     // for words of a person's own lists, at any lean above 0
constexpr double kOtherLanguage = 0.2;    // how much of the languages' shares is dealt anew after a word
constexpr double kCapitalsCost = 5.0;     // for a word in capitals
constexpr double kDigitShare = 0.61;      // of the language's weight, for characters that are no matter of language

// A text read so far, as a chain of characters back to the line's start.
struct Prefix {
    const Prefix* parent = nullptr;
    int symbol = 0;
    std::array<Language::Context, kMostLanguages> contexts{};
    std::array<double, kMostLanguages> shares{};  // of the languages
    double bonus = 0;                             // language and words, up to and with this character
    bool word_open = false;                       // the last characters form a word that has not been looked up
    std::vector<Prefix*> children;                // few: only symbols likely at the steps it was in the beam
    int step = -1;                                // in the beam after this step …
    size_t place = 0;                             // … at this place
};

// Probabilities of the ways to read a prefix, as multiples of the search's scale.
struct Paths {
    double blank = 0;  // all ways that end in a blank
    double other = 0;  // … in the last character
    double total() const { return blank + other; }
};

struct Entry {
    Prefix* prefix = nullptr;
    Paths paths;
    double worth = kNever;
};

class Search {
public:
    Search(const cv::Mat& scores, const Alphabet& alphabet, const DecoderSettings& settings)
        : scores_(scores), alphabet_(alphabet), settings_(settings) {}

    std::vector<Hypothesis> run(const std::u32string& before, const std::u32string& after) {
        Prefix& root = prefixes_.emplace_back();
        for (size_t k = 0; k < languages(); ++k) {
            root.contexts[k] = settings_.languages[k]->start();
            root.shares[k] = 1.0 / static_cast<double>(languages());
        }
        for (const char32_t c : before) language_log_prob(root, c);
        beam_ = {{&root, {1, 0}}};
        for (int t = 0; t < scores_.rows; ++t) advance(t);
        std::vector<Hypothesis> out;
        for (const Entry& e : beam_)
            out.push_back({text(*e.prefix), std::log(e.paths.total()) + log_scale_ + e.prefix->bonus +
                                                closing_bonus(*e.prefix) + bonus_of(*e.prefix, after)});
        std::ranges::sort(out, std::greater{}, &Hypothesis::score);
        return out;
    }

private:
    size_t languages() const { return std::min(settings_.languages.size(), kMostLanguages); }

    // Natural logarithm of the probability that the languages give the next character, which becomes part of the
    // prefix's context.
    double language_log_prob(Prefix& prefix, char32_t c) const {
        if (languages() == 1) return settings_.languages[0]->step(prefix.contexts[0], c);
        double sum = 0;
        for (size_t k = 0; k < languages(); ++k) {
            prefix.shares[k] *= std::exp(settings_.languages[k]->step(prefix.contexts[k], c));
            sum += prefix.shares[k];
        }
        const double even = 1.0 / static_cast<double>(languages());
        const double dealt = c == U' ' ? kOtherLanguage : 0;
        for (size_t k = 0; k < languages(); ++k) prefix.shares[k] = (1 - dealt) * prefix.shares[k] / sum + dealt * even;
        return std::log(sum);
    }

    // The paths of a prefix after this step, none yet when it was not met before.
    Paths& after(int step, Prefix& prefix) {
        if (prefix.step != step) {
            prefix.step = step;
            prefix.place = next_.size();
            next_.push_back({&prefix, {}});
        }
        return next_[prefix.place].paths;
    }

    void advance(int step) {
        const float* row = scores_.ptr<float>(step);
        candidates_.clear();
        if (row[0] < kClearBlank)
            for (int s = 1; s < alphabet_.size(); ++s)
                if (row[s] > kLeastLogProbability) candidates_.push_back({s, std::exp(static_cast<double>(row[s]))});
        const double blank = std::exp(static_cast<double>(row[0]));
        next_.clear();
        for (const Entry& e : beam_) {
            const double total = e.paths.total();
            const int last = e.prefix->symbol;
            Paths& stay = after(step, *e.prefix);
            stay.blank += total * blank;
            if (last != 0) stay.other += e.paths.other * std::exp(static_cast<double>(row[last]));
            for (const auto& [s, probability] : candidates_) {
                // The same character again needs a blank between.
                const double way = (s == last ? e.paths.blank : total) * probability;
                if (way > 0) after(step, child(*e.prefix, s)).other += way;
            }
        }
        keep_best();
    }

    // The beam of the next step, scaled so that its most probable prefix has probability 1.
    void keep_best() {
        for (Entry& e : next_) e.worth = std::log(e.paths.total()) + e.prefix->bonus;
        if (const auto width = static_cast<size_t>(settings_.beam); next_.size() > width) {
            std::ranges::nth_element(next_, next_.begin() + settings_.beam, std::greater{}, &Entry::worth);
            next_.resize(width);
        }
        double most = 0;
        for (const Entry& e : next_) most = std::max(most, e.paths.total());
        for (Entry& e : next_) {
            e.paths.blank /= most;
            e.paths.other /= most;
        }
        log_scale_ += std::log(most);
        std::swap(beam_, next_);
    }

    Prefix& child(Prefix& parent, int symbol) {
        const auto known = std::ranges::find(parent.children, symbol, &Prefix::symbol);
        if (known != parent.children.end()) return **known;
        Prefix& fresh = prefixes_.emplace_back();
        parent.children.push_back(&fresh);
        fresh.parent = &parent;
        fresh.symbol = symbol;
        fresh.bonus = parent.bonus;
        fresh.contexts = parent.contexts;
        fresh.shares = parent.shares;
        score(fresh);
        return fresh;
    }

    void score(Prefix& prefix) {
        const char32_t c = alphabet_.character(prefix.symbol);
        const bool letter = is_letter(c) || is_mark(c) || c == U'\'';
        prefix.word_open = letter;
        if (languages() == 0) return;
        // A word in capitals is language_log_prob as if it were in small letters; that it is in capitals costs once.
        const char32_t before = prefix.parent->symbol == 0 ? U' ' : alphabet_.character(prefix.parent->symbol);
        const bool in_capitals = is_upper(c) && is_upper(before);
        double language = language_log_prob(prefix, in_capitals ? lower(c) : c);
        if (in_capitals && !third_capital(prefix)) language -= kCapitalsCost;
        const double share = in_code(prefix) ? kDigitShare : 1.0;
        prefix.bonus += settings_.language_weight * share * (kLanguageWeight * std::max(language, -9.0) + kLengthBonus);
        if (!letter && prefix.parent->word_open) prefix.bonus += word_bonus(*prefix.parent);
    }

    // Whether a capital follows two others.
    bool third_capital(const Prefix& prefix) const {
        const Prefix* two_before = prefix.parent->parent;
        return two_before && two_before->symbol != 0 && is_upper(alphabet_.character(two_before->symbol));
    }

    // Digits and signs, and capitals within a word. A digit after a small letter, or a small letter after a digit, is
    // far more often a misread letter than a code: there the language keeps its whole say.
    bool in_code(const Prefix& prefix) const {
        const char32_t c = alphabet_.character(prefix.symbol);
        if (c == U' ') return false;
        const char32_t b = prefix.parent->symbol == 0 ? U' ' : alphabet_.character(prefix.parent->symbol);
        if (is_digit(c)) return !(is_letter(b) || is_mark(b)) || is_upper(b);
        if (is_mark(c)) return false;
        if (!is_letter(c)) return true;
        return is_upper(c) && b != U' ' && !is_upper(b);
    }

    std::u32string last_word(const Prefix& prefix) const {
        std::u32string word;
        for (const Prefix* p = &prefix; p->symbol != 0 && p->word_open; p = p->parent)
            word.push_back(alphabet_.character(p->symbol));
        std::ranges::reverse(word);
        return word;
    }

    double word_bonus(const Prefix& prefix) const {
        const std::u32string word = last_word(prefix);
        if (settings_.words && settings_.words->contains(word))
            return settings_.language_weight > 0 ? kOwnWordBonus : 0;
        if (languages() == 0) return 0;
        const bool known =
            std::ranges::any_of(settings_.languages, [&](const Language* language) { return language->knows(word); });
        return settings_.language_weight * (known ? kWordBonus : -kStrangeWordCost);
    }

    // What the languages say of a text that follows.
    double bonus_of(const Prefix& prefix, const std::u32string& after) const {
        if (languages() == 0) return 0;
        Prefix last;
        last.contexts = prefix.contexts, last.shares = prefix.shares;
        double sum = 0;
        for (const char32_t c : after) sum += std::max(language_log_prob(last, c), -9.0);
        return settings_.language_weight * kLanguageWeight * sum;
    }

    double closing_bonus(const Prefix& prefix) const {
        return languages() > 0 && prefix.word_open ? word_bonus(prefix) : 0;
    }

    std::u32string text(const Prefix& prefix) const {
        std::u32string out;
        for (const Prefix* p = &prefix; p->symbol != 0; p = p->parent) out.push_back(alphabet_.character(p->symbol));
        std::ranges::reverse(out);
        return out;
    }

    const cv::Mat& scores_;
    const Alphabet& alphabet_;
    const DecoderSettings& settings_;
    std::deque<Prefix> prefixes_;
    std::vector<Entry> beam_;
    std::vector<Entry> next_;
    double log_scale_ = 0;                            // natural logarithm of what the beam's paths are multiples of
    std::vector<std::pair<int, double>> candidates_;  // symbols worth trying at a step, and their probabilities
};

}  // namespace

std::vector<Hypothesis> decode(const cv::Mat& scores, const Alphabet& alphabet, const DecoderSettings& settings,
                               const std::u32string& before, const std::u32string& after) {
    return Search(scores, alphabet, settings).run(before, after);
}

std::vector<Span> align(const cv::Mat& scores, const Alphabet& alphabet, const std::u32string& text) {
    std::vector<int> states{0};  // blank, character, blank, …
    for (const char32_t c : text) states.push_back(alphabet.symbol(c)), states.push_back(0);
    const int count = static_cast<int>(states.size());
    const int steps = scores.rows;
    if (text.empty() || steps == 0) return {};
    cv::Mat_<float> best(steps, count, -1e30F);
    cv::Mat_<uchar> moved(steps, count, uchar{0});
    best(0, 0) = scores.at<float>(0, states[0]);
    best(0, 1) = scores.at<float>(0, states[1]);
    for (int t = 1; t < steps; ++t) {
        for (int s = 0; s < count; ++s) {
            float value = best(t - 1, s);
            uchar move = 0;
            if (s > 0 && best(t - 1, s - 1) > value) value = best(t - 1, s - 1), move = 1;
            const bool skip = s > 1 && states[s] != 0 && states[s] != states[s - 2];
            if (skip && best(t - 1, s - 2) > value) value = best(t - 1, s - 2), move = 2;
            best(t, s) = value + scores.at<float>(t, states[s]);
            moved(t, s) = move;
        }
    }
    int s = best(steps - 1, count - 1) > best(steps - 1, count - 2) ? count - 1 : count - 2;
    if (best(steps - 1, s) < -1e29F) return {};
    std::vector<Span> spans(text.size(), {steps, 0});
    for (int t = steps - 1; t >= 0; --t) {
        if (s % 2 == 1) {
            Span& span = spans[static_cast<size_t>(s / 2)];
            span.begin = t;
            span.end = std::max(span.end, t + 1);
        }
        s -= moved(t, s);
    }
    return spans;
}

}  // namespace fernleaf
