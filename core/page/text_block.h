// Typed text on a page: paragraphs of styled runs, set at a place and in a width.
//
//   TextBlock block;
//   block.at = {20, 30};
//   block.paragraphs = {{{{"frost at dawn", {}}}}};
//   std::string text = plain_text(block);
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "base/geometry.h"
#include "ink/selecting.h"
#include "ink/stroke.h"

namespace fernleaf {

using TextId = int64_t;

enum class Align { left = 0, centre = 1, right = 2, justified = 3 };
enum class ListKind { none = 0, bullet = 1, number = 2, check = 3, checked = 4 };

struct TextStyle {
    std::string family = "Fernleaf Serif";
    double size_mm = 4.2;  // of the type's body (em), 1 to 60
    bool bold = false;
    bool italic = false;
    bool underline = false;
    bool strike = false;
    uint32_t colour = 0x1E2A44;              // 0xRRGGBB
    std::optional<uint32_t> highlight = {};  // behind the words
    bool unsure = false;  // set from ink that was read with little certainty, and not looked at since
    friend bool operator==(const TextStyle&, const TextStyle&) = default;
};

struct TextRun {
    std::string text;  // UTF-8, without line breaks
    TextStyle style = {};
    friend bool operator==(const TextRun&, const TextRun&) = default;
};

struct Paragraph {
    std::vector<TextRun> runs;
    Align align = Align::left;
    ListKind list = ListKind::none;
    int heading = 0;       // 1 to 3; 0: none
    double indent_mm = 0;  // from the block's left edge
    double before_mm = 0;  // room above it
    friend bool operator==(const Paragraph&, const Paragraph&) = default;
};

// A word as it came to stand when the block was set.
struct PlacedWord {
    std::string text;
    Box box;       // mm, on the page
    int line = 0;  // of the block, counted from 0
    friend bool operator==(const PlacedWord&, const PlacedWord&) = default;
};

struct TextBlock {
    TextId id = 0;      // 0: not yet in a library
    int64_t order = 0;  // blocks with higher numbers lie above others; 0: its id is the number
    Point at;           // mm: the upper left corner, before it is turned
    double width_mm = 60;
    double height_mm = 0;               // as set
    double angle = 0;                   // degrees clockwise about its middle
    double pitch_mm = 0;                // from line to line; 0: what the type asks for
    std::optional<uint32_t> fill = {};  // behind the block
    std::vector<Paragraph> paragraphs = {};
    std::vector<StrokeId> ink = {};      // what it was set from; empty: it was typed
    Affine carried = {};                 // what has become of the block since then: its ink would have gone with it
    std::vector<PlacedWord> words = {};  // as set

    Box box() const;  // with its turn
    friend bool operator==(const TextBlock&, const TextBlock&) = default;
};

inline bool lies_below(const TextBlock& a, const TextBlock& b) {
    const auto place = [](const TextBlock& t) { return std::pair(t.order != 0 ? t.order : t.id, t.id); };
    return place(a) < place(b);
}

// Paragraphs on lines of their own, list signs before them.
std::string plain_text(const TextBlock& block);
std::string list_sign(ListKind kind, int number);  // "•", "3.", "☐", "☑" or nothing

// Whether every number is finite and within reach of a page (100 m).
bool sound(const TextBlock& text);

// How many words stand in a text, parted by blanks.
size_t words_in(const std::string& text);

// The style of each word's first letter, words counted over all paragraphs; the styles are the block's own.
std::vector<const TextStyle*> word_styles(const TextBlock& block);

// Whether there is anything to see in it.
bool has_text(const TextBlock& block);

}  // namespace fernleaf
