// A reading as the JSON that `fernleaf-cli read --format json` prints.
#pragma once

#include <array>
#include <nlohmann/json.hpp>
#include <string>
#include <vector>

#include "document/page.h"
#include "transcript/reading.h"

namespace fernleaf {

nlohmann::json box_json(const Box& box);
nlohmann::json word_json(const ReadWord& word);
nlohmann::json point_json(Point p);           // mm, to a hundredth
nlohmann::json degrees_json(double value);    // to a hundredth
nlohmann::json certainty_json(double value);  // to four places

// A sheet of paper that a page shows.
struct ShownSheet {
    Box box;                       // mm
    std::array<Point, 4> corners;  // where they are in the file's picture, px, clockwise from the top left
};

// One entry of "pages": source is the file's name as given, number the page in it, counted from 1. first_stroke: how
// many strokes stand on the pages before; a formula's are numbered with them.
nlohmann::json page_json(const Reading& reading, const PageInfo& info, const std::vector<ShownSheet>& sheets,
                         const std::string& source, int number, size_t first_stroke);

}  // namespace fernleaf
