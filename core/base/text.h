// UTF-8 text: code points, and the folding under which words are found again.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace fernleaf {

// Code points of UTF-8 text; an ill-formed byte becomes U+FFFD.
std::u32string decode_utf8(std::string_view text);
std::string encode_utf8(std::u32string_view text);
bool valid_utf8(std::string_view text);

// Lower case without accents: "Straße" and "STRASSE" both fold to "strasse", "Œuvre" to "oeuvre".
std::string fold(std::string_view text);

// The searchable words of a text: folded runs of letters and digits.
std::vector<std::string> fold_words(std::string_view text);

// A letter as its base letter and marks, and back (Unicode's canonical decomposition and composition).
std::u32string decomposed(char32_t c);
std::u32string composed(std::u32string_view text);

bool is_blank(char c);  // a space or a tab
bool is_letter(char32_t c);
bool is_mark(char32_t c);  // a combining mark
bool is_digit(char32_t c);
bool is_upper(char32_t c);
char32_t lower(char32_t c);

std::string trimmed(std::string_view text);

}  // namespace fernleaf
