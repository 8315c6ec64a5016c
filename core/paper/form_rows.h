// Brings a form's labels and answers together: "Owner:" and what was written far behind it are one line to a reader,
// two fields in a row are read one after the other, and only then comes the row below.
//
// Lines that are level, with nothing between them, are one row when the left one is a label of the right one: it ends
// with a colon, or it is short and printed where the right one is written. Where one pair of a row belongs together, so
// does the whole row; where most neighbours on a page are label and answer, or all are short, so are the others, for a
// colon or a word's kind may be misread. Columns of running text have no such pairs and stay columns.
#pragma once

#include <vector>

#include "transcript/reading.h"

namespace fernleaf {

struct FormLine {
    ReadLine line;
    std::vector<bool> printed;  // of each of its words
};

// Lines of kind text with words are joined, and take the leftmost one's region. Once nothing stands side by side any
// more, all lines are put in order from top to bottom and their regions counted anew.
void join_rows(std::vector<FormLine>& lines);

}  // namespace fernleaf
