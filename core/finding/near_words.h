// Words that differ little from the one looked for: slips of the pen, of typing and of reading.
//
//   if (edits_between(U"frost", U"forst", 1) <= 1) ...
#pragma once

#include <string>
#include <string_view>

namespace fernleaf {

// How many edits a word looked for may be away: none for the shortest, 1 from four letters on, 2 from eight.
int most_edits(std::u32string_view word);

// Letters added, left out, changed or swapped with their neighbour, at least, to make one word of the other (optimal
// string alignment: Damerau 1964); most + 1 when it takes more than that.
int edits_between(std::u32string_view a, std::u32string_view b, int most);

}  // namespace fernleaf
