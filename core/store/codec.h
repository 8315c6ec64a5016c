// Compact forms of what the database keeps of readings, and names of files.
#pragma once

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

// SHA-256 of bytes, hexadecimal.
std::string sha256(std::string_view bytes);

}  // namespace fernleaf
