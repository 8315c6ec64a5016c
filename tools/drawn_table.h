// Tables as people draw them: with a frame in one stroke or four, or none; rules drawn whole or in pieces; cells
// merged; a corner left out; words and numbers in cells.
#pragma once

#include "demo/drawn_shape.h"
#include "demo/hand.h"
#include "transcript/read_table.h"

namespace fernleaf {

struct DrawnTable {
    ReadTable table;                 // as it was meant: its boxes are those of the rules as they were meant
    std::vector<std::string> texts;  // of each cell; empty where nothing is written
    std::vector<Stroke> strokes;
};

enum class TableRules {
    both,     // a grid
    level,    // between all rows, or about the head and at the table's end; words stand at their columns' left
    upright,  // between columns, sometimes at the sides as well
};

// A table of two to seven rows and two to five columns. texts: of a word or two; numbers are made.
DrawnTable draw_table(const Hand& hand, const std::vector<std::string>& texts, const DrawingManner& manner,
                      std::mt19937& random, TableRules ruled = TableRules::both);

}  // namespace fernleaf
