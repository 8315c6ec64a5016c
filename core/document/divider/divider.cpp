#include "document/divider/divider.h"

#include <cmath>

#include "base/json.h"
#include "document/turned_box.h"

namespace fernleaf {
namespace {

constexpr double kWaveHeights = 4, kTwofoldHeights = 3;  // of a rule's thickness

Box straight(const Divider& d) {
    const double height = height_of(d);
    return Box::of(d.middle.x - d.length_mm / 2, d.middle.y - height / 2, d.length_mm, height);
}

}  // namespace

double height_of(const Divider& divider) {
    const double times = divider.form == RuleForm::wavy      ? kWaveHeights
                         : divider.form == RuleForm::twofold ? kTwofoldHeights
                                                             : 1;
    return times * divider.thickness_mm;
}

Box ElementTraits<Divider>::bounds(const Divider& divider) {
    return turned(straight(divider), divider.angle, divider.middle);
}

bool ElementTraits<Divider>::covers(const Divider& divider, Point p, double reach_mm) {
    return lies_on(straight(divider).grown(reach_mm), divider.angle, p);
}

bool ElementTraits<Divider>::mostly_inside(const Divider& divider, const std::vector<Point>& polygon) {
    return fernleaf::mostly_inside(straight(divider), divider.angle, polygon);
}

Divider ElementTraits<Divider>::transformed(Divider divider, const Affine& by) {
    const double radians = divider.angle * std::numbers::pi / 180;
    const Point along{std::cos(radians), std::sin(radians)};
    const Point now{by.xx * along.x + by.xy * along.y, by.yx * along.x + by.yy * along.y};
    divider.middle = by(divider.middle);
    divider.length_mm = std::max(kLeastDividerMm, divider.length_mm * length(now));
    divider.angle = std::atan2(now.y, now.x) * 180 / std::numbers::pi;
    return divider;
}

std::optional<std::string> ElementTraits<Divider>::validation_error(const Divider& d) {
    if (is_place(d.middle.x) && is_place(d.middle.y) && d.length_mm >= 0 && is_place(d.length_mm) &&
        std::isfinite(d.angle) && d.thickness_mm >= kThinnestRuleMm && d.thickness_mm <= kThickestRuleMm)
        return {};
    return "A divider holds numbers that are no place on a page.";
}

std::string ElementTraits<Divider>::encode(const Divider& d) {
    Json j{{"middle", {d.middle.x, d.middle.y}},
           {"length", d.length_mm},
           {"thickness", d.thickness_mm},
           {"colour", d.colour}};
    if (d.angle != 0) j["angle"] = d.angle;
    if (d.form != RuleForm::plain) j["form"] = static_cast<int>(d.form);
    if (d.group != 0) j["group"] = d.group;
    return text_of(j);
}

Result<Divider> ElementTraits<Divider>::decode(std::string_view bytes) {
    const Error damaged{"A divider in the library is damaged."};
    try {
        const Json j = Json::parse(bytes);
        Divider d;
        d.middle = {j.at("middle").at(0), j.at("middle").at(1)};
        d.length_mm = j.at("length");
        d.thickness_mm = j.at("thickness");
        d.colour = colour_in(j.at("colour"));
        d.angle = j.value("angle", 0.0);
        // A later release may know more of them.
        d.form = static_cast<RuleForm>(std::clamp(small_or(j, "form", 0), 0, static_cast<int>(RuleForm::wavy)));
        d.group = group_in(j);
        if (validation_error(d)) return damaged;
        return d;
    } catch (const std::exception&) {
        return damaged;
    }
}

}  // namespace fernleaf
