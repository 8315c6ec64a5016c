// Changes of a block's text by the number of a word: replaced, taken out, parted, joined, styled.
//
//   remove_words(block, 3, 4);                       // the fourth and the fifth
//   style_words(block, 0, 0, [](TextStyle& s) { s.italic = true; });
//
// Words are counted from 0 over all paragraphs, parted by blanks. Every function returns false, and changes nothing,
// when there is no such word or the change makes no sense there. What the layout knows (words, height) is not touched.
#pragma once

#include <functional>
#include <string>

#include "document/text/text_block.h"

namespace fernleaf {

// Its style is that of its first letter.
bool replace_word(TextBlock& block, size_t n, const std::string& by);

// With the blank beside them; a paragraph of which nothing stays goes, too.
bool remove_words(TextBlock& block, size_t first, size_t last);

// A blank after so many of its characters, which must be some, and not all.
bool split_word(TextBlock& block, size_t n, size_t characters);

// A word and the next of its paragraph.
bool join_words(TextBlock& block, size_t n);

// The word begins a paragraph; false where it already does.
bool begin_paragraph(TextBlock& block, size_t n);

// The word's paragraph, which it must end, and the next become one.
bool run_on(TextBlock& block, size_t n);

bool style_words(TextBlock& block, size_t first, size_t last, const std::function<void(TextStyle&)>& change);

// The word's paragraph becomes a heading of level 1 to 3, bold and so many times as large as it was.
bool set_heading(TextBlock& block, size_t n, int level, double growth);

}  // namespace fernleaf
