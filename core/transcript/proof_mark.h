// Editing by pen with the signs of proof correction: a stroke drawn over what was written or typed says what is to be
// done with it.
//
//   if (auto proof = proof_mark(stroke, page, reading, all_proof_marks())) ...   // proof_edit.h does it
//
// Method: a sign is a form (ink/sign) at a place that writing never leaves it in: across whole words, around a gap,
// from the end of one line to the beginning of the next. Forms and places follow ISO 5776 (2016), "Symbols for text
// proof correction", reduced to one stroke each. Places are measured in heights of the small letters of the line, whose
// top and foot come from where the pen turned, as in Bengio & LeCun (1994), "Word normalization for on-line handwritten
// word recognition", with quantiles in place of their fit. bench/desk_bench measures how many signs are recognised and
// how much ordinary writing is taken for one; docs/desk.md has the figures.
#pragma once

#include <bitset>
#include <optional>

#include "document/page.h"
#include "transcript/reading.h"

namespace fernleaf {

// As settings keep them: numbers never change their meaning.
enum class ProofMark {
    strike_out = 0,  // a line through words
    insert = 1,      // a caret at the foot of a gap
    separate = 2,    // an upright through a word
    close_up = 3,    // a bow over or under a gap
    run_on = 4,      // a line from the end of a line to the beginning of the next
    paragraph = 5,   // a corner before a word
    italic = 6,      // a line under typed words
    bold = 7,        // a wave under typed words
    heading = 8,     // a ring around A, B or C beside a typed line
};
constexpr size_t kProofMarks = 9;
using ProofMarks = std::bitset<kProofMarks>;  // by number
inline ProofMarks all_proof_marks() { return ProofMarks().set(); }

struct Proof {
    ProofMark mark = ProofMark::strike_out;
    int line = 0;            // of the reading
    int first = 0;           // words of the line: those struck or styled, the one parted, the one that begins a
    int last = 0;            // paragraph; the two about a gap
    int next_line = 0;       // that runs on
    Point at;                // mm: where a word is parted or something is to be inserted
    int level = 0;           // of a heading
    Box place;               // mm: what it is about, to be shown
    StrokeId letter_of = 0;  // a heading's letter: the first of its strokes
};

// The level of heading that a ringed letter stands for, by what it was read as: A, B or C, 1 to 3; 0: none.
int head_level(const ReadWord& letter);

// What the newest stroke means on the page, which it is part of; the reading need not know of it yet. Under and beside
// ink, lines, waves and ringed letters stay: they are read as emphasis and headings (ink/underline, ink/ringed).
std::optional<Proof> proof_mark(const Stroke& newest, const Page& page, const Reading& reading, ProofMarks wanted);

}  // namespace fernleaf
