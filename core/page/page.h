// The document: notebooks hold pages, pages hold ink and pictures, and a reading says what a page means without ever
// replacing its source.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "base/geometry.h"
#include "ink/stroke.h"

namespace fernleaf {

using NotebookId = int64_t;
using PageId = int64_t;
using PictureId = int64_t;
using HandId = int64_t;

enum class Paper { plain, ruled };

struct Notebook {
    NotebookId id = 0;
    std::string title;
    uint32_t cover = 0x2E6B4F;                 // 0xRRGGBB
    std::vector<std::string> languages{"en"};  // ISO 639-1; a word may be of any of them
    Paper paper = Paper::ruled;
    double width_mm = 148;
    double height_mm = 210;
    double lean = 0.6;  // how far to lean on the languages: 0 literal to 1 strong
    HandId hand = 1;    // whose writing it is
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
    std::string file;  // SHA-256 of the content, hexadecimal
    std::string name;  // the name it came with
    int frame = 0;     // which page of a PDF or a multi-page TIFF, counted from 0
    Box box;           // mm
    friend bool operator==(const Picture&, const Picture&) = default;
};

struct PageInfo {
    PageId id = 0;
    NotebookId notebook = 0;
    int number = 0;  // in the notebook, counted from 1
    double width_mm = 148;
    double height_mm = 210;
    Paper paper = Paper::ruled;
    double spacing_mm = 8;
    int64_t created_ms = 0;
};

struct Page {
    PageInfo info;
    std::vector<Stroke> strokes;  // the lowest first (lies_below): mostly the order of writing
    std::vector<Picture> pictures;
};

struct Alternative {
    std::string text;
    double certainty = 0;  // 0 to 1
    friend bool operator==(const Alternative&, const Alternative&) = default;
};

struct ReadWord {
    std::string text;
    double certainty = 0;                   // 0 to 1
    Box box;                                // mm
    std::vector<StrokeId> strokes;          // empty for words read in pictures
    std::vector<Alternative> alternatives;  // best first, without the text itself
    bool corrected = false;                 // a person said so
};

enum class RegionKind { text, drawing, picture };

struct ReadLine {
    int region = 0;
    RegionKind kind = RegionKind::text;
    double certainty = 0;
    Box box;              // mm
    uint64_t source = 0;  // signature of the ink or pixels read: the same source needs no second reading
    std::vector<ReadWord> words;
    std::string text() const;  // the words with spaces between
};

struct Reading {
    std::vector<ReadLine> lines;  // in reading order
};

// What a person said some ink or some place in a picture means. It is laid over every later reading.
struct Correction {
    std::vector<StrokeId> strokes;
    Box box;  // mm
    std::string text;
};

// Lays corrections over a reading: a word whose strokes (or, in a picture, whose place) are those of the correction
// takes its text and certainty 1.
void apply_corrections(Reading& reading, const std::vector<Correction>& corrections);

}  // namespace fernleaf
