// Formulas among what was read in a picture of a page: where a line may be one, the ink is traced into strokes, and
// these are read as any ink is (math/formula_skills.h).
//
//   name_pieces(line.words, scanned, scan_line, reading);      // of each line, while it is made
//   find_formulas(lines, scanned, place, &formulas, false, …);  // and of all, once they stand in their rows
#pragma once

#include <functional>

#include "math/formula_skills.h"
#include "paper/printed_text.h"
#include "paper/scan_lines.h"
#include "transcript/reading.h"

namespace fernleaf {

// Words that are written name the pieces of ink they are made of, in the place of strokes. words: of the line's
// reading.
void name_pieces(std::vector<ReadWord>& words, const ScannedPage& scanned, const ScanLine& line,
                 const AnyLineReading& reading);

// Lines that are formulas become lines of math. place: where on the page (mm) a pixel of the mask is. Afterwards no
// word names pieces; without formulas that is all. What printed words are made of is not looked at.
void find_formulas(std::vector<ReadLine>& lines, const ScannedPage& scanned, const std::function<Point(Point)>& place,
                   FormulaSkills* formulas, bool decimal_comma, uint64_t input_signature, const CancelToken& cancel);

// Shapes of a picture's drawing that are parts of its formulas, such as a fraction's bar, are none.
void leave_out_formulas(std::vector<ReadLine>& lines);

}  // namespace fernleaf
