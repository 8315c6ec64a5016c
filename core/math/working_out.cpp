#include "math/working_out.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <functional>
#include <sstream>

#include "base/helper_process.h"
#include "math/math_text.h"
#include "math/numeric_function.h"
#include "math/quantities.h"

namespace fernleaf {
namespace {

constexpr int kMostMs = 2000;
constexpr size_t kMostBytes = size_t{512} << 20, kMostToldBytes = size_t{1} << 20;
constexpr double kMostFactorial = 3000, kMostDigits = 5000;
constexpr double kNearly = 5e-3;         // of a value: what ≈ lets pass
constexpr size_t kLongestAnswer = 4000;  // letters: nobody reads more

using Kind = AlgebraAnswer::Kind;

// What can't be worked out is thrown with the words for it, and caught by work_out().
struct Words {
    std::string text;
};

// A rough value of what holds no names, to tell early what can't be written down.
std::optional<double> rough(const MathTree& tree) { return number_of(tree, AngleUnit::radian, {}); }

// Powers and factorials whose digits would fill books.
void refuse_giants(const MathTree& tree) {
    for (const MathTree& part : tree.parts) refuse_giants(part);
    if (tree.kind == MathKind::power) {
        const auto base = rough(tree.parts[0]), power = rough(tree.parts[1]);
        if (power && (!std::isfinite(*power) || std::abs(*power) > 1e6)) throw Words{"too hard"};
        if (base && power && std::abs(*base) > 1 && std::abs(*power) * std::log10(std::abs(*base)) > kMostDigits)
            throw Words{"too hard"};
    }
    if (tree.kind == MathKind::call && (tree.text == "factorial" || tree.text == "binomial")) {
        const auto of = rough(tree.parts[0]);
        if (of && !(std::abs(*of) <= kMostFactorial)) throw Words{"too hard"};
    }
}

// What must not come to nothing, and what is told if it does.
struct Pitfall {
    MathTree of;
    std::string told;
};

void collect_pitfalls(const MathTree& tree, std::vector<Pitfall>& out) {
    const auto known = [](const MathTree& part) { return unknowns_in(part).empty() && !holds(part, MathKind::matrix); };
    if (tree.kind == MathKind::call && (tree.text == "integral" || tree.text == "derivative" ||
                                        tree.text.ends_with("_over") || tree.text.starts_with("limit")))
        return;  // what they bind is nothing by itself
    if (tree.kind == MathKind::quotient && known(tree.parts[1]))
        out.push_back({tree.parts[1], "undefined: division by zero"});
    if (tree.kind == MathKind::call && (tree.text == "ln" || tree.text == "log") && known(tree.parts[0]))
        out.push_back({tree.parts[0], "undefined: the logarithm of zero"});
    if (tree.kind == MathKind::call && tree.text == "mod" && known(tree.parts[1]))
        out.push_back({tree.parts[1], "undefined: division by zero"});
    if (tree.kind == MathKind::power && known(tree.parts[0]) && known(tree.parts[1])) {
        const auto power = rough(tree.parts[1]);
        if (power && *power < 0) out.push_back({tree.parts[0], "undefined: division by zero"});
        if (power && *power == 0) out.push_back({tree.parts[0], "undefined: zero to the power of zero"});
    }
    for (const MathTree& part : tree.parts) collect_pitfalls(part, out);
}

// Digits after the point that say nothing are left out.
std::string tidy_decimal(std::string digits) {
    if (digits.find('.') == std::string::npos || digits.find_first_of("eE") != std::string::npos) return digits;
    digits.erase(digits.find_last_not_of('0') + 1);
    if (digits.ends_with('.')) digits.pop_back();
    return digits == "-0" ? "0" : digits;
}

class Working {
public:
    Working(const WorkingSettings& settings, const CancelToken& cancel)
        : settings_(settings), cancel_(cancel), text_(settings.angle) {}

    WorkedOut out(const MathTree& tree) {
        refuse_giants(tree);
        decimals_ = has_decimals(tree);
        if (holds(tree, MathKind::unit)) return quantity(tree);
        if (tree.kind == MathKind::relation && holds_plus_minus(tree))
            throw Words{"± stands for two cases: work them out separately"};
        if (tree.kind == MathKind::all_of) return system(tree);
        if (tree.kind == MathKind::relation) return relation(tree);
        const MathTree& asked = tree.kind == MathKind::asked ? tree.parts[0] : tree;
        if (holds_plus_minus(asked)) return both(asked);
        return value(asked);
    }

    WorkedOut reworked(const MathTree& tree, Rework how, const std::string& name) {
        refuse_giants(tree);
        decimals_ = has_decimals(tree);
        if (holds_plus_minus(tree)) throw Words{"± stands for two cases: work them out separately"};
        const MathTree& whole = tree.kind == MathKind::asked ? tree.parts[0] : tree;
        if (how == Rework::solve) {
            if (whole.kind != MathKind::relation || whole.parts.size() != 2)
                throw Words{"only an equation can be solved"};
            return solved(whole, name);
        }
        if (whole.kind == MathKind::all_of) throw Words{"only one formula at a time"};
        const bool relation = whole.kind == MathKind::relation;
        const std::vector<MathTree> sides = relation ? whole.parts : std::vector{whole};
        std::vector<std::string> lines;
        for (const MathTree& side : sides) {
            const bool number = how == Rework::factor && is_whole(side);
            const char* command = how == Rework::simplify ? "simplify("
                                  : how == Rework::expand ? "expand("
                                  : number                ? "ifactor("
                                                          : "factor(";
            lines.push_back(command + text_.of(side) + ")");
        }
        const std::vector<std::string> said = ask(whole, lines);
        WorkedOut out;
        out.kind = WorkedOut::Kind::value;
        std::istringstream signs(relation ? whole.text : "");
        for (const std::string& side : said) {
            std::string sign;
            if (!out.exact.empty()) signs >> sign, out.exact += " " + sign + " ";
            if (side.find("undef") != std::string::npos) throw Words{"undefined"};
            out.exact += shown(understood(side));
        }
        return out;
    }

private:
    static bool holds_plus_minus(const MathTree& tree) {
        return (tree.kind == MathKind::call && tree.text == "plus_minus") ||
               std::ranges::any_of(tree.parts, holds_plus_minus);
    }
    static MathTree with_sign(MathTree tree, bool minus) {
        for (MathTree& part : tree.parts) part = with_sign(std::move(part), minus);
        if (tree.kind != MathKind::call || tree.text != "plus_minus") return tree;
        MathTree second = minus ? math_of(MathKind::negative, {tree.parts[1]}) : tree.parts[1];
        return math_of(MathKind::sum, {tree.parts[0], std::move(second)});
    }
    WorkedOut both(const MathTree& tree) {
        const WorkedOut plus = value(with_sign(tree, false)), minus = value(with_sign(tree, true));
        if (plus.kind != WorkedOut::Kind::value || minus.kind != WorkedOut::Kind::value)
            return plus.kind == WorkedOut::Kind::value ? minus : plus;
        WorkedOut out = plus;
        out.exact += " or " + minus.exact;
        if (!plus.decimal.empty() || !minus.decimal.empty())
            out.decimal = (plus.decimal.empty() ? plus.exact : plus.decimal) + " or " +
                          (minus.decimal.empty() ? minus.exact : minus.decimal);
        return out;
    }

    // What each line comes to; too hard where it takes too long.
    std::vector<std::string> ask(const std::vector<std::string>& lines) {
        std::string input;
        for (const std::string& line : lines) input += line + '\n';
        const auto said =
            output_of(helper_program("fernleaf-math"), {}, input, {left_ms(), kMostBytes, kMostToldBytes}, cancel_);
        if (!said)
            throw Words{is_installed_helper()
                            ? "too hard"
                            : "the part of Fernleaf that works formulas out is missing; install Fernleaf again"};
        std::vector<std::string> out;
        std::istringstream in(*said);
        for (std::string line; std::getline(in, line);) out.push_back(line);
        if (out.size() != lines.size()) throw Words{"too hard"};
        return out;
    }
    int left_ms() const {
        const auto left =
            std::chrono::duration_cast<std::chrono::milliseconds>(last_ - std::chrono::steady_clock::now());
        return static_cast<int>(std::max<int64_t>(1, left.count()));
    }
    static bool is_installed_helper() { return is_program(helper_program("fernleaf-math")); }

    // Lines for the pitfalls, before those that are asked; throws what one of them tells.
    std::vector<std::string> ask(const MathTree& about, const std::vector<std::string>& lines) {
        std::vector<Pitfall> pitfalls;
        collect_pitfalls(about, pitfalls);
        std::vector<std::string> all;
        for (const Pitfall& pitfall : pitfalls) all.push_back("simplify(" + text_.of(pitfall.of) + ")");
        all.insert(all.end(), lines.begin(), lines.end());
        std::vector<std::string> said = ask(all);
        for (size_t i = 0; i < pitfalls.size(); ++i)
            if (said[i] == "0" || said[i] == "0.0") throw Words{pitfalls[i].told};
        said.erase(said.begin(), said.begin() + static_cast<std::ptrdiff_t>(pitfalls.size()));
        return said;
    }

    std::string decimals(const std::string& of) const {
        return "evalf(" + of + "," + std::to_string(settings_.digits) + ")";
    }

    AlgebraAnswer understood(const std::string& said) {
        auto answer = said.size() > kLongestAnswer ? std::nullopt : text_.read(said);
        if (!answer) throw Words{"too hard"};
        return *std::move(answer);
    }

    static bool holds_call(const MathTree& tree, const char* name) {
        return (tree.kind == MathKind::call && tree.text == name) ||
               std::ranges::any_of(tree.parts, [&](const MathTree& p) { return holds_call(p, name); });
    }

    WorkedOut value(const MathTree& tree) {
        const std::string sent = "simplify(" + text_.of(tree) + ")";
        const std::vector<std::string> said = ask(tree, {sent, decimals(sent)});
        if (said[0].find("undef") != std::string::npos) throw Words{holds_any_limit(tree) ? "no limit" : "undefined"};
        if (said[0].find("infinity") != std::string::npos && !holds_infinity(tree) && !holds_any_limit(tree))
            throw Words{"undefined"};
        WorkedOut out;
        out.kind = WorkedOut::Kind::value;
        const AlgebraAnswer exact = understood(said[0]);
        out.exact = shown(exact);
        if (tree.kind == MathKind::call && tree.text == "integral" && tree.parts.size() == 2) {
            if (holds_call(exact.value, "integral")) throw Words{"too hard"};
            out.exact += " + C";
            return out;
        }
        const bool number = exact.kind == Kind::value && unknowns_in(exact.value).empty();
        if (number && !holds(exact.value, MathKind::matrix)) set_decimal(out, exact.value, said[1]);
        return out;
    }

    static bool holds_any_limit(const MathTree& tree) {
        return (tree.kind == MathKind::call && tree.text.starts_with("limit")) ||
               std::ranges::any_of(tree.parts, holds_any_limit);
    }
    static bool holds_infinity(const MathTree& tree) {
        return (tree.kind == MathKind::name && tree.text == "infinity") ||
               std::ranges::any_of(tree.parts, holds_infinity);
    }

    // A decimal beside an exact value; in its place where what was written had decimals, and it says the same.
    void set_decimal(WorkedOut& out, const MathTree& exact, const std::string& said) const {
        const auto read = text_.read(said);
        if (!read || read->kind != Kind::value) return;
        const std::string decimal = shown_decimal(read->value);
        if (decimal == out.exact || is_whole(exact)) return;
        if (decimals_ && terminates(exact, decimal)) {
            out.exact = decimal;
            return;
        }
        if (!settings_.exact) out.decimal = decimal;
    }
    static bool is_whole(const MathTree& tree) {
        const MathTree& inner = tree.kind == MathKind::negative ? tree.parts[0] : tree;
        return inner.kind == MathKind::number && inner.text.find('.') == std::string::npos;
    }
    // Whether a fraction of whole numbers is the decimal, with nothing left.
    static bool terminates(const MathTree& tree, const std::string& decimal) {
        const MathTree& inner = tree.kind == MathKind::negative ? tree.parts[0] : tree;
        if (inner.kind != MathKind::quotient || !is_whole(inner.parts[0]) || !is_whole(inner.parts[1])) return false;
        long double rest = 0;
        try {
            const auto above = std::stoll(inner.parts[0].text), below = std::stoll(inner.parts[1].text);
            const size_t point = decimal.find('.');
            const size_t places = point == std::string::npos ? 0 : decimal.size() - point - 1;
            if (below == 0 || places > 15 || decimal.find_first_of("eE^*") != std::string::npos) return false;
            rest = static_cast<long double>(above) * std::pow(10.0L, static_cast<long double>(places)) /
                   static_cast<long double>(below);
        } catch (const std::exception&) {
            return false;
        }
        return rest == std::floor(rest);
    }

    static std::string shown_decimal(const MathTree& tree) {
        if (tree.kind == MathKind::number) return tidy_decimal(tree.text);
        if (tree.kind == MathKind::negative && tree.parts[0].kind == MathKind::number)
            return tidy_decimal("-" + tree.parts[0].text);
        MathTree tidy = tree;
        const auto each = [](auto&& self, MathTree& part) -> void {
            if (part.kind == MathKind::number) part.text = tidy_decimal(part.text);
            for (MathTree& inner : part.parts) self(self, inner);
        };
        each(each, tidy);
        return math_text(tidy);
    }

    // Lists are matrices or vectors.
    std::string shown(const AlgebraAnswer& answer) const {
        if (answer.kind == Kind::value) return math_text(answer.value);
        std::string out;
        for (const AlgebraAnswer& part : answer.parts) out += (out.empty() ? "" : ", ") + shown(part);
        return "[" + out + "]";
    }

    // Quantities are as people use them: decimals rather than fractions. Where names are unknown their units are
    // letters like these.
    WorkedOut quantity(const MathTree& tree) {
        const bool gives = value_given(tree) != nullptr;
        const MathTree of = gives ? without_name(tree) : tree.kind == MathKind::asked ? tree.parts[0] : tree;
        if (!unknowns_in(of).empty() || of.kind == MathKind::all_of) return out(without_units(tree));
        decimals_ = true;
        if (of.kind == MathKind::relation) return compared(of);
        const Measured known = fitting(measured(of));
        const auto worked = [&] { return holds_plus_minus(known.number) ? both(known.number) : value(known.number); };
        WorkedOut out = worked();
        if (out.kind != WorkedOut::Kind::value) return out;
        out.exact = quantity_text(out.exact, known.unit);
        if (!out.decimal.empty()) out.decimal = quantity_text(out.decimal, known.unit);
        if (gives) out.exact = math_text(tree.parts[0]) + " = " + out.exact, out.kind = WorkedOut::Kind::solutions;
        return out;
    }
    static Measured fitting(Result<Measured> known) {
        if (!known) throw Words{known.error().message};
        return *std::move(known);
    }
    WorkedOut compared(const MathTree& relation) {
        MathTree numbers{MathKind::relation, relation.text, {}};
        std::string unit = fitting(measured(relation.parts[0])).unit;
        const MathTree& last = relation.parts.back();
        const bool unit_at_last = has_unit_at_last(relation);
        for (const MathTree& side : relation.parts) {
            const bool alone = unit_at_last && &side == &last;
            numbers.parts.push_back(fitting(alone ? measured(side) : measured_like(relation.parts[0], side)).number);
        }
        if (unit_at_last) unit = fitting(measured(last)).unit;
        WorkedOut out = this->relation(numbers);
        if (out.exact.starts_with("false: ")) out.exact = quantity_text(out.exact, unit);
        return out;
    }

    WorkedOut relation(const MathTree& tree) {
        const std::set<std::string> unknowns = unknowns_in(tree);
        if (tree.parts.size() > 2) {
            // A chain: each link by itself.
            MathTree all = math_of(MathKind::all_of, {});
            std::istringstream signs(tree.text);
            std::string sign;
            for (size_t i = 1; i < tree.parts.size() && signs >> sign; ++i)
                all.parts.push_back({MathKind::relation, sign, {tree.parts[i - 1], tree.parts[i]}});
            return unknowns.empty() ? truth(all) : system(all);
        }
        if (unknowns.empty()) return truth(tree);
        if (unknowns.size() == 1) return solved(tree, *unknowns.begin());
        // A name by itself on one side, which the other side does not hold: what it is.
        for (const size_t side : {size_t{0}, size_t{1}}) {
            const MathTree &name = tree.parts[side], &other = tree.parts[1 - side];
            if (name.kind != MathKind::name || unknowns_in(other).contains(name.text) || tree.text != "=") continue;
            WorkedOut out = value(other);
            if (out.kind == WorkedOut::Kind::value)
                out.exact = math_text(name) + " = " + out.exact, out.kind = WorkedOut::Kind::solutions;
            return out;
        }
        std::string names;
        for (const std::string& name : unknowns) names += (names.empty() ? "" : ", ") + math_text(math_name(name));
        throw Words{"several unknowns: " + names};
    }

    // Sides that are known: whether the relation holds.
    WorkedOut truth(const MathTree& tree) {
        const std::vector<MathTree> each = tree.kind == MathKind::all_of ? tree.parts : std::vector{tree};
        WorkedOut out;
        out.kind = WorkedOut::Kind::truth;
        out.holds = true;
        for (const MathTree& one : each) {
            const std::string left = text_.of(one.parts[0]), right = text_.of(one.parts[1]);
            std::string difference = left;
            difference.append("-(").append(right).append(")");
            const std::vector<std::string> said = ask(one, {"simplify(" + difference + ")", "evalf(" + difference + ")",
                                                            "simplify(" + left + ")", decimals(left)});
            const double off = std::strtod(said[1].c_str(), nullptr), size = std::strtod(said[3].c_str(), nullptr);
            const bool same = said[0] == "0" || said[0] == "0.0";
            const bool near = std::abs(off) <= kNearly * std::abs(size);
            const std::string& s = one.text;
            const bool right_one = s == "="    ? same
                                   : s == "!=" ? !same
                                   : s == "~"  ? near
                                   : s == "<"  ? off < 0
                                   : s == "<=" ? off < 0 || same
                                   : s == ">"  ? off > 0
                                               : off > 0 || same;
            if (!right_one && out.holds && s == "=") out.exact = "false: " + right_result(said[2], said[3]);
            out.holds = out.holds && right_one;
        }
        if (out.holds)
            out.exact = "true";
        else if (out.exact.empty())
            out.exact = "false";
        return out;
    }

    std::string right_result(const std::string& exact, const std::string& decimal) {
        const AlgebraAnswer read = understood(exact);
        WorkedOut out{WorkedOut::Kind::value, shown(read), {}};
        if (decimals_ && read.kind == Kind::value) set_decimal(out, read.value, decimal);
        return out.text();
    }

    WorkedOut solved(const MathTree& tree, const std::string& unknown) {
        const std::string name = text_.name_of(unknown), sent = text_.of(tree);
        const bool equation = tree.text == "=" || tree.text == "~";
        // Ranges would be turned into other conditions by being simplified.
        const std::string asked = "solve(" + sent + "," + name + ")";
        std::vector<std::string> lines{equation ? "simplify(" + asked + ")" : asked};
        if (equation) lines.push_back("simplify(csolve(" + sent + "," + name + "))");
        const std::vector<std::string> said = ask(tree, lines);
        const AlgebraAnswer answer = understood(said[0]);
        if (answer.kind != Kind::list) throw Words{"too hard"};
        WorkedOut out;
        out.kind = WorkedOut::Kind::solutions;
        if (answer.parts.empty()) {
            const auto complex = equation ? text_.read(said[1]) : std::nullopt;
            if (!complex || complex->kind != Kind::list || complex->parts.empty()) throw Words{"no solution"};
            out.exact = "no real solution: " + alternatives(*complex, unknown);
            return out;
        }
        if (answer.parts.size() == 1 && answer.parts[0].kind == Kind::value &&
            answer.parts[0].value == math_name(unknown)) {
            out.exact = "all numbers";
            return out;
        }
        if (holds_answer_call(answer, "rootof")) throw Words{"too hard"};
        const bool values = std::ranges::all_of(answer.parts, [](const AlgebraAnswer& part) {
            return part.kind == Kind::value && part.value.kind != MathKind::relation;
        });
        if (!values) {
            out.exact = alternatives(answer, unknown);
            return out;
        }
        std::vector<MathTree> each;
        for (const AlgebraAnswer& part : answer.parts) each.push_back(part.value);
        for (const std::string& told : told_values(each))
            out.exact += (out.exact.empty() ? "" : " or ") + math_text(math_name(unknown)) + told;
        return out;
    }

    // " = 1/3 ≈ 0.333333" for each value.
    std::vector<std::string> told_values(const std::vector<MathTree>& values) {
        std::vector<std::string> lines, out;
        for (const MathTree& value : values) lines.push_back(decimals(text_.of(value)));
        const std::vector<std::string> said = ask(lines);
        for (size_t i = 0; i < values.size(); ++i) {
            const MathTree& value = values[i];
            const auto read = text_.read(said[i]);
            const bool known = read && read->kind == Kind::value && unknowns_in(value).empty();
            const std::string exact = math_text(value), decimal = known ? shown_decimal(read->value) : std::string();
            if (!known || is_whole(value) || exact == decimal)
                out.push_back(" = " + exact);
            else if (has_decimals(value) && !decimals_)  // it could only be found so
                out.push_back(" ≈ " + decimal);
            else if (decimals_ && (terminates(value, decimal) || has_decimals(value)))
                out.push_back(" = " + decimal);
            else
                out.push_back(" = " + exact + (settings_.exact ? "" : " ≈ " + decimal));
        }
        return out;
    }
    static bool holds_answer_call(const AlgebraAnswer& answer, const char* name) {
        return holds_call(answer.value, name) ||
               std::ranges::any_of(answer.parts, [&](const AlgebraAnswer& p) { return holds_answer_call(p, name); });
    }
    // "x = 1 or x = 2", "-2 < x < 2", "x < 1 or x > 3".
    std::string alternatives(const AlgebraAnswer& list, const std::string& unknown) const {
        std::string out;
        for (const AlgebraAnswer& part : list.parts) out += (out.empty() ? "" : " or ") + condition(part, unknown);
        return out;
    }
    std::string condition(const AlgebraAnswer& part, const std::string& unknown) const {
        const std::string name = math_text(math_name(unknown));
        if (part.kind == Kind::value && part.value.kind != MathKind::relation)
            return name + " = " + math_text(part.value);
        if (part.kind == Kind::value) {
            const MathTree bound = unknown_first(part.value, unknown);
            return math_text(bound.parts[0]) + " " + bound.text + " " + math_text(bound.parts[1]);
        }
        if (part.kind == Kind::any) return alternatives(part, unknown);
        if (const auto range = between(part, unknown))
            return math_text(range->parts[0]) + " " + below(range->text, 0) + " " + name + " " + below(range->text, 1) +
                   " " + math_text(range->parts[1]);
        std::string out;
        for (const AlgebraAnswer& one : part.parts) out += (out.empty() ? "" : " and ") + condition(one, unknown);
        return out;
    }
    static std::string below(const std::string& signs, size_t which) {
        const size_t blank = signs.find(' ');
        return which == 0 ? signs.substr(0, blank) : signs.substr(blank + 1);
    }
    // 2 > x as x < 2.
    static MathTree unknown_first(MathTree relation, const std::string& unknown) {
        static const std::map<std::string, std::string> other = {{"<", ">"}, {"<=", ">="}, {">", "<"}, {">=", "<="}};
        const auto turned = other.find(relation.text);
        if (relation.parts[1] != math_name(unknown) || turned == other.end()) return relation;
        std::swap(relation.parts[0], relation.parts[1]);
        relation.text = turned->second;
        return relation;
    }
    // x > a and x < b as one range: its ends, and the signs between.
    static std::optional<MathTree> between(const AlgebraAnswer& both, const std::string& unknown) {
        if (both.kind != Kind::all || both.parts.size() != 2) return {};
        std::optional<MathTree> low, high;
        std::string low_sign, high_sign;
        for (const AlgebraAnswer& part : both.parts) {
            if (part.kind != Kind::value || part.value.kind != MathKind::relation) return {};
            const MathTree bound = unknown_first(part.value, unknown);
            if (bound.parts[0] != math_name(unknown)) return {};
            const std::string& sign = bound.text;
            if (sign == ">" || sign == ">=")
                low = bound.parts[1], low_sign = sign == ">" ? "<" : "<=";
            else if (sign == "<" || sign == "<=")
                high = bound.parts[1], high_sign = sign;
        }
        if (!low || !high) return {};
        return MathTree{MathKind::relation, low_sign + " " + high_sign, {*std::move(low), *std::move(high)}};
    }

    WorkedOut system(const MathTree& tree) {
        const std::set<std::string> unknowns = unknowns_in(tree);
        if (unknowns.empty()) return truth(tree);
        std::string names, sent;
        for (const std::string& name : unknowns) names += (names.empty() ? "" : ",") + text_.name_of(name);
        const bool one = unknowns.size() == 1;
        for (const MathTree& part : tree.parts)
            sent += (sent.empty() ? "" : one ? " and " : ",") + (one ? "(" + text_.of(part) + ")" : text_.of(part));
        const std::string asked = one ? "solve(" + sent + "," + names + ")" : "solve([" + sent + "],[" + names + "])";
        const std::vector<std::string> said = ask(tree, {one ? asked : "simplify(" + asked + ")"});
        const AlgebraAnswer answer = understood(said[0]);
        if (answer.kind != Kind::list) throw Words{"too hard"};
        if (answer.parts.empty()) throw Words{"no solution"};
        WorkedOut out;
        out.kind = WorkedOut::Kind::solutions;
        if (one) {
            out.exact = alternatives(answer, *unknowns.begin());
            return out;
        }
        std::vector<MathTree> values;
        for (const AlgebraAnswer& tuple : answer.parts) {
            if (tuple.parts.size() != unknowns.size()) throw Words{"too hard"};
            for (const AlgebraAnswer& part : tuple.parts) values.push_back(part.value);
        }
        const std::vector<std::string> told = told_values(values);
        for (size_t i = 0; i < values.size();) {
            out.exact += out.exact.empty() ? "" : " or ";
            for (auto name = unknowns.begin(); name != unknowns.end(); ++name, ++i)
                // What may be any number is told by its own name.
                out.exact += (name == unknowns.begin() ? "" : ", ") + math_text(math_name(*name)) +
                             (values[i] == math_name(*name) ? " any" : told[i]);
        }
        return out;
    }

    const WorkingSettings& settings_;
    const CancelToken& cancel_;
    AlgebraText text_;
    bool decimals_ = false;
    const std::chrono::steady_clock::time_point last_ =
        std::chrono::steady_clock::now() + std::chrono::milliseconds(kMostMs);
};

}  // namespace

namespace {

// Words that are thrown are what it comes to.
WorkedOut or_words(const MathTree& tree, const std::function<WorkedOut()>& working) {
    if (!is_sound(tree)) return {WorkedOut::Kind::nothing, "too hard", {}};
    try {
        return working();
    } catch (const Words& words) {
        return {WorkedOut::Kind::nothing, words.text, {}};
    }
}

}  // namespace

WorkedOut work_out(const MathTree& tree, const WorkingSettings& settings, const CancelToken& cancel) {
    MathTree known = with_units(tree, settings.values);
    // What turned out to be a plain number is no unit: s = 5 t, t = 3.
    std::set<std::string> numbers;
    for (const auto& [name, value] : settings.values)
        if (!holds(value, MathKind::unit)) numbers.insert(name);
    for (const auto& [name, value] : settings.values) {
        const bool mixed = !numbers.empty() && holds(value, MathKind::unit);
        known = substituted(std::move(known), name, mixed ? without_units(value, numbers) : value);
    }
    return or_words(known, [&] { return Working(settings, cancel).out(known); });
}

WorkedOut reworked(const MathTree& tree, Rework how, const std::string& name, const WorkingSettings& settings,
                   const CancelToken& cancel) {
    return or_words(tree, [&] { return Working(settings, cancel).reworked(tree, how, name); });
}

}  // namespace fernleaf
