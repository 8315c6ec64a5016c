#include "render/formula_setting.h"

#include <algorithm>
#include <map>

#include "math/written_math.h"
#include "render/formula_look.h"

namespace fernleaf {
namespace {

constexpr double kTypePx = 40;                         // in which it is set, before it is scaled
constexpr double kMuchWider = 1.4;                     // than its ink
constexpr double kLeastSetMm = 3, kLargestSetMm = 15;  // of type, in the place of ink

// The left end of the baseline, in the formula's own millimetres about its middle.
Point left_of(const SetFormula& f) { return {-f.width_mm / 2, (f.ascent_mm - f.descent_mm) / 2}; }

Point turned(Point p, double degrees) { return Affine::turn(degrees * std::numbers::pi / 180, {})(p); }

}  // namespace

bool measure(SetFormula& formula) {
    const auto written = written_math(formula.latex);
    if (!written) return false;
    const FormulaLook look = formula_look(*written, kTypePx);
    const double by = formula.size_mm / kTypePx;
    const Point before = formula.middle + turned(left_of(formula), formula.angle);
    formula.width_mm = look.width * by, formula.ascent_mm = look.ascent * by, formula.descent_mm = look.descent * by;
    formula.middle = before - turned(left_of(formula), formula.angle);
    return true;
}

std::optional<SetFormula> formula_at(Point baseline, std::string latex, double size_mm) {
    SetFormula out;
    out.middle = baseline;
    out.size_mm = size_mm;
    out.latex = std::move(latex);
    if (!measure(out)) return std::nullopt;
    return out;
}

std::optional<SetFormula> set_from_ink(const ReadLine& line, const std::vector<Stroke>& strokes) {
    if (line.words.empty() || line.ink.empty()) return std::nullopt;
    Box box;
    std::map<uint32_t, size_t> colours;
    for (const Stroke& s : strokes)
        if (std::ranges::find(line.ink, s.id) != line.ink.end()) box.include(s.box()), ++colours[s.pen.colour];
    if (box.empty()) return std::nullopt;
    auto out = formula_at({}, line.words[0].text, 1);
    if (!out) return std::nullopt;
    // As high as its ink, unless that would be much wider: type has more room about its signs.
    const double high = out->ascent_mm + out->descent_mm, wide = out->width_mm;
    out->size_mm =
        std::clamp(std::min(box.height() / std::max(high, 0.1), kMuchWider * box.width() / std::max(wide, 0.1)),
                   kLeastSetMm, kLargestSetMm);
    out->colour = std::ranges::max_element(colours, {}, [](const auto& c) { return c.second; })->first;
    out->ink = line.ink;
    measure(*out);
    out->middle = {box.left + out->width_mm / 2, box.centre().y};
    return out;
}

void draw_formula(QPainter& painter, const SetFormula& formula, const PageScheme& scheme) {
    const auto written = written_math(formula.latex);
    const FormulaLook look =
        written ? formula_look(*written, kTypePx) : plain_look(QString::fromStdString(formula.latex), kTypePx);
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(formula.middle.x, formula.middle.y);
    painter.rotate(formula.angle);
    const Point left = left_of(formula);
    painter.translate(left.x, left.y);
    painter.scale(formula.size_mm / kTypePx, formula.size_mm / kTypePx);
    painter.fillPath(look.path, shown_colour(formula.colour, scheme));
    painter.restore();
}

}  // namespace fernleaf
