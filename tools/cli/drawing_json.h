// A drawing as a region of the JSON that `fernleaf-cli read --format json` prints.
#pragma once

#include <nlohmann/json.hpp>

#include "drawing/drawing_reading.h"

namespace fernleaf {

// first_stroke: how many of the file's strokes stand before those that the drawing counts from 0.
nlohmann::json drawing_json(const DrawingReading& drawing, size_t first_stroke);

}  // namespace fernleaf
