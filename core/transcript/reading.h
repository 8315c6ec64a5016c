// What a page says: regions, lines and words, each with what else it may be. A reading never replaces its source.
//
//   Reading reading = read_page(...);             // paper/page_reading.h
//   apply_corrections(reading, corrections);      // what a person said of it
//   std::string text = reading.lines[0].text();
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "document/correction.h"
#include "document/elements.h"
#include "transcript/read_shape.h"
#include "transcript/read_table.h"

namespace fernleaf {

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
    TextId block = 0;                       // typed: in this block of text, or this formula
    int block_word = 0;                     // and there this word, counted from 0
    bool italic = false, bold = false;      // underlined with a line or a wave; typed so
};

// As libraries keep them: numbers never change their meaning.
enum class RegionKind { text = 0, drawing = 1, picture = 2, math = 3, divider = 4, table = 5 };

// Words read with less certainty than this are marked and asked about.
constexpr double kSureEnough = 0.6;

struct ReadLine {
    int region = 0;
    RegionKind kind = RegionKind::text;
    double certainty = 0;
    Box box;                       // mm
    uint64_t input_signature = 0;  // of the ink or pixels read: the same input needs no second reading
    std::vector<ReadWord> words;
    int heading = 0;                      // 1 to 3: a ringed A, B or C stands beside it; 0: none
    std::vector<ReadShape> shapes = {};   // of a drawing, as they were understood; none where nothing was
    std::optional<ReadTable> table = {};  // of a table, which has no words; the lines of its cells follow in its region
    int cell = -1;                        // of that table, in whose list of cells it stands; -1: in none
    std::vector<StrokeId> ink = {};    // of what is no text: strokes that are shown as they are, for no shape has them
    std::vector<ReadWord> signs = {};  // of a formula, which is its line's only word, in LaTeX: so is each sign
    std::string result = {};           // what the formula comes to, in plain text; empty: nothing
    std::optional<bool> ticked = {};   // whether the box before it is ticked; nothing: there is none. See to_tick()
    std::string text() const;          // the words with spaces between
};

constexpr char kOpenBox[] = "☐", kTickedBox[] = "☑";  // read as words

// Whether the box that stands before a line is ticked, be it read as its first word ("☐", "☑"), found in the ink, or
// that of a typed list; nothing: there is none.
std::optional<bool> to_tick(const ReadLine& line);
std::string todo_text(const ReadLine& line);  // the line without its box

struct Reading {
    std::vector<ReadLine> lines;  // in reading order
};

// Puts one region or several that belong together among the others, before the first that begins lower.
void insert_regions(Reading& reading, std::vector<ReadLine> news);

// What stands on a page without having to be read is put among what was: tables and shapes that are drawn fair,
// formulas that are set in type, lines of typed words (those in a cell of a table join what is there, a word set within
// a written line joins it, the rest stands by itself where its height on the page puts it), and dividers.
void add_typed(Reading& reading, const Elements& elements);

// A table that is drawn fair, as it is read; the lines of its cells are to follow.
ReadLine grid_line(const FairTable& table);

// Puts the signs of typed lists ("•", "2.", "☐") before their items, for text that is taken away.
void add_list_signs(Reading& reading, const std::vector<TextBlock>& texts);

// Lays corrections over a reading: a word whose strokes (or, in a picture, whose place) are those of the correction
// takes its text and certainty 1. A correction of the strokes of several words of a line joins them; one of part of a
// word's strokes splits them off as a word of their own. A shape of the strokes of a correction becomes the shape said.
void apply_corrections(Reading& reading, const std::vector<Correction>& corrections);

// Lines that a correction may have changed are no longer known: the next reading reads them anew.
void forget(Reading& reading, const std::vector<Correction>& corrections);

}  // namespace fernleaf
