// Lines of a reading that a person wrote as one.
#pragma once

#include "transcript/reading.h"

namespace fernleaf {

// Whether words and a formula that stand after one another are one written line: x = 4 | is the answer.
bool goes_on(const ReadLine& before, const ReadLine& line);

}  // namespace fernleaf
