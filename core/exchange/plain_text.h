// What pages say, as plain UTF-8 text: one line a written line, a blank line between regions, a form feed between
// pages.
#pragma once

#include <string>
#include <vector>

#include "document/page.h"
#include "transcript/reading.h"

namespace fernleaf {

// Drawings say nothing and leave no line.
std::string plain_text(const Reading& reading);
std::string plain_text(const std::vector<Reading>& pages);

}  // namespace fernleaf
