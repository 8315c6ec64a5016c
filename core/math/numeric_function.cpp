#include "math/numeric_function.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numbers>
#include <numeric>

#include "math/algebra_text.h"

namespace fernleaf {
namespace {

constexpr double kNone = std::numeric_limits<double>::quiet_NaN();
constexpr int kMostSteps = 4000;       // for one value: a curve has thousands, drawn while the window waits
constexpr int kPanels = 24;            // of an integral, each by Gauss's rule with five places
constexpr double kDerivedStep = 1e-4;  // of the place, to either side
constexpr double kWholeEnough = 1e-9;
constexpr double kLargestWhole = 9e15;
constexpr double kMostChosenFrom = 1e6;

double in_radians(AngleUnit unit) {
    return unit == AngleUnit::degree ? std::numbers::pi / 180 : unit == AngleUnit::gon ? std::numbers::pi / 200 : 1;
}

bool is_whole(double v) { return std::abs(v - std::round(v)) < kWholeEnough && std::abs(v) < kLargestWhole; }
bool is_odd(double v) { return is_whole(v) && std::abs(std::remainder(std::round(v), 2)) > 0.5; }

// Whether it is written as a fraction with an odd number below.
bool is_over_odd(const MathTree& exponent) {
    return exponent.kind == MathKind::quotient && exponent.parts[1].kind == MathKind::number &&
           is_odd(std::strtod(exponent.parts[1].text.c_str(), nullptr));
}

double factorial(double v) { return v >= 0 && is_whole(v) ? std::tgamma(std::round(v) + 1) : kNone; }
double logarithm(double v) { return v > 0 ? std::log(v) : kNone; }

using Function = double (*)(double);
Function function_named(const std::string& name) {
    static const std::map<std::string, Function> functions = {
        {"sin", std::sin},
        {"cos", std::cos},
        {"tan", std::tan},
        {"cot", [](double v) { return 1 / std::tan(v); }},
        {"sec", [](double v) { return 1 / std::cos(v); }},
        {"csc", [](double v) { return 1 / std::sin(v); }},
        {"arcsin", std::asin},
        {"arccos", std::acos},
        {"arctan", std::atan},
        {"sinh", std::sinh},
        {"cosh", std::cosh},
        {"tanh", std::tanh},
        {"exp", std::exp},
        {"ln", logarithm},
        {"sqrt", std::sqrt},
        {"abs", std::fabs},
        {"floor", std::floor},
        {"ceil", std::ceil},
        {"round", std::round},
        {"percent", [](double v) { return v / 100; }},
        {"degrees", [](double v) { return v * std::numbers::pi / 180; }},
        {"factorial", factorial},
    };
    const auto found = functions.find(name);
    return found == functions.end() ? nullptr : found->second;
}

double root_of(double base, double degree) {
    if (base < 0) return is_odd(degree) ? -std::pow(-base, 1 / degree) : kNone;
    return degree == 0 ? kNone : std::pow(base, 1 / degree);
}

double chosen_from(double n, double k) {
    if (!is_whole(n) || !is_whole(k) || n < 0 || n > kMostChosenFrom) return kNone;
    if (k < 0 || k > n) return 0;
    const double out = std::exp(std::lgamma(n + 1) - std::lgamma(k + 1) - std::lgamma(n - k + 1));
    return out < kLargestWhole ? std::round(out) : out;
}

}  // namespace

// Names become places in a list of numbers.
class NumericFunction::Builder {
public:
    Builder(AngleUnit angle, const std::map<std::string, double>& values) : angle_(angle), values_(values) {}

    size_t bind(const std::string& name) {
        bound_.emplace_back(name, slots_);
        return slots_++;
    }
    size_t places() const { return slots_; }

    std::optional<Node> node(const MathTree& tree) {
        switch (tree.kind) {
            case MathKind::number:
                return Node{Op::constant, std::strtod(tree.text.c_str(), nullptr)};
            case MathKind::name:
                return name(tree.text);
            case MathKind::sum:
                return with_parts({Op::sum}, tree);
            case MathKind::product:
                return with_parts({Op::product}, tree);
            case MathKind::quotient:
                return with_parts({Op::quotient}, tree);
            case MathKind::power:
                return with_parts({is_over_odd(tree.parts[1]) ? Op::odd_power : Op::power}, tree);
            case MathKind::negative:
                return with_parts({Op::negative}, tree);
            case MathKind::asked:
                return node(tree.parts[0]);
            case MathKind::call:
                return call(tree);
            case MathKind::unit:
            case MathKind::relation:
            case MathKind::all_of:
            case MathKind::matrix:
            case MathKind::row:
                break;
        }
        return std::nullopt;
    }

private:
    std::optional<Node> name(const std::string& text) const {
        const auto bound = std::find_if(bound_.rbegin(), bound_.rend(), [&](const auto& b) { return b.first == text; });
        if (bound != bound_.rend()) return Node{Op::slot, 0, bound->second};
        if (text == "pi") return Node{Op::constant, std::numbers::pi};
        if (text == "e") return Node{Op::constant, std::numbers::e};
        const auto value = values_.find(text);
        if (value == values_.end()) return std::nullopt;
        return Node{Op::constant, value->second};
    }

    std::optional<Node> with_parts(Node out, const MathTree& tree) {
        for (const MathTree& part : tree.parts) {
            auto one = node(part);
            if (!one) return std::nullopt;
            out.parts.push_back(*std::move(one));
        }
        return out;
    }

    std::optional<Node> call(const MathTree& tree) {
        static const std::map<std::string, Op> several = {
            {"log", Op::log},  {"root", Op::root},   {"mod", Op::mod},      {"min", Op::least},
            {"max", Op::most}, {"gcd", Op::divisor}, {"lcm", Op::multiple}, {"binomial", Op::binomial}};
        static const std::map<std::string, Op> binding = {{"sum_over", Op::sum_over},
                                                          {"product_over", Op::product_over},
                                                          {"integral", Op::integral},
                                                          {"derivative", Op::derivative}};
        if (const auto op = several.find(tree.text); op != several.end()) return with_parts({op->second}, tree);
        if (const auto op = binding.find(tree.text); op != binding.end()) return bound_call(op->second, tree);
        const Function function = function_named(tree.text);
        if (!function) return std::nullopt;
        const MathFunction& known = *known_function(tree.text);
        Node out{known.inverse ? Op::inverse : Op::one};
        out.function = function;
        // What says that it is in degrees is turned by degrees().
        const bool plain = !known.trigonometric || (!known.inverse && holds_degrees(tree.parts[0]));
        out.number = plain ? 1 : in_radians(angle_);
        return with_parts(std::move(out), tree);
    }

    // Bounds stand outside of what is bound; a derivative is taken where its name stands.
    std::optional<Node> bound_call(Op op, const MathTree& tree) {
        if (op == Op::integral && tree.parts.size() != 4) return std::nullopt;
        Node out{op};
        const std::string& own = tree.parts[1].text;
        if (op == Op::derivative) {
            auto at = name(own);
            if (!at) return std::nullopt;
            out.parts.push_back(*std::move(at));
        }
        for (size_t i = 2; i < tree.parts.size(); ++i) {
            auto one = node(tree.parts[i]);
            if (!one) return std::nullopt;
            out.parts.push_back(*std::move(one));
        }
        out.slot = bind(own);
        auto body = node(tree.parts[0]);
        bound_.pop_back();
        if (!body) return std::nullopt;
        out.parts.push_back(*std::move(body));
        return out;
    }

    AngleUnit angle_;
    const std::map<std::string, double>& values_;
    std::vector<std::pair<std::string, size_t>> bound_;
    size_t slots_ = 0;
};

std::optional<NumericFunction> NumericFunction::of(const MathTree& tree, const std::string& variable, AngleUnit angle,
                                                   const std::map<std::string, double>& values) {
    Builder builder(angle, values);
    builder.bind(variable);
    auto root = builder.node(tree);
    if (!root) return std::nullopt;
    NumericFunction out;
    out.root_ = *std::move(root);
    out.slots_ = builder.places();
    return out;
}

double NumericFunction::operator()(double x) const {
    State state{std::vector<double>(slots_), kMostSteps};
    state.values[0] = x;
    return value(root_, state);
}

double NumericFunction::value(const Node& node, State& state) {
    if (--state.steps_left < 0) return kNone;
    const auto part = [&](size_t i) { return value(node.parts[i], state); };
    const auto body_at = [&](double at) {
        state.values[node.slot] = at;
        return value(node.parts.back(), state);
    };
    const auto joined = [&](auto join) {
        double out = part(0);
        for (size_t i = 1; i < node.parts.size(); ++i) out = join(out, part(i));
        return out;
    };
    switch (node.op) {
        case Op::constant:
            return node.number;
        case Op::slot:
            return state.values[node.slot];
        case Op::sum:
            return joined([](double a, double b) { return a + b; });
        case Op::product:
            return joined([](double a, double b) { return a * b; });
        case Op::quotient: {
            const double under = part(1);
            return under == 0 ? kNone : part(0) / under;
        }
        case Op::power: {
            const double base = part(0), exponent = part(1);
            return base == 0 && exponent <= 0 ? kNone : std::pow(base, exponent);
        }
        case Op::odd_power: {
            const double base = part(0), over = value(node.parts[1].parts[0], state),
                         under = value(node.parts[1].parts[1], state);
            if (base >= 0) return base == 0 && over <= 0 ? kNone : std::pow(base, over / under);
            const double size = std::pow(-base, over / under);
            return is_odd(over) ? -size : is_whole(over) ? size : kNone;
        }
        case Op::negative:
            return -part(0);
        case Op::one:
            return node.function(part(0) * node.number);
        case Op::inverse:
            return node.function(part(0)) / node.number;
        case Op::log:
            return logarithm(part(0)) / logarithm(node.parts.size() == 2 ? part(1) : 10);
        case Op::root:
            return root_of(part(1), part(0));
        case Op::mod: {
            const double of = part(0), by = part(1);
            return by == 0 ? kNone : std::fmod(of, by);
        }
        case Op::least:
            return joined([](double a, double b) { return std::isnan(a) || a < b ? a : b; });
        case Op::most:
            return joined([](double a, double b) { return std::isnan(a) || a > b ? a : b; });
        case Op::divisor:
        case Op::multiple:
            return joined([&](double a, double b) {
                if (!is_whole(a) || !is_whole(b)) return kNone;
                const auto x = std::llround(a), y = std::llround(b);
                if (node.op == Op::divisor) return static_cast<double>(std::gcd(x, y));
                return x == 0 || y == 0 ? 0 : std::abs(a / static_cast<double>(std::gcd(x, y)) * b);
            });
        case Op::binomial:
            return chosen_from(part(0), part(1));
        case Op::sum_over:
        case Op::product_over: {
            const double from = part(0), to = part(1);
            if (!is_whole(from) || !is_whole(to)) return kNone;
            double out = node.op == Op::sum_over ? 0 : 1;
            for (double k = std::round(from); k <= to + kWholeEnough; ++k) {
                const double term = body_at(k);
                out = node.op == Op::sum_over ? out + term : out * term;
                if (std::isnan(out)) break;
            }
            return out;
        }
        case Op::integral: {
            static constexpr std::array kAt{-0.9061798459386640, -0.5384693101056831, 0.0, 0.5384693101056831,
                                            0.9061798459386640};
            static constexpr std::array kWeight{0.2369268850561891, 0.4786286704993665, 0.5688888888888889,
                                                0.4786286704993665, 0.2369268850561891};
            const double from = part(0), half = (part(1) - from) / kPanels / 2;
            double out = 0;
            for (int panel = 0; panel < kPanels; ++panel)
                for (size_t i = 0; i < kAt.size(); ++i)
                    out += kWeight[i] * half * body_at(from + half * (2 * panel + 1 + kAt[i]));
            return out;
        }
        case Op::derivative: {
            const double at = part(0), times = node.parts.size() == 3 ? part(1) : 1;
            const double step = kDerivedStep * std::max(1.0, std::abs(at)) * times;
            if (times == 1) return (body_at(at + step) - body_at(at - step)) / (2 * step);
            if (times == 2) return (body_at(at + step) - 2 * body_at(at) + body_at(at - step)) / (step * step);
            return kNone;
        }
    }
    return kNone;
}

std::optional<double> number_of(const MathTree& tree, AngleUnit angle, const std::map<std::string, double>& values) {
    // No name is empty: it is a function of nothing.
    const auto f = NumericFunction::of(tree, {}, angle, values);
    if (!f) return std::nullopt;
    const double out = (*f)(0);
    if (std::isnan(out)) return std::nullopt;
    return out;
}

}  // namespace fernleaf
