// Compact forms of what the database keeps as bytes.
#pragma once

#include <string>
#include <string_view>

#include "base/result.h"
#include "page/page.h"

namespace fernleaf {

// Points as differences of 1/100 mm and ms in variable-length integers, with pressure and tilt where there are any.
std::string encode_points(const std::vector<InkPoint>& points);
Result<std::vector<InkPoint>> decode_points(std::string_view bytes);

// The stroke as it will be after a round through the database: places to 1/100 mm, pressure to 1/255, tilt to 1°.
Stroke quantised(Stroke stroke);

std::string encode_words(const std::vector<ReadWord>& words);  // JSON
Result<std::vector<ReadWord>> decode_words(const std::string& json);

// SHA-256 of bytes, hexadecimal.
std::string sha256(std::string_view bytes);

}  // namespace fernleaf
