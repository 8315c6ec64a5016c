#include "document/shape/fair_shape.h"

#include <algorithm>
#include <cmath>

#include "base/json.h"
#include "document/affine_json.h"
#include "ink/selecting.h"

namespace fernleaf {

bool ElementTraits<FairShape>::covers(const FairShape& fair, Point p, double reach_mm) {
    const auto outline = outline_of(fair.shape);
    if (fair.fill_strength > 0 && is_closed(fair.shape.kind) && inside(outline.front(), p)) return true;
    return distance_to(outline, p) <= reach_mm + fair.width_mm / 2;
}

bool ElementTraits<FairShape>::mostly_inside(const FairShape& fair, const std::vector<Point>& polygon) {
    // By length, for a line has few points.
    constexpr double kStepMm = 1;
    size_t all = 0, within = 0;
    for (const std::vector<Point>& line : outline_of(fair.shape))
        for (size_t i = 1; i < line.size(); ++i) {
            const double steps = std::ceil(std::min(distance(line[i - 1], line[i]) / kStepMm, 1000.0));
            for (double k = 0.5; k < steps; ++k) {
                ++all;
                within += inside(polygon, line[i - 1] + (line[i] - line[i - 1]) * (k / steps)) ? 1 : 0;
            }
        }
    return 2 * within > all;
}

FairShape ElementTraits<FairShape>::transformed(FairShape fair, const Affine& by) {
    fair.shape = fernleaf::transformed(std::move(fair.shape), by);
    fair.width_mm = std::clamp(fair.width_mm * by.growth(), kThinnestBorderMm, kThickestBorderMm);
    if (!fair.ink.empty()) fair.transform_since_set = fair.transform_since_set.then(by);
    return fair;
}

std::optional<std::string> ElementTraits<FairShape>::validation_error(const FairShape& fair) {
    const auto placed = [](const LinkEnd& end) { return std::abs(end.at.x) <= 10 && std::abs(end.at.y) <= 10; };
    if (is_valid(fair.shape) && fair.width_mm >= kThinnestBorderMm && fair.width_mm <= kThickestBorderMm &&
        fair.fill_strength >= 0 && fair.fill_strength <= 1 && placed(fair.from) && placed(fair.to))
        return {};
    return "A shape holds numbers that are no place on a page.";
}

std::string ElementTraits<FairShape>::encode(const FairShape& fair) {
    Json j{{"shape", name_of(fair.shape.kind)}, {"width", fair.width_mm}, {"colour", fair.colour}};
    for (const Point& p : fair.shape.points) j["points"].push_back({p.x, p.y});
    if (fair.shape.radius != 0) j["radius"] = fair.shape.radius;
    if (!fair.ink.empty()) j["ink"] = fair.ink;
    if (fair.transform_since_set != Affine()) j["carried"] = json_of(fair.transform_since_set);
    if (fair.key != 0) j["key"] = fair.key;
    for (const auto& [name, end] : {std::pair("from", fair.from), std::pair("to", fair.to)})
        if (end.figure != 0) j[name] = {end.figure, end.at.x, end.at.y};
    if (fair.routing != Routing::straight) j["routing"] = static_cast<int>(fair.routing);
    if (fair.form != BorderForm::solid) j["form"] = static_cast<int>(fair.form);
    if (fair.fill_strength > 0) j["fill"] = {fair.fill, fair.fill_strength};
    if (fair.group != 0) j["group"] = fair.group;
    return text_of(j);
}

Result<FairShape> ElementTraits<FairShape>::decode(std::string_view bytes) {
    const Error damaged{"A shape in the library is damaged."};
    try {
        const Json j = Json::parse(bytes);
        FairShape fair;
        const std::optional<ShapeKind> kind = shape_kind(j.at("shape").get<std::string>());
        if (!kind) return damaged;
        fair.shape.kind = *kind;
        for (const Json& p : j.at("points")) fair.shape.points.push_back({p.at(0), p.at(1)});
        fair.shape.radius = j.value("radius", 0.0);
        fair.width_mm = j.at("width");
        fair.colour = colour_in(j.at("colour"));
        if (const auto from = j.find("ink"); from != j.end()) fair.ink = ids_in(*from);
        if (const auto c = j.find("carried"); c != j.end()) fair.transform_since_set = affine_from(*c);
        if (const auto key = j.find("key"); key != j.end()) fair.key = whole(*key, INT64_MIN, INT64_MAX);
        for (const auto& [name, end] : {std::pair("from", &fair.from), std::pair("to", &fair.to)})
            if (const auto at = j.find(name); at != j.end())
                *end = {whole(at->at(0), INT64_MIN, INT64_MAX), {at->at(1), at->at(2)}};
        if (const auto r = j.find("routing"); r != j.end()) fair.routing = static_cast<Routing>(small(*r, 0, 2));
        if (const auto f = j.find("form"); f != j.end()) fair.form = static_cast<BorderForm>(small(*f, 0, 2));
        if (const auto f = j.find("fill"); f != j.end()) fair.fill = colour_in(f->at(0)), fair.fill_strength = f->at(1);
        fair.group = group_in(j);
        if (validation_error(fair)) return damaged;
        return fair;
    } catch (const std::exception&) {
        return damaged;
    }
}

}  // namespace fernleaf
