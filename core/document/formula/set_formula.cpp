#include "document/formula/set_formula.h"

#include <cmath>

#include "base/json.h"
#include "document/affine_json.h"
#include "document/turned_box.h"

namespace fernleaf {
namespace {

constexpr double kReachMm = 0.6;  // beyond its box, as a thin one is hard to hit

}  // namespace

Box straight_box(const SetFormula& f) {
    const double height = f.ascent_mm + f.descent_mm;
    return Box::of(f.middle.x - f.width_mm / 2, f.middle.y - height / 2, f.width_mm, height);
}

Box ElementTraits<SetFormula>::bounds(const SetFormula& formula) {
    return turned(straight_box(formula), formula.angle, formula.middle);
}

bool ElementTraits<SetFormula>::covers(const SetFormula& formula, Point p, double) {
    return lies_on(straight_box(formula).grown(kReachMm), formula.angle, p);
}

bool ElementTraits<SetFormula>::mostly_inside(const SetFormula& formula, const std::vector<Point>& polygon) {
    return fernleaf::mostly_inside(straight_box(formula), formula.angle, polygon);
}

SetFormula ElementTraits<SetFormula>::transformed(SetFormula formula, const Affine& by) {
    const double times =
        std::clamp(formula.size_mm * by.growth(), kLeastFormulaMm, kLargestFormulaMm) / formula.size_mm;
    formula.middle = by(formula.middle);
    formula.angle = turned_by(formula.angle, by);
    for (double* mm : {&formula.size_mm, &formula.width_mm, &formula.ascent_mm, &formula.descent_mm}) *mm *= times;
    if (!formula.ink.empty()) formula.transform_since_set = formula.transform_since_set.then(by);
    return formula;
}

std::optional<std::string> ElementTraits<SetFormula>::validation_error(const SetFormula& f) {
    const auto is_length = [](double mm) { return mm >= 0 && is_place(mm); };
    if (is_place(f.middle.x) && is_place(f.middle.y) && std::abs(f.angle) <= 360 && f.size_mm >= kLeastFormulaMm &&
        f.size_mm <= kLargestFormulaMm && is_length(f.width_mm) && is_length(f.ascent_mm) && is_length(f.descent_mm) &&
        f.latex.size() <= kLongestFormula)
        return {};
    return "A formula holds numbers that are no place on a page.";
}

std::string ElementTraits<SetFormula>::encode(const SetFormula& f) {
    Json j{{"middle", {f.middle.x, f.middle.y}},
           {"size", f.size_mm},
           {"box", {f.width_mm, f.ascent_mm, f.descent_mm}},
           {"latex", f.latex},
           {"colour", f.colour}};
    if (f.angle != 0) j["angle"] = f.angle;
    if (!f.ink.empty()) j["ink"] = f.ink;
    if (f.transform_since_set != Affine()) j["carried"] = json_of(f.transform_since_set);
    if (f.group != 0) j["group"] = f.group;
    return text_of(j);
}

Result<SetFormula> ElementTraits<SetFormula>::decode(std::string_view bytes) {
    const Error damaged{"A formula in the library is damaged."};
    try {
        const Json j = Json::parse(bytes);
        SetFormula f;
        f.middle = {j.at("middle").at(0), j.at("middle").at(1)};
        f.size_mm = j.at("size");
        f.width_mm = j.at("box").at(0), f.ascent_mm = j.at("box").at(1), f.descent_mm = j.at("box").at(2);
        f.latex = j.at("latex");
        f.colour = colour_in(j.at("colour"));
        f.angle = j.value("angle", 0.0);
        if (const auto from = j.find("ink"); from != j.end()) f.ink = ids_in(*from);
        if (const auto c = j.find("carried"); c != j.end()) f.transform_since_set = affine_from(*c);
        f.group = group_in(j);
        if (validation_error(f)) return damaged;
        return f;
    } catch (const std::exception&) {
        return damaged;
    }
}

}  // namespace fernleaf
