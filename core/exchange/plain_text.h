// What pages say, as plain UTF-8 text: one line a written line, a blank line between regions, a form feed between
// pages.
#pragma once

#include <string>
#include <vector>

#include "document/page.h"
#include "transcript/reading.h"

namespace fernleaf {

// Drawings say nothing and leave no line; a table is one in Markdown; a formula its LaTeX and, in a line of its own,
// what it comes to.
std::string plain_text(const Reading& reading);
std::string plain_text(const std::vector<Reading>& pages);

// A form as rows with tabs between cells, as spreadsheets take them: a line is a row, and a gap wider than its words
// are high parts cells. The colon after a form's label goes.
std::string form_text(const Reading& reading);

}  // namespace fernleaf
