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

#include "document/element_traits.h"
#include "ink/stroke.h"

namespace fernleaf {

using TextId = ElementId;

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
    TextId id = 0;  // 0: not yet in a library
    int64_t z = 0;  // its place among the others (z_of); 0: by its id
    Point at;       // mm: the upper left corner, before it is turned
    double width_mm = 60;
    double height_mm = 0;               // as set
    double angle = 0;                   // degrees clockwise about its middle
    double pitch_mm = 0;                // from line to line; 0: what the type asks for
    std::optional<uint32_t> fill = {};  // behind the block
    std::vector<Paragraph> paragraphs = {};
    std::vector<StrokeId> ink = {};      // what it was set from; empty: it was typed
    Affine transform_since_set = {};     // what has become of the block since then: its ink would have gone with it
    std::vector<PlacedWord> words = {};  // as set
    int64_t group = 0;                   // those of one number are taken together; 0: by itself

    Box box() const;  // with its turn
    friend bool operator==(const TextBlock&, const TextBlock&) = default;
};

// Paragraphs on lines of their own, list signs before them.
std::string plain_text(const TextBlock& block);
std::string list_sign(ListKind kind, int number);  // "•", "3.", "☐", "☑" or nothing

// How many words stand in a text, parted by blanks.
size_t words_in(const std::string& text);

// The style of each word's first letter, words counted over all paragraphs; the styles are the block's own.
std::vector<const TextStyle*> word_styles(const TextBlock& block);

// Whether there is anything to see in it.
bool has_text(const TextBlock& block);

template <>
struct ElementTraits<TextBlock> {
    static constexpr ElementKind kKind = ElementKind::text;
    static constexpr PaintLayer kLayer = PaintLayer::objects;
    static Box bounds(const TextBlock& text);
    static bool covers(const TextBlock& text, Point p, double reach_mm);
    static bool mostly_inside(const TextBlock& text, const std::vector<Point>& polygon);
    // Type grows with its block when both sides do, and is set anew in another width when only one does. Where words
    // stand is known only after a mere shift; else the caller lays the type out.
    static TextBlock transformed(TextBlock text, const Affine& by);
    static bool locked(const TextBlock&) { return false; }
    static constexpr bool kHasColour = true;
    static void set_colour(TextBlock& text, uint32_t colour);
    static std::optional<std::string> validation_error(const TextBlock& text);
    static std::string encode(const TextBlock& text);  // JSON
    static Result<TextBlock> decode(std::string_view bytes);
    static TextBlock as_kept(TextBlock text) { return text; }
    static std::vector<std::string> files(const TextBlock&) { return {}; }
    static std::vector<ElementId>* made_from(TextBlock& block) { return &block.ink; }
    static std::string plain_text(const TextBlock& text) { return fernleaf::plain_text(text); }
};

}  // namespace fernleaf
