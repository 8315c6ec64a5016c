// A reading as the JSON that `fernleaf-cli read --format json` prints.
#pragma once

#include <nlohmann/json.hpp>
#include <string>

#include "page/page.h"

namespace fernleaf {

nlohmann::json box_json(const Box& box);

// One entry of "pages": source is the file's name as given, number the page in it, counted from 1.
nlohmann::json page_json(const Reading& reading, const PageInfo& info, const std::string& source, int number);

}  // namespace fernleaf
