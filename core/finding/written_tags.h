// Tags that are written on a page: words that begin with #.
//
//   for (const std::string& name : written_tags(reading)) offer(name);     // "frost" for "#frost"
#pragma once

#include <string>
#include <vector>

#include "transcript/reading.h"

namespace fernleaf {

// Of words that are typed, corrected or read with enough certainty, each once, in the order of the page, as tag_names()
// gives them. A # alone belongs to the word behind it; numbers ("#3") are no tags.
std::vector<std::string> written_tags(const Reading& reading);

}  // namespace fernleaf
