#include "math/math_signs.h"

#include <algorithm>
#include <array>
#include <map>
#include <string>

namespace fernleaf {
namespace {

std::vector<MathSign> all_signs() {
    using enum SignHeight;
    using enum SignKind;
    std::vector<MathSign> out;
    const auto add = [&](SignHeight height, SignKind kind, std::initializer_list<const char*> names) {
        for (const char* name : names) out.push_back({name, height, kind});
    };
    add(tall, digit, {"0", "1", "2", "3", "4", "5", "6", "7", "8", "9"});
    add(small, letter, {"a", "c", "e", "m", "n", "r", "s", "u", "v", "w", "x", "z", "o"});
    add(tall, letter, {"b", "d", "h", "i", "k", "l", "t"});
    add(tailed, letter, {"g", "p", "q", "y"});
    add(both, letter, {"f", "j"});
    add(tall, letter, {"A", "B", "D", "E", "F", "G", "H", "I", "J", "L", "M", "N", "P", "Q", "R", "T", "Y"});
    add(small, letter, {"\\alpha", "\\epsilon", "\\pi", "\\sigma", "\\tau", "\\omega"});
    add(tall, letter, {"\\delta", "\\theta", "\\lambda", "\\partial", "\\Delta", "\\Omega"});
    add(tailed, letter, {"\\gamma", "\\mu", "\\rho"});
    add(both, letter, {"\\beta", "\\phi", "\\psi"});
    add(middle, letter, {"\\infty"});
    add(middle, binary, {"+", "-", "\\times", "\\div", "\\pm", "\\cdot"});
    add(both, binary, {"/"});
    add(middle, relation, {"=", "\\ne", "<", ">", "\\le", "\\ge", "\\approx", "\\to"});
    add(small, relation, {"\\in"});
    add(both, open, {"(", "[", "\\{"});
    add(both, close, {")", "]", "\\}"});
    add(both, bar, {"|"});
    add(both, operation, {"\\int", "\\oint"});
    add(tall, operation, {"\\sum", "\\prod"});
    add(both, root, {"\\sqrt"});
    add(low, point, {".", ","});
    add(tall, mark, {"%", "!"});
    add(high, mark, {"'", "\\circ"});
    add(tall, letter, {"C", "K", "S", "U", "V", "W", "X", "Z"});
    return out;
}

// Each with its twin.
constexpr std::array<std::array<const char*, 2>, 11> kTwins{{{"c", "C"},
                                                             {"k", "K"},
                                                             {"s", "S"},
                                                             {"u", "U"},
                                                             {"v", "V"},
                                                             {"w", "W"},
                                                             {"x", "X"},
                                                             {"z", "Z"},
                                                             {"0", "o"},
                                                             {"0", "\\circ"},
                                                             {".", "\\cdot"}}};

}  // namespace

const std::vector<MathSign>& math_signs() {
    static const std::vector<MathSign> signs = all_signs();
    return signs;
}

std::optional<size_t> sign_named(std::string_view latex) {
    static const std::map<std::string, size_t, std::less<>> places = [] {
        std::map<std::string, size_t, std::less<>> out;
        for (size_t i = 0; i < math_signs().size(); ++i) out.emplace(math_signs()[i].latex, i);
        return out;
    }();
    const auto at = places.find(latex);
    if (at == places.end()) return std::nullopt;
    return at->second;
}

const std::vector<size_t>& twins_of(size_t sign) {
    static const std::vector<std::vector<size_t>> twins = [] {
        std::vector<std::vector<size_t>> out(math_signs().size());
        for (const auto& [first, second] : kTwins) out[*sign_named(first)].push_back(*sign_named(second));
        return out;
    }();
    return twins[sign];
}

const std::vector<std::string_view>& written_functions() {
    static const std::vector<std::string_view> names{"arcsin", "arccos", "arctan", "sinh", "cosh", "tanh", "sin",
                                                     "cos",    "tan",    "cot",    "exp",  "log",  "lim",  "min",
                                                     "max",    "mod",    "gcd",    "det",  "ln"};
    return names;
}

bool is_twin(size_t sign) {
    return std::ranges::any_of(kTwins, [&](const auto& pair) { return sign_named(pair[1]) == sign; });
}

}  // namespace fernleaf
