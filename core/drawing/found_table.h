// A table found among a page's strokes.
#pragma once

#include <vector>

#include "base/geometry.h"
#include "transcript/read_table.h"

namespace fernleaf {

struct FoundTable {
    ReadTable table;
    double certainty = 0;                  // 0 to 1: how much of its rules is drawn, or of its cells is filled
    Box box;                               // mm
    std::vector<size_t> rules;             // indices into the strokes
    std::vector<std::vector<size_t>> ink;  // for each cell: the strokes in it
};

}  // namespace fernleaf
