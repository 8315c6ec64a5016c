#include "math/page_values.h"

#include <algorithm>
#include <optional>

#include "math/math_text.h"
#include "math/numeric_function.h"
#include "math/parse_math.h"
#include "math/quantities.h"

namespace fernleaf {
namespace {

size_t parts_of(const MathTree& tree) {
    size_t out = 1;
    for (const MathTree& part : tree.parts) out += parts_of(part);
    return out;
}

size_t times_named(const MathTree& tree, const std::string& name) {
    size_t out = tree.kind == MathKind::name && tree.text == name;
    for (const MathTree& part : tree.parts) out += times_named(part, name);
    return out;
}

}  // namespace

void PageValues::take(const MathTree& written) {
    const MathTree formula = with_units(written, values_);
    const MathTree* given = value_given(formula);
    if (!given) return;
    MathTree value = *given;
    for (const auto& [name, other] : values_) {
        const size_t times = times_named(value, name);
        if (times == 0) continue;
        // Each line may double what stands above it.
        if (parts_of(value) + times * parts_of(other) > kMostMathParts) return;
        value = substituted(std::move(value), name, other);
    }
    if (!is_sound(value)) return;
    values_[formula.parts[0].text] = std::move(value);
    told_ += ";" + math_text(formula);
}

std::map<std::string, double> PageValues::numbers(AngleUnit angle) const {
    std::map<std::string, double> out;
    for (const auto& [name, value] : values_)
        if (const auto number = number_of(value, angle, {})) out[name] = *number;
    return out;
}

void give_values(std::vector<Plot>& plots, const Reading& reading) {
    for (Plot& plot : plots) {
        PageValues values;
        for (const ReadLine& line : reading.lines) {
            if (line.kind != RegionKind::math || line.words.empty() || line.box.centre().y > plot.box.bottom) continue;
            if (const auto tree = parse_math(line.words[0].text, plot.decimal_comma)) values.take(*tree);
        }
        plot.values = values.numbers(plot.angles);
    }
}

}  // namespace fernleaf
