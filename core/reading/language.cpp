#include "reading/language.h"

#include <cmath>
#include <cstring>
#include <fstream>
#include <iterator>

#include "base/text.h"

namespace fernleaf {
namespace {

constexpr char kMagic[] = "fernleaf ngrams 1\n";
constexpr double kQuantum = 16.0;                // steps of 1/16 in the natural logarithm
constexpr uint64_t kContextMask = 0xFFFFFFFFFF;  // five symbols
constexpr double kUnknown = -12;
constexpr size_t kCodePoints = 0x2100;

uint64_t hashed(uint64_t key) { return key * 0x9E3779B97F4A7C15U >> 20; }
double probability(uint64_t entry) { return -static_cast<double>(entry >> 8 & 0xFF) / kQuantum; }
double back_off(uint64_t entry) { return -static_cast<double>(entry & 0xFF) / kQuantum; }

}  // namespace

Result<Language> Language::load(const std::filesystem::path& directory, const std::string& code) {
    const auto path = directory / (code + ".ngrams");
    std::ifstream in(path, std::ios::binary);
    if (!in) return Error{"There is no language data for \"" + code + "\" in " + directory.string() + "."};
    const std::string bytes(std::istreambuf_iterator<char>(in), {});
    const Error damaged{"The language data " + path.string() + " is damaged."};
    const size_t header = sizeof kMagic - 1;
    const size_t line_end = bytes.find('\n', header);
    if (bytes.compare(0, header, kMagic) != 0 || line_end == std::string::npos ||
        (bytes.size() - line_end - 1) % 8 != 0)
        return damaged;

    Language language;
    language.alphabet_ = decode_utf8(bytes.substr(header, line_end - header));
    language.symbols_.assign(kCodePoints, 0);
    for (size_t i = 0; i < language.alphabet_.size(); ++i)
        if (language.alphabet_[i] < kCodePoints) language.symbols_[language.alphabet_[i]] = static_cast<int>(i) + 1;
    const size_t count = (bytes.size() - line_end - 1) / 8;
    size_t slots = 16;
    while (slots < 2 * count) slots *= 2;
    language.table_.assign(slots, 0);
    language.mask_ = slots - 1;
    for (size_t i = 0; i < count; ++i) {
        uint64_t entry = 0;
        std::memcpy(&entry, bytes.data() + line_end + 1 + 8 * i, 8);
        if (entry == 0) return damaged;
        uint64_t slot = hashed(entry >> 16) & language.mask_;
        while (language.table_[slot] != 0) slot = (slot + 1) & language.mask_;
        language.table_[slot] = entry;
    }

    std::ifstream words(directory / (code + ".words"));
    if (!words) return Error{"The word list " + (directory / (code + ".words")).string() + " is missing."};
    for (std::string word; std::getline(words, word);)
        if (!word.empty()) language.words_.insert(decode_utf8(word));
    return language;
}

int Language::symbol(char32_t c) const {
    if (is_digit(c)) c = U'0';
    return c < kCodePoints ? symbols_[c] : 0;
}

uint64_t Language::find(uint64_t key) const {
    for (uint64_t slot = hashed(key) & mask_; table_[slot] != 0; slot = (slot + 1) & mask_)
        if (table_[slot] >> 16 == key) return table_[slot];
    return 0;
}

Language::Context Language::start() const { return {static_cast<uint64_t>(symbol(U' '))}; }

double Language::step(Context& context, char32_t c) const {
    const auto next = static_cast<uint64_t>(symbol(c));
    double log_probability = is_digit(c) ? -std::log(10.0) : 0;
    if (next == 0) {
        context = {};
        return kUnknown;
    }
    uint64_t history = context.symbols;
    context.symbols = (context.symbols << 8 | next) & kContextMask;
    for (;;) {
        if (const uint64_t entry = find(history << 8 | next)) return log_probability + probability(entry);
        if (history == 0) return log_probability + kUnknown;
        if (const uint64_t entry = find(history)) log_probability += back_off(entry);
        // Forget the oldest symbol.
        int bytes = 0;
        for (uint64_t rest = history; rest != 0; rest >>= 8) ++bytes;
        history &= (uint64_t{1} << 8 * (bytes - 1)) - 1;
    }
}

bool Language::knows(const std::u32string& word) const {
    if (words_.contains(word)) return true;
    std::u32string small;
    size_t capitals = 0;
    for (char32_t c : word) {
        small.push_back(lower(c));
        capitals += is_upper(c) ? 1 : 0;
    }
    const bool usual_case = capitals == word.size() || (capitals == 1 && is_upper(word[0]));
    if (!usual_case) return false;
    if (words_.contains(small)) return true;
    std::u32string title = small;
    title[0] = word[0];
    return words_.contains(title);
}

}  // namespace fernleaf
