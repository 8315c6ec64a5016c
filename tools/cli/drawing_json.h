// A drawing as a region of the JSON that `fernleaf-cli read --format json` prints.
#pragma once

#include <nlohmann/json.hpp>

#include "drawing/drawing_reading.h"

namespace fernleaf {

// Strokes are numbered from 1 on their page. first_stroke: how many of the file's stand on pages before it.
nlohmann::json drawing_json(const DrawingReading& drawing, size_t first_stroke);

}  // namespace fernleaf
