// Compact forms of what the database keeps as bytes.
#pragma once

#include <string>
#include <string_view>

#include "base/result.h"
#include "page/edit.h"

namespace fernleaf {

// Points as differences of 1/100 mm and ms in variable-length integers, with pressure and tilt where there are any.
std::string encode_points(const std::vector<InkPoint>& points);
Result<std::vector<InkPoint>> decode_points(std::string_view bytes);

// The stroke as it will be after a round through the database: places to 1/100 mm, pressure to 1/255, tilt to 1°.
Stroke quantised(Stroke stroke);

std::string encode_words(const std::vector<ReadWord>& words);  // JSON
Result<std::vector<ReadWord>> decode_words(const std::string& json);

// Everything of a block of text but its id; and a sheet of paper. JSON.
std::string encode_text(const TextBlock& text);
Result<TextBlock> decode_text(const std::string& json);
// Pictures and blocks of text as they are copied from page to page; strokes travel as InkML.
std::string encode_elements(const Elements& elements);
Result<Elements> decode_elements(const std::string& json);
// Nothing for a picture that is left as it is.
std::string encode_treatment(const Treatment& treatment);
Result<Treatment> decode_treatment(const std::string& json);
std::string encode_sheet_change(const SheetChange& change);
Result<SheetChange> decode_sheet_change(const std::string& json);

// SHA-256 of bytes, hexadecimal.
std::string sha256(std::string_view bytes);

}  // namespace fernleaf
