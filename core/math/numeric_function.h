// A formula as a function of one name, worked out with plain numbers: for drawing it, which asks for thousands of
// values and can't wait for algebra (working_out.h).
//
//   const auto f = NumericFunction::of(*parse_math("a x^2"), "x", AngleUnit::radian, {{"a", 2}});
//   (*f)(3);      // 18
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "document/working_manner.h"
#include "math/math_tree.h"

namespace fernleaf {

class NumericFunction {
public:
    // Nothing where it holds what is no number: relations, matrices, limits, integrals without bounds, names that stand
    // for nothing. values: of names other than the variable, which hides one of its name. tree: sound.
    static std::optional<NumericFunction> of(const MathTree& tree, const std::string& variable, AngleUnit angle,
                                             const std::map<std::string, double>& values);

    // Not a number where it has no real value, and where that would take too long, as nested sums do; infinite where it
    // is too large.
    double operator()(double x) const;

private:
    enum class Op {
        constant,
        slot,
        sum,
        product,
        quotient,
        power,
        odd_power,  // its exponent is over an odd number: negative numbers have it, too
        negative,
        one,  // a function of one number
        inverse,
        log,
        root,
        mod,
        least,
        most,
        divisor,
        multiple,
        binomial,
        sum_over,
        product_over,
        integral,
        derivative
    };
    struct Node {
        Op op = Op::constant;
        double number = 0;  // a constant; what an angle is multiplied with to be radians
        size_t slot = 0;    // of a name, or of the name that is bound
        double (*function)(double) = nullptr;
        std::vector<Node> parts = {};  // what is bound the last
    };
    struct State {
        std::vector<double> values;
        int steps_left = 0;
    };
    class Builder;

    static double value(const Node& node, State& state);

    Node root_;
    size_t slots_ = 1;  // the variable is the first
};

// A tree without unknowns as a number; nothing where it has none.
std::optional<double> number_of(const MathTree& tree, AngleUnit angle, const std::map<std::string, double>& values);

}  // namespace fernleaf
