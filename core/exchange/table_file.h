// Tables as text: CSV, Markdown, HTML, and rows with tabs as spreadsheets take them.
//
//   for (const TableWords& table : tables_of(reading)) out += table_text(table, ".csv");
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "transcript/reading.h"

namespace fernleaf {

// What a table says. The reading must outlive it.
struct TableWords {
    const ReadTable* table = nullptr;
    std::vector<std::string> texts;                   // of each cell, its lines with spaces between
    std::vector<std::vector<const ReadWord*>> words;  // of each cell, in reading order
};
std::vector<TableWords> tables_of(const Reading& reading);
// The table that begins at a line of the reading.
TableWords table_at(const Reading& reading, size_t line);

// ending: ".csv" (RFC 4180), ".md", ".html" or ".tsv". The first row is the head. What is merged stands in its first
// place; only HTML can tell that it is.
std::string table_text(const TableWords& table, std::string_view ending);

}  // namespace fernleaf
