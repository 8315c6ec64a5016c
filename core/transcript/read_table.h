// A table as it was read: its cells, and where they stand. What stands in them are lines of the reading, each of which
// tells its cell (transcript/reading.h).
#pragma once

#include <vector>

#include "base/geometry.h"
#include "document/table/fair_table.h"
#include "ink/stroke.h"

namespace fernleaf {

struct ReadCell {
    int row = 0, column = 0;              // of its upper left corner, counted from 0
    int row_count = 1, column_count = 1;  // more than one where cells are merged
    Box box;                              // mm, to the middle of its rules
    friend bool operator==(const ReadCell&, const ReadCell&) = default;
};

struct ReadTable {
    int rows = 0, columns = 0;
    std::vector<ReadCell> cells;  // row by row; together they cover the table, each place once
    std::vector<StrokeId> rules;  // the strokes that part them, or the table drawn fair that does
    friend bool operator==(const ReadTable&, const ReadTable&) = default;
};

// Whether its cells are as they must be: in order, covering all of it, each place once.
bool is_valid(const ReadTable& table);

// One that is drawn fair, as it is.
ReadTable as_read(const FairTable& table);

}  // namespace fernleaf
