// What a line says by a person, told of its words: those that differ are corrected, and what is one word for two, or
// two for one, is said of the ink of all of them.
//
//   auto corrections = corrections_of(line, "Pump house");      // kept as any other, in an edit
#pragma once

#include <string>
#include <vector>

#include "transcript/reading.h"

namespace fernleaf {

// None where nothing differs but blanks. Errors: nothing is said; what differs is typed, not written.
Result<std::vector<Correction>> corrections_of(const ReadLine& line, const std::string& said);

}  // namespace fernleaf
