#include "reading/reader.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include "base/text.h"
#include "reading/number_layout.h"
#include "reading/teaching.h"

namespace fernleaf {
namespace {

constexpr size_t kMostAlternatives = 6;
constexpr double kLeastAlternative = 1e-4;
constexpr int kWordMarginSteps = 1;
constexpr double kClearLine = 0.45;   // evidence: nearly all written lines have more
constexpr double kSurer = 4;          // times
constexpr size_t kLettersBehind = 6;  // of a word that tell of it: as far as the languages' models reach
constexpr std::string_view kNgrams = ".ngrams.gz";

struct WordSpan {
    std::u32string text;
    size_t first = 0;  // characters of the line
    size_t last = 0;   // one past
};

std::vector<WordSpan> split(const std::u32string& text) {
    std::vector<WordSpan> words;
    for (size_t i = 0; i < text.size(); ++i) {
        if (text[i] == U' ') continue;
        if (words.empty() || words.back().last != i) words.push_back({{}, i, i});
        words.back().text.push_back(text[i]);
        words.back().last = i + 1;
    }
    return words;
}

// The logarithm of a symbol's probability where it is seen best.
double seen_at_best(const cv::Mat& scores, const Span& span, int symbol) {
    float best = std::numeric_limits<float>::lowest();
    for (int t = span.begin; t < span.end; ++t) best = std::max(best, scores.at<float>(t, symbol));
    return best;
}

std::u32string trimmed_spaces(std::u32string text) {
    while (!text.empty() && text.back() == U' ') text.pop_back();
    text.erase(0, std::min(text.find_first_not_of(U' '), text.size()));
    return text;
}

// The texts of hypotheses with their shares of the whole probability, equal texts put together.
std::vector<Alternative> shares(const std::vector<Hypothesis>& hypotheses) {
    std::vector<Alternative> out;
    double total = 0;
    for (const Hypothesis& h : hypotheses) {
        const std::string text = encode_utf8(composed(trimmed_spaces(h.text)));
        const double weight = std::exp(h.score - hypotheses.front().score);
        total += weight;
        if (text.empty()) continue;
        const auto same = std::ranges::find(out, text, &Alternative::text);
        if (same != out.end())
            same->certainty += weight;
        else
            out.push_back({text, weight});
    }
    for (Alternative& a : out) a.certainty /= total;
    std::ranges::stable_sort(out, std::greater{}, &Alternative::certainty);
    return out;
}

}  // namespace

Result<std::unique_ptr<Reader>> Reader::load(const std::filesystem::path& models) {
    auto network = Network::load(models);
    if (!network) return network.error();
    return std::unique_ptr<Reader>(new Reader(*std::move(network), models));
}

Status Reader::load_language(const std::string& code) {
    if (ready_.contains(code)) return Done{};
    auto language = Language::load(models_ / "language", code);
    if (!language) return language.error();
    ready_.emplace(code, *std::move(language));
    return Done{};
}

std::vector<std::string> Reader::languages() const {
    std::vector<std::string> codes;
    std::error_code ignored;
    for (const auto& entry : std::filesystem::directory_iterator(models_ / "language", ignored))
        if (const std::string name = entry.path().filename(); name.ends_with(kNgrams))
            codes.push_back(name.substr(0, name.size() - kNgrams.size()));
    std::ranges::sort(codes);
    return codes;
}

ReadSettings Reader::prepared(const Preferences& preferences) {
    ReadSettings settings;
    settings.languages = preferences.languages;
    settings.language_weight = preferences.language_weight;
    settings.words = preferences.words;
    settings.working = preferences.working;
    for (const std::string& code : preferences.languages)
        (void)static_cast<bool>(load_language(code));  // without its data, reading is literal
    if (preferences.hand != newest_hand_bytes_) {
        newest_hand_.reset();
        newest_hand_bytes_ = preferences.hand;
        if (auto made = hand(preferences.hand)) newest_hand_ = *std::move(made);
    }
    settings.hand = newest_hand_;
    return settings;
}

bool Reader::knows(const std::vector<std::string>& languages, const std::string& word) const {
    const std::u32string spelt = network_->alphabet().spelt(decode_utf8(word));
    return std::ranges::any_of(languages, [&](const std::string& code) {
        const auto language = ready_.find(code);
        return language != ready_.end() && language->second.knows(spelt);
    });
}

Result<std::shared_ptr<const AdaptedModel>> Reader::hand(const std::string& bytes) const {
    const auto head = decode_head(bytes, *network_->weights());
    if (!head) return head.error();
    auto network = Network::make(with_head(*network_->weights(), *head));
    if (!network) return network.error();
    auto made = std::make_shared<AdaptedModel>();
    made->network = *std::move(network);
    made->id = std::hash<std::string>{}(bytes);
    return std::shared_ptr<const AdaptedModel>(std::move(made));
}

double certainty_of(const std::vector<WordReading>& words) {
    if (words.empty()) return 0;
    double sum = 0;
    for (const WordReading& word : words) sum += std::log(std::max(word.certainty, 1e-3));
    return std::exp(sum / static_cast<double>(words.size()));
}

namespace {

// How clearly the letters of a text are seen where they stand: the geometric mean of their probabilities.
double evidence_of(const cv::Mat& scores, const Alphabet& alphabet, const std::u32string& text,
                   const std::vector<Span>& spans) {
    double all_seen = 0;
    size_t letters = 0;
    for (size_t c = 0; c < text.size(); ++c)
        if (text[c] != U' ') all_seen += seen_at_best(scores, spans[c], alphabet.symbol(text[c])), ++letters;
    return letters == 0 ? 0 : std::exp(all_seen / static_cast<double>(letters));
}

}  // namespace

LineReading Reader::read(const LinePicture& line, const ReadSettings& settings, cv::Mat* seen) const {
    LineReading reading;
    if (line.pixels.empty()) return reading;
    const Network& network = settings.hand ? *settings.hand->network : *network_;
    const cv::Mat scores = network.log_probabilities(line.pixels, seen);
    const Alphabet& alphabet = network_->alphabet();

    DecoderSettings decoder;
    for (const std::string& code : settings.languages)
        if (const auto language = ready_.find(code); language != ready_.end())
            decoder.languages.push_back(&language->second);
    WordList own_words;
    for (const std::string& word : settings.words) own_words.insert(alphabet.spelt(decode_utf8(word)));
    decoder.words = &own_words;
    decoder.language_weight = settings.language_weight;
    std::u32string text;
    std::vector<Span> spans;
    const auto spell = [&] {
        const std::vector<Hypothesis> best = decode(scores, alphabet, decoder);
        text = best.empty() ? U"" : trimmed_spaces(best.front().text);
        spans = align(scores, alphabet, text);
        if (std::u32string numbers = laid_out(line.pixels, scores, alphabet, text, spans); numbers != text)
            text = std::move(numbers), spans = align(scores, alphabet, text);
    };
    spell();
    // Of what the language makes of it: letter by letter anything looks like something.
    reading.evidence = spans.empty() ? 0 : evidence_of(scores, alphabet, text, spans);
    // Where the picture says nothing the language would run on: only what is seen is spelt then.
    const DecoderSettings leaning = decoder;
    const bool unclear = reading.evidence < kClearLine && decoder.language_weight > 0;
    if (unclear) {
        decoder.languages.clear(), decoder.words = nullptr;
        spell();
    }
    if (spans.empty()) return reading;

    const std::vector<WordSpan> words = split(text);
    // Where one word ends and the next begins, in time steps.
    std::vector<int> borders{0};
    for (size_t w = 1; w < words.size(); ++w)
        borders.push_back(widest_gap(line.pixels, spans[words[w - 1].last - 1].begin, spans[words[w].first].end));
    borders.push_back(scores.rows);
    for (size_t w = 0; w < words.size(); ++w) {
        const WordSpan& word = words[w];
        const int first = std::max(0, std::min(borders[w], spans[word.first].begin - kWordMarginSteps));
        const int last = std::min(scores.rows, std::max(borders[w + 1], spans[word.last - 1].end + kWordMarginSteps));
        const cv::Mat part = scores.rowRange(first, last);

        WordReading out;
        out.text = encode_utf8(composed(word.text));
        out.begin = borders[w] * kColumnsPerStep;
        out.end = borders[w + 1] * kColumnsPerStep;
        out.alternatives =
            shares(decode(part, alphabet, decoder, text.substr(0, word.first), text.substr(word.last, kLettersBehind)));
        // What was seen, letter by letter, is always among the alternatives.
        DecoderSettings literal;
        literal.beam = 4;
        const auto plain = decode(part, alphabet, literal);
        const std::string spelt = plain.empty() ? "" : encode_utf8(composed(trimmed_spaces(plain.front().text)));

        auto own = std::ranges::find(out.alternatives, out.text, &Alternative::text);
        // Looked at by itself a word may be so much surer to be another that the line's beam must have lost it.
        if (!out.alternatives.empty()) {
            const Alternative& surest = out.alternatives.front();
            const double certainty = own == out.alternatives.end() ? kLeastAlternative : own->certainty;
            if (surest.certainty > kSurer * certainty && surest.text.find(' ') == std::string::npos)
                out.text = surest.text, own = out.alternatives.begin();
        }
        if (own != out.alternatives.end()) {
            out.certainty = own->certainty;
            out.alternatives.erase(own);
        }
        const auto unlikely = [](const Alternative& a) { return a.certainty < kLeastAlternative; };
        std::erase_if(out.alternatives, unlikely);
        const size_t most = unclear ? kMostAlternatives / 2 : kMostAlternatives;
        if (out.alternatives.size() > most) out.alternatives.resize(most);
        if (!spelt.empty() && spelt != out.text &&
            std::ranges::find(out.alternatives, spelt, &Alternative::text) == out.alternatives.end())
            out.alternatives.push_back({spelt, kLeastAlternative});
        // What the language would make of it can be chosen.
        if (unclear)
            for (const Alternative& other : shares(decode(part, alphabet, leaning)))
                if (out.alternatives.size() < kMostAlternatives && other.text != out.text &&
                    std::ranges::find(out.alternatives, other.text, &Alternative::text) == out.alternatives.end())
                    out.alternatives.push_back({other.text, kLeastAlternative});
        reading.words.push_back(std::move(out));
    }
    reading.certainty = certainty_of(reading.words);
    // Where the picture says little, the languages' readings of it compete among themselves only.
    const double doubt = std::min(1.0, std::pow(reading.evidence / kClearLine, 2));
    for (WordReading& word : reading.words) {
        word.certainty *= doubt;
        for (Alternative& other : word.alternatives) other.certainty *= doubt;
    }
    reading.certainty *= doubt;
    return reading;
}

}  // namespace fernleaf
