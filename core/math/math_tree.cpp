#include "math/math_tree.h"

#include <algorithm>

namespace fernleaf {
namespace {

const std::set<std::string>& constants() {
    static const std::set<std::string> names = {"pi", "e", "i", "infinity"};
    return names;
}

// The name that a call gives a meaning of its own in its first argument; empty: it is none of those.
std::string bound_by(const MathTree& tree) {
    static const std::set<std::string> binding = {"integral",    "derivative", "limit",       "limit_below",
                                                  "limit_above", "sum_over",   "product_over"};
    if (tree.kind != MathKind::call || !binding.contains(tree.text) || tree.parts.size() < 2) return {};
    return tree.parts[1].text;
}

void collect(const MathTree& tree, const std::set<std::string>& bound, std::set<std::string>& out) {
    if (tree.kind == MathKind::name) {
        if (!bound.contains(tree.text) && !constants().contains(tree.text)) out.insert(tree.text);
        return;
    }
    const std::string own = bound_by(tree);
    // A derivative is still a function of what it is taken by.
    const bool hides =
        !own.empty() && tree.text != "derivative" && !(tree.text == "integral" && tree.parts.size() == 2);
    for (size_t i = 0; i < tree.parts.size(); ++i) {
        if (i == 1 && !own.empty()) continue;
        std::set<std::string> here = bound;
        if (i == 0 && hides) here.insert(own);
        collect(tree.parts[i], here, out);
    }
}

bool sound(const MathTree& tree, size_t depth, size_t& parts) {
    if (depth > kDeepestMath || ++parts > kMostMathParts) return false;
    const size_t count = tree.parts.size();
    bool right = true;
    switch (tree.kind) {
        case MathKind::number:
            right = count == 0 && !tree.text.empty() && std::ranges::count(tree.text, '.') <= 1 &&
                    tree.text.find_first_not_of("0123456789.") == std::string::npos &&
                    tree.text.find_first_of("0123456789") != std::string::npos;
            break;
        case MathKind::name:
        case MathKind::unit:
            right = count == 0 && !tree.text.empty();
            break;
        case MathKind::sum:
        case MathKind::product:
            right = count >= 2;
            break;
        case MathKind::quotient:
        case MathKind::power:
            right = count == 2;
            break;
        case MathKind::negative:
        case MathKind::asked:
            right = count == 1;
            break;
        case MathKind::call: {
            const MathFunction* function = known_function(tree.text);
            right = function && count >= static_cast<size_t>(function->least) &&
                    count <= static_cast<size_t>(function->most);
            if (right && !bound_by(tree).empty()) right = tree.parts[1].kind == MathKind::name;
            break;
        }
        case MathKind::relation:
            right = count >= 2 && !tree.text.empty();
            break;
        case MathKind::all_of:
            right = count >= 1 &&
                    std::ranges::all_of(tree.parts, [](const MathTree& p) { return p.kind == MathKind::relation; });
            break;
        case MathKind::matrix:
            right = count >= 1 && std::ranges::all_of(tree.parts, [&](const MathTree& p) {
                        return p.kind == MathKind::row && p.parts.size() == tree.parts[0].parts.size();
                    });
            break;
        case MathKind::row:
            right = count >= 1;
            break;
    }
    return right && std::ranges::all_of(tree.parts, [&](const MathTree& p) { return sound(p, depth + 1, parts); });
}

}  // namespace

const std::vector<MathFunction>& known_functions() {
    static const std::vector<MathFunction> functions = {
        {"sin", 1, 1, "sin", true},
        {"cos", 1, 1, "cos", true},
        {"tan", 1, 1, "tan", true},
        {"cot", 1, 1, "cot", true},
        {"sec", 1, 1, "sec", true},
        {"csc", 1, 1, "csc", true},
        {"arcsin", 1, 1, "asin", true, true},
        {"arccos", 1, 1, "acos", true, true},
        {"arctan", 1, 1, "atan", true, true},
        {"sinh", 1, 1, "sinh"},
        {"cosh", 1, 1, "cosh"},
        {"tanh", 1, 1, "tanh"},
        {"exp", 1, 1, "exp"},
        {"ln", 1, 1, "ln"},
        {"log", 1, 2, ""},
        {"sqrt", 1, 1, "sqrt"},
        {"root", 2, 2, ""},
        {"abs", 1, 1, "abs"},
        {"floor", 1, 1, "floor"},
        {"ceil", 1, 1, "ceil"},
        {"round", 1, 1, "round"},
        {"min", 1, 20, "min"},
        {"max", 1, 20, "max"},
        {"gcd", 2, 20, "gcd"},
        {"lcm", 2, 20, "lcm"},
        {"factorial", 1, 1, "factorial"},
        {"binomial", 2, 2, "comb"},
        {"mod", 2, 2, ""},
        {"percent", 1, 1, ""},
        {"degrees", 1, 1, ""},
        {"det", 1, 1, "det"},
        {"transpose", 1, 1, "transpose"},
        {"integral", 2, 4, ""},
        {"derivative", 2, 3, ""},
        {"limit", 3, 3, ""},
        {"limit_below", 3, 3, ""},
        {"limit_above", 3, 3, ""},
        {"sum_over", 4, 4, ""},
        {"product_over", 4, 4, ""},
        {"plus_minus", 2, 2, ""},
    };
    return functions;
}

const MathFunction* known_function(const std::string& name) {
    const auto& all = known_functions();
    const auto found = std::ranges::find_if(all, [&](const MathFunction& f) { return name == f.name; });
    return found == all.end() ? nullptr : &*found;
}

bool is_sound(const MathTree& tree) {
    size_t parts = 0;
    return sound(tree, 0, parts);
}

std::set<std::string> unknowns_in(const MathTree& tree) {
    std::set<std::string> out;
    collect(tree, {}, out);
    return out;
}

MathTree substituted(MathTree tree, const std::string& name, const MathTree& by) {
    if (tree.kind == MathKind::name) return tree.text == name ? by : tree;
    const bool own = bound_by(tree) == name;
    for (size_t i = 0; i < tree.parts.size(); ++i)
        if (!own || i > 1) tree.parts[i] = substituted(std::move(tree.parts[i]), name, by);
    return tree;
}

const MathTree* value_given(const MathTree& formula) {
    if (formula.kind != MathKind::relation || formula.parts[0].kind != MathKind::name ||
        formula.text.find_first_not_of("= ") != std::string::npos)
        return nullptr;
    const bool circle = std::any_of(formula.parts.begin() + 1, formula.parts.end(), [&](const MathTree& side) {
        return unknowns_in(side).contains(formula.parts[0].text);
    });
    return circle ? nullptr : &formula.parts[1];
}

MathTree without_name(const MathTree& formula) {
    if (formula.parts.size() == 2) return formula.parts[1];
    return {MathKind::relation, formula.text.substr(2), {formula.parts.begin() + 1, formula.parts.end()}};
}

bool holds(const MathTree& tree, MathKind kind) {
    return tree.kind == kind || std::ranges::any_of(tree.parts, [&](const MathTree& p) { return holds(p, kind); });
}

bool has_decimals(const MathTree& tree) {
    if (tree.kind == MathKind::number) return tree.text.find('.') != std::string::npos;
    return std::ranges::any_of(tree.parts, has_decimals);
}

}  // namespace fernleaf
