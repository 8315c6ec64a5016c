#include "base/text.h"

#include <utf8proc.h>

#include <array>
#include <vector>

namespace fernleaf {
namespace {

constexpr char32_t kReplacement = 0xFFFD;

// Base letters of U+00C0 to U+017F; "" where the character is not a letter.
constexpr std::array<const char*, 192> kBase = {
    "a", "a", "a",  "a", "a", "a", "ae", "c",  "e", "e", "e",  "e",  "i", "i", "i",  "i",  "d", "n", "o",  "o",
    "o", "o", "o",  "",  "o", "u", "u",  "u",  "u", "y", "th", "ss", "a", "a", "a",  "a",  "a", "a", "ae", "c",
    "e", "e", "e",  "e", "i", "i", "i",  "i",  "d", "n", "o",  "o",  "o", "o", "o",  "",   "o", "u", "u",  "u",
    "u", "y", "th", "y", "a", "a", "a",  "a",  "a", "a", "c",  "c",  "c", "c", "c",  "c",  "c", "c", "d",  "d",
    "d", "d", "e",  "e", "e", "e", "e",  "e",  "e", "e", "e",  "e",  "g", "g", "g",  "g",  "g", "g", "g",  "g",
    "h", "h", "h",  "h", "i", "i", "i",  "i",  "i", "i", "i",  "i",  "i", "i", "ij", "ij", "j", "j", "k",  "k",
    "k", "l", "l",  "l", "l", "l", "l",  "l",  "l", "l", "l",  "n",  "n", "n", "n",  "n",  "n", "n", "n",  "n",
    "o", "o", "o",  "o", "o", "o", "oe", "oe", "r", "r", "r",  "r",  "r", "r", "s",  "s",  "s", "s", "s",  "s",
    "s", "s", "t",  "t", "t", "t", "t",  "t",  "u", "u", "u",  "u",  "u", "u", "u",  "u",  "u", "u", "u",  "u",
    "w", "w", "y",  "y", "y", "z", "z",  "z",  "z", "z", "z",  "s"};

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

void append_folded(std::string& out, char32_t c) {
    if (is_mark(c)) return;
    if (c >= 0xC0 && c < 0x180 && *kBase[c - 0xC0] != 0)
        out += kBase[c - 0xC0];
    else
        append(out, lower(c));
}

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

bool is_mark(char32_t c) { return c >= 0x300 && c < 0x370; }

bool is_digit(char32_t c) { return c >= '0' && c <= '9'; }

bool is_letter(char32_t c) {
    if (c < 0x80) return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
    if (c >= 0xC0 && c < 0x250) return c != 0xD7 && c != 0xF7;
    return (c >= 0x370 && c < 0x2000) || (c >= 0x3040 && c < 0xD7B0);
}

char32_t lower(char32_t c) {
    if (c < 0x80) return c >= 'A' && c <= 'Z' ? c + 32 : c;
    if (c >= 0xC0 && c < 0xDF && c != 0xD7) return c + 32;
    if (c == 0x178) return 0xFF;
    if ((c >= 0x100 && c < 0x138) || (c >= 0x14A && c < 0x178)) return c | 1;
    if ((c >= 0x139 && c < 0x149) || (c >= 0x179 && c < 0x17F)) return c % 2 == 1 ? c + 1 : c;
    if ((c >= 0x391 && c < 0x3AA) || (c >= 0x410 && c < 0x430)) return c + 32;
    return c;
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
