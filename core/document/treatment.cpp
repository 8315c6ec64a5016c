#include "document/treatment.h"

#include <cmath>

#include "base/json.h"

namespace fernleaf {

std::string encode_treatment(const Treatment& treatment) {
    if (treatment.untouched()) return {};
    Json j{{"turns", treatment.quarter_turns},
           {"angle", treatment.turn_deg},
           {"aspect", treatment.aspect},
           {"look", static_cast<int>(treatment.look)},
           {"without_rules", treatment.without_rules}};
    if (treatment.outline) {
        for (const Point& p : treatment.outline->corners) j["corners"].push_back({p.x, p.y});
        if (!treatment.outline->straight())
            for (const Bow& bow : treatment.outline->bows) j["bows"].push_back({bow.even, bow.odd});
    }
    if (treatment.dpi != 0) j["dpi"] = treatment.dpi;
    for (const Box& b : treatment.lifted) j["lifted"].push_back(json_of(b));
    return text_of(j);
}

Result<Treatment> decode_treatment(const std::string& json) {
    Treatment out;
    if (json.empty()) return out;
    const Error damaged{"What is done to a picture in the library is damaged."};
    try {
        const Json j = Json::parse(json);
        out.quarter_turns = small(j.at("turns"), 0, 3);
        out.turn_deg = j.at("angle");
        out.aspect = j.at("aspect");
        out.look = static_cast<Look>(small(j.at("look"), 0, static_cast<int>(Look::black_white)));
        out.without_rules = j.at("without_rules");
        if (!(std::abs(out.turn_deg) <= 45) || !(out.aspect == 0 || (out.aspect >= 0.05 && out.aspect <= 20)))
            return damaged;
        if (j.contains("corners")) {
            out.outline.emplace();
            for (size_t i = 0; i < 4; ++i) {
                out.outline->corners[i] = {j["corners"].at(i).at(0), j["corners"].at(i).at(1)};
                if (j.contains("bows")) out.outline->bows[i] = {j["bows"].at(i).at(0), j["bows"].at(i).at(1)};
            }
            if (!is_valid(*out.outline)) return damaged;
        }
        out.dpi = small_or(j, "dpi", 0);
        if (out.dpi < 0 || out.dpi > 10000) return damaged;
        if (j.contains("lifted"))
            for (const Json& b : j["lifted"]) {
                out.lifted.push_back(box_from(b));
                if (out.lifted.back().empty()) return damaged;
            }
        return out;
    } catch (const std::exception&) {
        return damaged;
    }
}

}  // namespace fernleaf
