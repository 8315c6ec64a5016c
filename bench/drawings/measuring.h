// What the tables of diagrams and of maps share.
#pragma once

#include <cstddef>
#include <vector>

#include "drawing/drawn_ink.h"
#include "reading/reader.h"
#include "transcript/reading.h"

namespace fernleaf {

// Things of one kind: those that were meant, those that were told, and those told that were meant.
struct Tally {
    size_t meant = 0, told = 0, right = 0;
    double f1() const {  // 0 to 1
        return meant + told == 0 ? 1 : 2.0 * static_cast<double>(right) / static_cast<double>(meant + told);
    }
};

// A page that is one drawing, read as pages are: what is written by figures, and what is drawn in a line of its own.
Reading read_drawn(const std::vector<Stroke>& strokes, const DrawnInk& ink, const Reader& reader);

}  // namespace fernleaf
