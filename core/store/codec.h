// Compact forms of what the database keeps of readings, and names of files.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "transcript/reading.h"

namespace fernleaf {

std::string encode_words(const std::vector<ReadWord>& words);  // JSON
Result<std::vector<ReadWord>> decode_words(const std::string& json);
std::string encode_shapes(const std::vector<ReadShape>& shapes);  // JSON
Result<std::vector<ReadShape>> decode_shapes(const std::string& json);

// A line that is a table, or its place in one.
struct TablePlace {
    std::optional<ReadTable> table;
    int cell = -1;
};
std::string encode_table(const TablePlace& place);  // JSON; empty where a line has to do with no table
Result<TablePlace> decode_table(const std::string& json);

// SHA-256 of bytes, hexadecimal.
std::string sha256(std::string_view bytes);

}  // namespace fernleaf
