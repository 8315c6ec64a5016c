#include "math/quantities.h"

#include <algorithm>
#include <array>
#include <cstdint>
#include <iterator>
#include <optional>
#include <set>
#include <utility>
#include <vector>

#include "base/text.h"

namespace fernleaf {
namespace {

// Powers of: m, kg, s, A, K, mol, °C, €, £.
constexpr size_t kDimensions = 9;
using Dimension = std::array<int, kDimensions>;

struct Unit {
    Dimension dimension = {};
    int64_t above = 1, below = 1;  // of the units of the SI
};

struct Listed {
    const char* sign;
    Unit unit;
    const char* prefixes;  // "m" for milli, "u" for micro
};

constexpr Dimension kForce = {1, 1, -2}, kPressure = {-1, 1, -2}, kEnergy = {2, 1, -2}, kPower = {2, 1, -3},
                    kVoltage = {2, 1, -3, -1}, kResistance = {2, 1, -3, -2}, kCharge = {0, 0, 1, 1};

// Without prefixes where they would make another unit (min, ft), or hardly anybody writes them.
const std::vector<Listed>& listed() {
    static const std::vector<Listed> units = {
        {"m", {{1}}, "numcdk"},
        {"g", {{0, 1}, 1, 1000}, "umk"},
        {"s", {{0, 0, 1}}, "num"},
        {"A", {{0, 0, 0, 1}}, "um"},
        {"K", {{0, 0, 0, 0, 1}}, ""},
        {"mol", {{0, 0, 0, 0, 0, 1}}, "m"},
        {"°C", {{0, 0, 0, 0, 0, 0, 1}}, ""},
        {"min", {{0, 0, 1}, 60, 1}, ""},
        {"h", {{0, 0, 1}, 3600, 1}, ""},
        {"d", {{0, 0, 1}, 86400, 1}, ""},
        {"l", {{3}, 1, 1000}, "umcdh"},
        {"L", {{3}, 1, 1000}, "m"},
        {"t", {{0, 1}, 1000, 1}, ""},
        {"ha", {{2}, 10000, 1}, ""},
        {"Hz", {{0, 0, -1}}, "kMG"},
        {"N", {kForce}, "mk"},
        {"Pa", {kPressure}, "hkM"},
        {"bar", {kPressure, 100000, 1}, "m"},
        {"J", {kEnergy}, "kM"},
        {"W", {kPower}, "mkMG"},
        {"Wh", {kEnergy, 3600, 1}, "kM"},
        {"V", {kVoltage}, "mk"},
        {"C", {kCharge}, ""},
        {"Ah", {kCharge, 3600, 1}, "m"},
        {"Ω", {kResistance}, "kM"},
        {"in", {{1}, 127, 5000}, ""},
        {"ft", {{1}, 381, 1250}, ""},
        {"yd", {{1}, 1143, 1250}, ""},
        {"mi", {{1}, 201168, 125}, ""},
        {"oz", {{0, 1}, 45359237, 1600000000}, ""},
        {"lb", {{0, 1}, 45359237, 100000000}, ""},
        {"€", {{0, 0, 0, 0, 0, 0, 0, 1}}, ""},
        {"ct", {{0, 0, 0, 0, 0, 0, 0, 1}, 1, 100}, ""},
        {"£", {{0, 0, 0, 0, 0, 0, 0, 0, 1}}, ""},
    };
    return units;
}

Unit with_prefix(Unit unit, char prefix) {
    static const std::map<char, std::pair<int64_t, int64_t>> factors = {
        {'n', {1, 1000000000}}, {'u', {1, 1000000}}, {'m', {1, 1000}},    {'c', {1, 100}},       {'d', {1, 10}},
        {'h', {100, 1}},        {'k', {1000, 1}},    {'M', {1000000, 1}}, {'G', {1000000000, 1}}};
    const auto& [above, below] = factors.at(prefix);
    unit.above *= above, unit.below *= below;
    return unit;
}

const std::map<std::string, Unit>& units() {
    static const std::map<std::string, Unit> all = [] {
        std::map<std::string, Unit> out;
        for (const Listed& one : listed()) {
            out[one.sign] = one.unit;
            for (const char* prefix = one.prefixes; *prefix; ++prefix) {
                const std::string sign = *prefix == 'u' ? "µ" : std::string(1, *prefix);
                out[sign + one.sign] = with_prefix(one.unit, *prefix);
            }
        }
        return out;
    }();
    return all;
}

// Letters as they stand in signs of units.
std::string as_in_units(const std::string& name) {
    return name == "mu" || name == "μ" ? "µ" : name == "Omega" || name == "Ω" ? "Ω" : name;
}

bool is_one_letter(const std::string& sign) { return decode_utf8(sign).size() == 1; }

MathTree unit_of(std::string sign) { return {MathKind::unit, std::move(sign), {}}; }

// A power by a whole number: 2, -1.
bool is_whole_power(const MathTree& tree) {
    const MathTree& power = tree.parts[1];
    const MathTree& inner = power.kind == MathKind::negative ? power.parts[0] : power;
    return inner.kind == MathKind::number && inner.text.size() == 1 && inner.text.find('.') == std::string::npos;
}

// Finds letters that are units.
class Reading {
public:
    // taken: letters that have values and are no units; below: those that are none in what something is divided by.
    Reading(std::set<std::string> taken, std::set<std::string> below)
        : taken_(std::move(taken)), below_(std::move(below)) {}

    // Nothing where some letter is no unit.
    std::optional<MathTree> whole(const MathTree& tree) {
        MathTree out = walked(tree);
        return failed_ || !found_ ? std::nullopt : std::optional(std::move(out));
    }
    bool only_single_letters() const { return !longer_; }

private:
    bool known(const MathTree& tree) const {
        return std::ranges::all_of(
            unknowns_in(tree), [&](const std::string& name) { return taken_.contains(name) || below_.contains(name); });
    }

    MathTree walked(const MathTree& tree) {
        if (tree.kind == MathKind::product) return product(tree);
        if (tree.kind == MathKind::quotient) return quotient(tree);
        if (tree.kind == MathKind::unit) found_ = true, longer_ = longer_ || !is_one_letter(tree.text);
        if (tree.kind == MathKind::name && !known(tree)) failed_ = true;
        MathTree out = tree;
        for (MathTree& part : out.parts) part = walked(part);
        return out;
    }

    MathTree product(const MathTree& tree) {
        MathTree out = math_of(MathKind::product, {});
        bool number = false;  // that units may follow
        for (size_t i = 0; i < tree.parts.size();) {
            const size_t end = number ? run_end(tree.parts, i) : i;
            if (end > i) {
                if (auto units = segmented({tree.parts.begin() + static_cast<std::ptrdiff_t>(i),
                                            tree.parts.begin() + static_cast<std::ptrdiff_t>(end)})) {
                    std::ranges::move(*units, std::back_inserter(out.parts));
                    i = end, number = false;
                    continue;
                }
            }
            number = known(tree.parts[i]) && !holds(tree.parts[i], MathKind::unit);
            out.parts.push_back(walked(tree.parts[i]));
            ++i;
        }
        return out.parts.size() == 1 ? std::move(out.parts[0]) : out;
    }

    MathTree quotient(const MathTree& tree) {
        MathTree above = walked(tree.parts[0]);
        // 90 km / h: what it is divided by is a unit as well.
        const bool measures = above.kind == MathKind::product && above.parts.back().kind != MathKind::number &&
                              holds(above.parts.back(), MathKind::unit);
        if (measures && !is_below(tree.parts[1]))
            if (auto below = units_only(tree.parts[1]))
                return math_of(MathKind::quotient, {std::move(above), *std::move(below)});
        return math_of(MathKind::quotient, {std::move(above), walked(tree.parts[1])});
    }

    bool is_below(const MathTree& tree) const { return tree.kind == MathKind::name && below_.contains(tree.text); }

    static bool may_be_unit(const MathTree& part) {
        return part.kind == MathKind::name || part.kind == MathKind::unit ||
               (part.kind == MathKind::power && part.parts[0].kind == MathKind::name && is_whole_power(part)) ||
               (part.kind == MathKind::quotient && may_be_unit(part.parts[0]) && may_be_unit(part.parts[1]));
    }
    static size_t run_end(const std::vector<MathTree>& parts, size_t from) {
        size_t end = from;
        while (end < parts.size() && may_be_unit(parts[end])) ++end;
        return end;
    }

    std::optional<MathTree> units_only(const MathTree& tree) {
        const std::vector<MathTree> run = tree.kind == MathKind::product ? tree.parts : std::vector{tree};
        if (run_end(run, 0) != run.size()) return {};
        auto out = segmented(run);
        if (!out) return {};
        return out->size() == 1 ? std::move((*out)[0]) : math_of(MathKind::product, *std::move(out));
    }

    // Letters beside one another as units, the longest first: k W h is kWh. Nothing: they are none.
    std::optional<std::vector<MathTree>> segmented(const std::vector<MathTree>& run) {
        std::vector<MathTree> out;
        for (size_t i = 0; i < run.size();) {
            if (run[i].kind == MathKind::unit) {
                out.push_back(run[i++]);
                found_ = true;
                continue;
            }
            if (run[i].kind == MathKind::quotient) {
                auto above = units_only(run[i].parts[0]), below = units_only(run[i].parts[1]);
                if (!above || !below) return {};
                out.push_back(math_of(MathKind::quotient, {*std::move(above), *std::move(below)}));
                ++i;
                continue;
            }
            size_t taken = 0;
            std::string letters;
            for (size_t k = i; k < run.size() && k < i + 3; ++k) {
                const bool raised = run[k].kind == MathKind::power;
                if (!raised && run[k].kind != MathKind::name) break;
                const std::string& name = (raised ? run[k].parts[0] : run[k]).text;
                letters += as_in_units(name);
                if (is_unit(letters) && !(k == i && taken_.contains(name))) taken = k - i + 1;
                if (raised) break;
            }
            if (taken == 0) return {};
            letters.clear();
            for (size_t k = i; k < i + taken; ++k)
                letters += as_in_units((run[k].kind == MathKind::power ? run[k].parts[0] : run[k]).text);
            longer_ = longer_ || !is_one_letter(letters);
            found_ = true;
            const MathTree& last = run[i + taken - 1];
            MathTree unit = unit_of(std::move(letters));
            out.push_back(last.kind == MathKind::power ? math_of(MathKind::power, {std::move(unit), last.parts[1]})
                                                       : std::move(unit));
            i += taken;
        }
        return out;
    }

    std::set<std::string> taken_, below_;
    bool found_ = false, longer_ = false, failed_ = false;
};

// A number and letters alone, which may be its unit: nothing that had to be worked out.
bool may_be_quantity(const MathTree& tree) {
    const auto has_letters = [](const MathTree& part) {
        return part.kind != MathKind::sum && (!unknowns_in(part).empty() || holds(part, MathKind::unit));
    };
    switch (tree.kind) {
        case MathKind::negative:
            return may_be_quantity(tree.parts[0]);
        case MathKind::quotient: {
            const MathTree& below = tree.parts[1];
            const MathTree& first = below.kind == MathKind::product ? below.parts[0] : below;
            return may_be_quantity(tree.parts[0]) && has_letters(first);
        }
        case MathKind::product:
            return tree.parts[0].kind == MathKind::number &&
                   std::all_of(tree.parts.begin() + 1, tree.parts.end(), has_letters);
        default:
            return false;
    }
}

struct Misfit {
    std::string told;
};

using Shape = std::vector<std::pair<std::string, int>>;  // units and their powers, in the order in which they came

Dimension dimension_of(const Shape& shape) {
    Dimension out{};
    for (const auto& [sign, power] : shape)
        for (size_t i = 0; i < kDimensions; ++i) out[i] += power * units().at(sign).dimension[i];
    return out;
}

std::string raised(const std::string& sign, int power) {
    static const std::array<const char*, 10> digits = {"⁰", "¹", "²", "³", "⁴", "⁵", "⁶", "⁷", "⁸", "⁹"};
    std::string out = sign;
    if (power != 1)
        for (const char c : std::to_string(power)) out += digits[static_cast<size_t>(c - '0')];
    return out;
}

std::string text_of(const Shape& shape) {
    std::string above, below;
    size_t many = 0;
    for (const auto& [sign, power] : shape) {
        std::string& side = power > 0 ? above : below;
        side += (side.empty() ? "" : " ") + raised(sign, std::abs(power));
        many += power < 0;
    }
    if (below.empty()) return above;
    return above + "/" + (many > 1 ? "(" + below + ")" : below);
}

std::string called(const Shape& shape) { return shape.empty() ? "a plain number" : text_of(shape); }

MathTree whole_number(int64_t value) { return math_number(std::to_string(value)); }

// What a shape comes to in units of the SI.
MathTree factor_of(const Shape& shape) {
    MathTree out = math_of(MathKind::product, {math_number("1"), math_number("1")});
    for (const auto& [sign, power] : shape) {
        const Unit& unit = units().at(sign);
        MathTree one = math_of(MathKind::quotient, {whole_number(unit.above), whole_number(unit.below)});
        MathTree exponent = whole_number(std::abs(power));
        if (power < 0) exponent = math_of(MathKind::negative, {std::move(exponent)});
        out.parts.push_back(math_of(MathKind::power, {std::move(one), std::move(exponent)}));
    }
    return out;
}

Shape multiplied(Shape left, const Shape& right, int times) {
    for (const auto& [sign, power] : right) {
        // Of one dimension the unit that came first: m times cm is m².
        const auto same = std::ranges::find_if(left, [&, &other = sign](const auto& mine) {
            return units().at(mine.first).dimension == units().at(other).dimension;
        });
        if (same == left.end())
            left.emplace_back(sign, power * times);
        else
            same->second += power * times;
    }
    std::erase_if(left, [](const auto& part) { return part.second == 0; });
    // Lengths and a volume that came together cancel out by dimension alone.
    if (dimension_of(left) == Dimension{}) left.clear();
    return left;
}

// kg m/s² is a newton, V A a watt.
Shape named(Shape shape) {
    static const std::vector<std::pair<const char*, Dimension>> names = {
        {"N", kForce}, {"Pa", kPressure}, {"J", kEnergy}, {"W", kPower}, {"V", kVoltage}, {"Ω", kResistance}};
    const auto holds_sign = [&](const char* sign) {
        return std::ranges::any_of(shape, [&](const auto& part) { return part.first == sign; });
    };
    const bool coherent = std::ranges::all_of(shape, [](const auto& part) {
        const Unit& unit = units().at(part.first);
        return unit.above == unit.below;
    });
    // A torque is no energy.
    if (shape.size() < 2 || !coherent || (holds_sign("N") && holds_sign("m"))) return shape;
    for (const auto& [sign, dimension] : names)
        if (dimension_of(shape) == dimension) return {{sign, 1}};
    return shape;
}

std::optional<int> small_whole(const MathTree& tree) {
    if (tree.kind == MathKind::negative) {
        const auto inner = small_whole(tree.parts[0]);
        return inner ? std::optional(-*inner) : std::nullopt;
    }
    if (tree.kind != MathKind::number || tree.text.size() > 2 || tree.text.find('.') != std::string::npos) return {};
    return std::stoi(tree.text);
}

// What something is measured in.
Shape shape_of(const MathTree& tree);

void must_be_plain(const MathTree& tree, const std::string& what) {
    const Shape shape = shape_of(tree);
    if (!shape.empty()) throw Misfit{what + " must be a plain number, not " + text_of(shape)};
}

Shape same_of_all(const std::vector<MathTree>& parts, const char* done) {
    Shape first = shape_of(parts[0]);
    for (size_t i = 1; i < parts.size(); ++i) {
        const Shape other = shape_of(parts[i]);
        if (dimension_of(other) != dimension_of(first))
            throw Misfit{called(first) + " and " + called(other) + " can't be " + done};
    }
    return first;
}

Shape root_of(const Shape& shape, int index) {
    Shape out = shape;
    for (auto& [sign, power] : out) {
        if (power % index != 0) throw Misfit{"there is no such root of " + text_of(shape)};
        power /= index;
    }
    return out;
}

Shape shape_of_call(const MathTree& tree) {
    const std::string& f = tree.text;
    if (f == "abs" || f == "round" || f == "floor" || f == "ceil") return shape_of(tree.parts[0]);
    if (f == "min" || f == "max") return same_of_all(tree.parts, "compared");
    if (f == "plus_minus") return same_of_all(tree.parts, "added");
    if (f == "sqrt") return root_of(shape_of(tree.parts[0]), 2);
    if (f == "root") {
        const auto index = small_whole(tree.parts[0]);
        Shape of = shape_of(tree.parts[1]);
        if (of.empty()) return of;
        if (!index || *index < 1) throw Misfit{"there is no such root of " + text_of(of)};
        return root_of(of, *index);
    }
    for (const MathTree& part : tree.parts) must_be_plain(part, "what " + f + " is taken of");
    return {};
}

Shape shape_of(const MathTree& tree) {
    switch (tree.kind) {
        case MathKind::unit:
            return {{tree.text, 1}};
        case MathKind::number:
        case MathKind::name:
            return {};
        case MathKind::sum:
            return same_of_all(tree.parts, "added");
        case MathKind::product: {
            Shape out;
            for (const MathTree& part : tree.parts) out = multiplied(std::move(out), shape_of(part), 1);
            return out;
        }
        case MathKind::quotient:
            return multiplied(shape_of(tree.parts[0]), shape_of(tree.parts[1]), -1);
        case MathKind::power: {
            must_be_plain(tree.parts[1], "an exponent");
            const Shape base = shape_of(tree.parts[0]);
            const auto power = small_whole(tree.parts[1]);
            if (base.empty()) return {};
            if (!power) throw Misfit{"there is no such power of " + text_of(base)};
            return multiplied({}, base, *power);
        }
        case MathKind::negative:
        case MathKind::asked:
            return shape_of(tree.parts[0]);
        case MathKind::call:
            return shape_of_call(tree);
        case MathKind::relation:
            return same_of_all(tree.parts, "compared");
        case MathKind::all_of:
            for (const MathTree& part : tree.parts) static_cast<void>(shape_of(part));
            return {};
        case MathKind::matrix:
        case MathKind::row:
            for (const MathTree& part : tree.parts) must_be_plain(part, "what stands in a matrix");
            return {};
    }
    return {};
}

// In units of the SI, without their names.
MathTree plain(MathTree tree) {
    if (tree.kind == MathKind::unit) return factor_of({{tree.text, 1}});
    for (MathTree& part : tree.parts) part = plain(std::move(part));
    return tree;
}

Measured in_shape(const MathTree& tree, const Shape& shape) {
    return {math_of(MathKind::quotient, {plain(tree), factor_of(shape)}), text_of(shape)};
}

}  // namespace

bool is_unit(const std::string& sign) { return units().contains(sign); }

bool are_units_of_a_kind(const std::string& larger, const std::string& smaller) {
    const auto one = units().find(larger), other = units().find(smaller);
    if (one == units().end() || other == units().end() || one->second.dimension != other->second.dimension)
        return false;
    const auto size = [](const Unit& unit) {
        return static_cast<double>(unit.above) / static_cast<double>(unit.below);
    };
    return size(one->second) > size(other->second);
}

bool is_quantity(const MathTree& tree) { return holds(tree, MathKind::unit) && may_be_quantity(tree); }

bool has_unit_at_last(const MathTree& relation) {
    if (relation.kind != MathKind::relation || !is_quantity(relation.parts.back())) return false;
    return std::none_of(relation.parts.begin(), relation.parts.end() - 1,
                        [](const MathTree& side) { return holds(side, MathKind::unit); });
}

MathTree with_units(const MathTree& tree, const std::map<std::string, MathTree>& values) {
    const bool gives = value_given(tree) != nullptr;
    const MathTree side = gives ? without_name(tree) : tree;
    const bool lone = gives && may_be_quantity(side);
    std::set<std::string> taken, below;
    for (const auto& [name, value] : values) {
        if (!lone || !holds(value, MathKind::unit)) taken.insert(name);
        if (name != "s" && name != "h") below.insert(name);  // a speed is told far oftener than divided by a way
    }
    Reading reading(std::move(taken), std::move(below));
    auto read = reading.whole(side);
    if (!read) return tree;
    MathTree known = *std::move(read), out = known;
    if (gives) {
        std::vector<MathTree> sides{tree.parts[0]};
        if (tree.parts.size() == 2)
            sides.push_back(known);
        else
            std::ranges::copy(known.parts, std::back_inserter(sides));
        out = {MathKind::relation, tree.text, std::move(sides)};
    }
    if (!reading.only_single_letters()) return out;
    // 3 m² + 2 m may well be a polynomial.
    for (const auto& [name, value] : values) known = substituted(std::move(known), name, value);
    return measured(known) || has_unit_at_last(known) ? out : tree;
}

MathTree without_units(MathTree tree, const std::set<std::string>& only) {
    std::vector<MathTree> parts;
    for (MathTree& part : tree.parts) {
        const bool joins = tree.kind == MathKind::product && part.kind == MathKind::unit;
        part = without_units(std::move(part), only);
        if (joins && part.kind == MathKind::product)
            std::ranges::move(part.parts, std::back_inserter(parts));
        else
            parts.push_back(std::move(part));
    }
    tree.parts = std::move(parts);
    if (tree.kind != MathKind::unit || (!only.empty() && !only.contains(tree.text))) return tree;
    if (tree.text.starts_with("°")) return math_name(tree.text);
    MathTree out = math_of(MathKind::product, {});
    for (const char32_t letter : decode_utf8(tree.text)) out.parts.push_back(math_name(encode_utf8({&letter, 1})));
    return out.parts.size() == 1 ? std::move(out.parts[0]) : out;
}

MathTree without_units(MathTree tree) { return without_units(std::move(tree), {}); }

Result<Measured> measured(const MathTree& tree) {
    try {
        return in_shape(tree, named(shape_of(tree)));
    } catch (const Misfit& misfit) {
        return Error{misfit.told};
    }
}

Result<Measured> measured_like(const MathTree& other, const MathTree& tree) {
    try {
        static_cast<void>(same_of_all({other, tree}, "compared"));
        return in_shape(tree, named(shape_of(other)));
    } catch (const Misfit& misfit) {
        return Error{misfit.told};
    }
}

std::string quantity_text(const std::string& number, const std::string& unit) {
    return number + (unit.empty() || unit.starts_with('/') ? "" : " ") + unit;
}

}  // namespace fernleaf
