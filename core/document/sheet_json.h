// How edits and files keep a sheet of paper. Both throw what is none, as base/json.h does.
#pragma once

#include "base/json.h"
#include "document/sheet.h"

namespace fernleaf {

inline Json json_of(const Sheet& s) {
    return {{"width", s.width_mm},     {"height", s.height_mm}, {"paper", static_cast<int>(s.paper)},
            {"spacing", s.spacing_mm}, {"colour", s.colour},    {"picture", s.picture},
            {"endless", s.endless},    {"errands", s.errands}};
}

inline Sheet sheet_from(const Json& j) {
    Sheet s;
    s.width_mm = j.at("width"), s.height_mm = j.at("height");
    s.paper = static_cast<Paper>(small(j.at("paper"), 0, static_cast<int>(kLastPaper)));
    s.spacing_mm = j.at("spacing");
    s.colour = colour_in(j.at("colour"));
    s.picture = j.at("picture");
    s.endless = j.at("endless");
    s.errands = j.value("errands", false);
    return s;
}

}  // namespace fernleaf
