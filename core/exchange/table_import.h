// Tables from files and the clipboard, as fair tables with type in their cells: CSV (RFC 4180) and rows with tabs.
//
//   if (looks_like_table(bytes, ".csv")) auto pages = table_pages(bytes);
//   Elements pasted = table_elements(*rows_in(text), {20, 30}, 120);
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "store/library.h"

namespace fernleaf {

using TableRows = std::vector<std::vector<std::string>>;

// By its name's ending, or because its rows, three at least, have as many fields, two at least.
bool looks_like_table(const std::string& bytes, std::string_view ending);

// Fields parted by commas, semicolons or tabs, whichever its first row has; in UTF-8, UTF-16 or Windows-1252. All rows
// get as many fields. Fails with one sentence where there are none, or more than can be kept.
constexpr size_t kMostRowsRead = 20'000;
Result<TableRows> rows_in(const std::string& bytes);

// A table of at most kMostTableRows rows, the first of them its header, and its words, which are not laid out yet
// (render/text_look.h does, and makes rows fit). Columns of numbers stand at the right.
Elements table_elements(const TableRows& rows, Point at, double width_mm);

// Of a whole file, on as many pages as it needs, each with the header.
Result<std::vector<FilledPage>> table_pages(const std::string& bytes);

}  // namespace fernleaf
