// The document: notebooks hold pages, pages hold ink and pictures, and a reading says what a page means without ever
// replacing its source.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "base/geometry.h"
#include "ink/stroke.h"
#include "page/text_block.h"
#include "page/treatment.h"

namespace fernleaf {

using NotebookId = int64_t;
using PageId = int64_t;
using PictureId = int64_t;
using HandId = int64_t;

// What is printed on a page. As libraries keep them: numbers never change their meaning.
enum class Paper { plain = 0, ruled = 1, squared = 2, dotted = 3, margined = 4, staves = 5, picture = 6 };

constexpr uint32_t kUsualPaper = 0xFBF8F1;  // dark where the window is dark; other colours stay as they are
constexpr uint32_t kWhitePaper = 0xFFFFFF;  // under photographs of paper: what is written on them stays dark
constexpr double kLeastSpacingMm = 2, kMostSpacingMm = 40;
constexpr double kLeastSheetMm = 20, kMostSheetMm = 2000;

// A sheet of paper.
struct Sheet {
    double width_mm = 148;
    double height_mm = 210;  // of an endless sheet: as far as it has come
    Paper paper = Paper::margined;
    double spacing_mm = 8;  // of rules, squares and dots; of a staff's lines a fifth of it
    uint32_t colour = kUsualPaper;
    std::string picture = {};  // for Paper::picture: a file of the library
    bool endless = false;      // grows downwards as it is written on
    friend bool operator==(const Sheet&, const Sheet&) = default;
};

struct Notebook {
    NotebookId id = 0;
    std::string title;
    uint32_t cover = 0x2E6B4F;                 // 0xRRGGBB
    std::vector<std::string> languages{"en"};  // ISO 639-1; a word may be of any of them
    Sheet sheet;                               // what new pages are
    double lean = 0.6;                         // how far to lean on the languages: 0 literal to 1 strong
    HandId hand = 1;                           // whose writing it is
};

// What a notebook's pages are to be read with.
struct Preferences {
    std::vector<std::string> languages{"en"};
    double lean = 0.6;
    std::vector<std::string> words;  // the person's and the notebook's own
    std::string hand;                // as the reader has learnt it; empty: not taught
};

// A person's hand: what the reader has learnt of it, in brief.
struct HandInfo {
    HandId id = 0;
    std::string name;          // empty: the hand every library begins with
    size_t examples = 0;       // kept
    size_t learnt_from = 0;    // 0: not taught
    double errors_before = 0;  // characters of a hundred, in lines held back
    double errors_after = 0;
};

// Language codes as people write them in a row, "en, de", and back ("en,de").
std::vector<std::string> language_codes(const std::string& list);
std::string language_list(const std::vector<std::string>& codes);

// A picture on a page: its file is content-addressed in the library and never altered.
struct Picture {
    PictureId id = 0;
    std::string file;          // SHA-256 of the content, hexadecimal
    std::string name;          // the name it came with
    int frame = 0;             // which page of a PDF or a multi-page TIFF, counted from 0
    Box box;                   // mm: where it lies, before it is turned
    double angle = 0;          // degrees clockwise about its middle
    Box crop{0, 0, 1, 1};      // what is shown of it, in parts of its width and height
    bool locked = false;       // not to be moved by accident
    int64_t order = 0;         // pictures with higher numbers lie above others; 0: its id is the number
    Treatment treatment = {};  // what is done to the file's picture before anything else
    friend bool operator==(const Picture&, const Picture&) = default;
};

inline bool lies_below(const Picture& a, const Picture& b) {
    const auto place = [](const Picture& p) { return std::pair(p.order != 0 ? p.order : p.id, p.id); };
    return place(a) < place(b);
}

struct PageInfo : Sheet {
    PageId id = 0;
    NotebookId notebook = 0;
    int number = 0;  // in the notebook, counted from 1
    int64_t created_ms = 0;
};

// A sheet for a picture of so many mm, and where the picture lies on it. Pictures too long for any sheet are made
// smaller; thin ones lie at the top of one of the least size.
struct SheetForPicture {
    double width_mm = 0, height_mm = 0;
    Box picture;
};
SheetForPicture sheet_for_picture(double width_mm, double height_mm);

// What lies on a page, of each kind the lowest first (lies_below): mostly the order in which it came.
struct Elements {
    std::vector<Stroke> strokes = {};
    std::vector<Picture> pictures = {};
    std::vector<TextBlock> texts = {};
    bool empty() const { return strokes.empty() && pictures.empty() && texts.empty(); }
    size_t count() const { return strokes.size() + pictures.size() + texts.size(); }
    friend bool operator==(const Elements&, const Elements&) = default;
};

// Why they can't be kept: numbers that are no place on a page. Nothing: they can.
std::optional<std::string> unsound(const Elements& elements);

struct Page : Elements {
    PageInfo info;
    size_t damaged = 0;  // elements and corrections that can't be read from the library any more
};

// An endless sheet made long enough for what is on it, with room to go on.
void make_room_below(Page& page);
void make_room_below(PageInfo& sheet, const Elements& added);  // the same, when only these are new

struct Alternative {
    std::string text;
    double certainty = 0;  // 0 to 1
    friend bool operator==(const Alternative&, const Alternative&) = default;
};

struct ReadWord {
    std::string text;
    double certainty = 0;                   // 0 to 1
    Box box;                                // mm
    std::vector<StrokeId> strokes;          // empty for words read in pictures, and for typed ones
    std::vector<Alternative> alternatives;  // best first, without the text itself
    bool corrected = false;                 // a person said so
    TextId block = 0;                       // typed: in this block of text
    int block_word = 0;                     // and there this word, counted from 0
    bool italic = false, bold = false;      // underlined with a line or a wave; typed so
};

enum class RegionKind { text = 0, drawing = 1, picture = 2, math = 3 };  // as libraries keep them

// Words read with less certainty than this are marked and asked about.
constexpr double kSureEnough = 0.6;

struct ReadLine {
    int region = 0;
    RegionKind kind = RegionKind::text;
    double certainty = 0;
    Box box;              // mm
    uint64_t source = 0;  // signature of the ink or pixels read: the same source needs no second reading
    std::vector<ReadWord> words;
    int heading = 0;           // 1 to 3: a ringed A, B or C stands beside it; 0: none
    std::string text() const;  // the words with spaces between
};

struct Reading {
    std::vector<ReadLine> lines;  // in reading order
};

// Puts one region or several that belong together among the others, before the first that begins lower.
void insert_regions(Reading& reading, std::vector<ReadLine> news);

// Lines of typed words are laid among those read: a word set within a written line joins it, the rest stands by itself
// where its height on the page puts it.
void add_typed(Reading& reading, const std::vector<TextBlock>& texts);

// Puts the signs of typed lists ("•", "2.", "☐") before their items, for text that is taken away.
void add_list_signs(Reading& reading, const std::vector<TextBlock>& texts);

// What ink can be said to be; as libraries keep them.
enum class Said { text = 0, drawing = 1, math = 2, one_line = 3 };

// What a person said some ink or some place in a picture means. It is laid over every later reading.
struct Correction {
    std::vector<StrokeId> strokes;
    Box box;                 // mm
    std::string text;        // what the word says; empty: what is said is the kind
    Said kind = Said::text;  // with an empty text: that the strokes are this
    friend bool operator==(const Correction&, const Correction&) = default;
};

// Lays corrections over a reading: a word whose strokes (or, in a picture, whose place) are those of the correction
// takes its text and certainty 1. A correction of the strokes of several words of a line joins them; one of part of a
// word's strokes splits them off as a word of their own.
void apply_corrections(Reading& reading, const std::vector<Correction>& corrections);

// Lines that a correction may have changed are no longer known: the next reading reads them anew.
void forget(Reading& reading, const std::vector<Correction>& corrections);

}  // namespace fernleaf
