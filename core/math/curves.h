// What of a formula is drawn in a plot: its curve in pieces, with the places where it is zero, highest or lowest.
//
//   const auto f = plotted_function("y = x^2 - 16", plot);
//   for (const std::vector<Point>& piece : curve_of(*f, plot.range)) ...
//
// A curve is taken at places spread evenly and, where it bends, between these until a straight line serves as well;
// where it still leaps then it is broken off. That finds what is wider than a few places; intervals would prove more
// (Tupper, "Reliable two-dimensional graphing methods for mathematical formulae", SIGGRAPH 2001) for many times the
// work. Zeros are found by halving where the sign changes, highest and lowest places by golden sections (Kiefer,
// "Sequential minimax search for a maximum", 1953).
#pragma once

#include <string>
#include <vector>

#include "base/result.h"
#include "document/plot/plot.h"
#include "math/numeric_function.h"

namespace fernleaf {

struct PlottedFunction {
    NumericFunction f;
    std::string variable;  // empty: it is the same everywhere
};

// What a formula means within a plot: an expression in one unknown, y = such a one, f(x) = such a one, or an equation
// in one unknown, of which the difference of both sides is drawn. Fails with one sentence.
Result<PlottedFunction> plotted_function(const std::string& formula, const Plot& plot);

// In numbers, x rising within each piece. What lies far outside of the range is cut off.
std::vector<std::vector<Point>> curve_of(const PlottedFunction& f, const PlotRange& range);

struct MarkedPlaces {
    std::vector<Point> zeros, highest, lowest;
};
// Within the range; none of a kind of which there are too many to be told apart.
constexpr size_t kMostMarkedPlaces = 24;
MarkedPlaces marked_places(const PlottedFunction& f, const PlotRange& range);

// A range that shows what is telling of all that is plotted.
PlotRange fitting_range(const Plot& plot);

// Round numbers along an axis, rising, the fewest steps that are at least so far apart.
std::vector<double> ticks(double from, double to, double least_apart);
// A number of an axis, with as many decimals as its ticks need.
std::string tick_text(double value, double apart, bool decimal_comma);

}  // namespace fernleaf
