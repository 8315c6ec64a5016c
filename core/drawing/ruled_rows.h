// Tables that have rules one way only: level ones, between which columns are told by gaps that all rows leave; or
// upright ones, beside which rows are told by the lines of what is written.
//
//   for (const Rules& some : parallel_rules(rules_in(strokes)))
//       if (auto found = table_by_rules(some, strokes, taken, {})) keep(*found);
//
// Columns as white rivers that run through all rows are those of Itonori (1993), "Table structure recognition based on
// textblock arrangement and ruled line position".
#pragma once

#include <optional>

#include "drawing/drawn_rules.h"
#include "drawing/found_table.h"

namespace fernleaf {

// Sets of two rules or more that begin and end at one place each and cross none the other way; each set is of one
// direction. None of hatching: so many rules, or sets of them, are no tables'.
std::vector<Rules> parallel_rules(const Rules& rules);

// The table that such a set is part of, or none: underlines, dividers between paragraphs, and lines between the columns
// of a page are none. sides: of each stroke, whether it is_side().
// taken: whether it is of something else. typed: boxes of words that are not ink, mm.
std::optional<FoundTable> table_by_rules(const Rules& rules, const std::vector<Stroke>& strokes,
                                         const std::vector<bool>& sides, const std::vector<bool>& taken,
                                         const std::vector<Box>& typed);

}  // namespace fernleaf
