#include "base/text.h"

#include <utf8proc.h>

#include <algorithm>
#include <array>
#include <vector>

namespace fernleaf {
namespace {

constexpr char32_t kReplacement = 0xFFFD;

// What Unicode does not take apart though people look for it by its base letter.
struct BaseLetter {
    char32_t letter;
    const char* base;
};
constexpr std::array kBase = {
    BaseLetter{U'æ', "ae"}, BaseLetter{U'œ', "oe"}, BaseLetter{U'ø', "o"}, BaseLetter{U'đ', "d"},
    BaseLetter{U'ð', "d"},  BaseLetter{U'þ', "th"}, BaseLetter{U'ł', "l"}, BaseLetter{U'ħ', "h"},
    BaseLetter{U'ŧ', "t"},  BaseLetter{U'ŋ', "n"},  BaseLetter{U'ı', "i"}, BaseLetter{U'ĸ', "k"},
};

// One code point from the front of text; its length in bytes in size. Ill-formed: U+FFFD and 1.
char32_t next(std::string_view text, size_t& size) {
    const auto byte = [&](size_t i) { return static_cast<unsigned char>(text[i]); };
    const unsigned char first = byte(0);
    size = 1;
    if (first < 0x80) return first;
    const size_t count = first >= 0xF0 ? 4 : first >= 0xE0 ? 3 : first >= 0xC2 ? 2 : 0;
    if (count == 0 || first > 0xF4 || text.size() < count) return kReplacement;
    char32_t value = first & (0xFF >> (count + 1));
    for (size_t i = 1; i < count; ++i) {
        if ((byte(i) & 0xC0) != 0x80) return kReplacement;
        value = value << 6 | (byte(i) & 0x3F);
    }
    const char32_t smallest = count == 2 ? 0x80 : count == 3 ? 0x800 : 0x10000;
    if (value < smallest || value > 0x10FFFF || (value >= 0xD800 && value < 0xE000)) return kReplacement;
    size = count;
    return value;
}

void append(std::string& out, char32_t c) {
    const auto put = [&](char32_t byte) { out.push_back(static_cast<char>(byte)); };
    if (c < 0x80) {
        put(c);
    } else if (c < 0x800) {
        put(0xC0 | c >> 6), put(0x80 | (c & 0x3F));
    } else if (c < 0x10000) {
        put(0xE0 | c >> 12), put(0x80 | (c >> 6 & 0x3F)), put(0x80 | (c & 0x3F));
    } else {
        put(0xF0 | c >> 18), put(0x80 | (c >> 12 & 0x3F)), put(0x80 | (c >> 6 & 0x3F)), put(0x80 | (c & 0x3F));
    }
}

// Compatibility decomposition, case folding and no marks (Unicode's annex 15 and chapter 5.18), then kBase.
void append_folded(std::string& out, char32_t c) {
    if (c < 0x80) return append(out, lower(c));
    std::array<utf8proc_int32_t, 32> parts{};
    const auto count = utf8proc_decompose_char(
        static_cast<utf8proc_int32_t>(c), parts.data(), parts.size(),
        static_cast<utf8proc_option_t>(UTF8PROC_DECOMPOSE | UTF8PROC_COMPAT | UTF8PROC_CASEFOLD | UTF8PROC_STRIPMARK),
        nullptr);
    if (count < 0 || count > static_cast<utf8proc_ssize_t>(parts.size())) return append(out, c);
    for (size_t i = 0; i < static_cast<size_t>(count); ++i) {
        const auto part = static_cast<char32_t>(parts[i]);
        const auto base = std::ranges::find(kBase, part, &BaseLetter::letter);
        if (base != kBase.end())
            out += base->base;
        else
            append(out, part);
    }
}

utf8proc_category_t category(char32_t c) { return utf8proc_category(static_cast<utf8proc_int32_t>(c)); }

}  // namespace

std::u32string decode_utf8(std::string_view text) {
    std::u32string out;
    out.reserve(text.size());
    for (size_t size = 0; !text.empty(); text.remove_prefix(size)) out.push_back(next(text, size));
    return out;
}

std::string encode_utf8(std::u32string_view text) {
    std::string out;
    for (char32_t c : text) append(out, c);
    return out;
}

bool valid_utf8(std::string_view text) {
    for (size_t size = 0; !text.empty(); text.remove_prefix(size))
        if (next(text, size) == kReplacement && size == 1) return false;
    return true;
}

std::u32string decomposed(char32_t c) {
    std::array<utf8proc_int32_t, 8> parts{};
    const auto count = utf8proc_decompose_char(static_cast<utf8proc_int32_t>(c), parts.data(), parts.size(),
                                               UTF8PROC_DECOMPOSE, nullptr);
    if (count < 1 || count > static_cast<utf8proc_ssize_t>(parts.size())) return std::u32string(1, c);
    return std::u32string(parts.begin(), parts.begin() + count);
}

std::u32string composed(std::u32string_view text) {
    std::vector<utf8proc_int32_t> points(text.begin(), text.end());
    const auto count = utf8proc_normalize_utf32(points.data(), static_cast<utf8proc_ssize_t>(points.size()),
                                                static_cast<utf8proc_option_t>(UTF8PROC_COMPOSE | UTF8PROC_STABLE));
    if (count < 0) return std::u32string(text);
    return std::u32string(points.begin(), points.begin() + count);
}

bool is_mark(char32_t c) {
    if (c < 0x300) return false;
    const utf8proc_category_t kind = category(c);
    return kind == UTF8PROC_CATEGORY_MN || kind == UTF8PROC_CATEGORY_MC || kind == UTF8PROC_CATEGORY_ME;
}

bool is_digit(char32_t c) { return c >= '0' && c <= '9'; }

bool is_blank(char c) { return c == ' ' || c == '\t'; }

bool is_letter(char32_t c) {
    if (c < 0x80) return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
    const utf8proc_category_t kind = category(c);
    return kind >= UTF8PROC_CATEGORY_LU && kind <= UTF8PROC_CATEGORY_LO;
}

char32_t lower(char32_t c) {
    if (c < 0x80) return c >= 'A' && c <= 'Z' ? c + 32 : c;
    return static_cast<char32_t>(utf8proc_tolower(static_cast<utf8proc_int32_t>(c)));
}

bool is_upper(char32_t c) { return lower(c) != c; }

std::string fold(std::string_view text) {
    std::string out;
    for (char32_t c : decode_utf8(text)) append_folded(out, c);
    return out;
}

std::vector<std::string> fold_words(std::string_view text) {
    std::vector<std::string> words(1);
    for (char32_t c : decode_utf8(text)) {
        if (is_letter(c) || is_digit(c) || is_mark(c))
            append_folded(words.back(), c);
        else if (!words.back().empty())
            words.emplace_back();
    }
    if (words.back().empty()) words.pop_back();
    return words;
}

std::string trimmed(std::string_view text) {
    const auto first = text.find_first_not_of(" \t\r\n");
    if (first == std::string_view::npos) return {};
    return std::string(text.substr(first, text.find_last_not_of(" \t\r\n") - first + 1));
}

}  // namespace fernleaf
