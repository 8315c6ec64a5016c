#include "reading/language.h"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "base/text.h"
#include "reading/packed_file.h"

namespace fernleaf {
namespace {

constexpr char kMagic[] = "fernleaf ngrams 1\n";
constexpr double kQuantum = 16.0;                // steps of 1/16 in the natural logarithm
constexpr uint64_t kContextMask = 0xFFFFFFFFFF;  // five symbols
constexpr double kUnknown = -12;
constexpr size_t kCodePoints = 0x2800;

uint64_t hashed(uint64_t key) { return key * 0x9E3779B97F4A7C15U >> 20; }

// FNV-1a over code points.
uint64_t word_hash(const std::u32string& word) {
    uint64_t hash = 0xCBF29CE484222325U;
    for (const char32_t c : word) hash = (hash ^ c) * 0x100000001B3U;
    return hash;
}

double probability(uint64_t entry) { return -static_cast<double>(entry >> 8 & 0xFF) / kQuantum; }
double back_off(uint64_t entry) { return -static_cast<double>(entry & 0xFF) / kQuantum; }

}  // namespace

Result<Language> Language::load(const std::filesystem::path& directory, const std::string& code) {
    const auto path = directory / (code + ".ngrams.gz");
    std::error_code ignored;
    if (!std::filesystem::exists(path, ignored))
        return Error{"There is no language data for \"" + code + "\" in " + directory.string() + "."};
    auto packed = read_packed(path);
    if (!packed) return packed.error();
    const std::string& bytes = *packed;
    const Error damaged{"The language data " + path.string() + " is damaged."};
    const size_t header = sizeof kMagic - 1;
    const size_t line_end = bytes.find('\n', header);
    if (bytes.compare(0, header, kMagic) != 0 || line_end == std::string::npos ||
        (bytes.size() - line_end - 1) % 8 != 0)
        return damaged;

    Language language;
    language.alphabet_ = Alphabet(decode_utf8(std::string_view(bytes).substr(header, line_end - header)));
    language.symbols_.assign(kCodePoints, 0);
    for (const char32_t c : language.alphabet_.characters())
        if (c < kCodePoints) language.symbols_[c] = language.alphabet_.symbol(c);
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

    auto words = read_packed(directory / (code + ".words.gz"));
    if (!words) return words.error();
    for (std::string_view rest = *words; !rest.empty();) {
        const size_t end = std::min(rest.find('\n'), rest.size());
        if (end > 0) language.words_.push_back(word_hash(language.alphabet_.spelt(decode_utf8(rest.substr(0, end)))));
        rest.remove_prefix(std::min(end + 1, rest.size()));
    }
    std::ranges::sort(language.words_);
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

bool Language::listed(const std::u32string& word) const { return std::ranges::binary_search(words_, word_hash(word)); }

bool Language::knows(const std::u32string& word) const {
    if (listed(word)) return true;
    std::u32string small;
    size_t capitals = 0;
    size_t letters = 0;
    for (const char32_t c : word) {
        small.push_back(lower(c));
        capitals += is_upper(c) ? 1 : 0;
        letters += is_mark(c) ? 0 : 1;
    }
    const bool usual_case = capitals == letters || (capitals == 1 && is_upper(word[0]));
    if (!usual_case) return false;
    if (listed(small)) return true;
    std::u32string title = small;
    title[0] = word[0];
    return listed(title);
}

}  // namespace fernleaf
