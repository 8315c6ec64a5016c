#include "math/curves.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <limits>
#include <optional>
#include <set>

#include "math/math_text.h"
#include "math/parse_math.h"

namespace fernleaf {
namespace {

constexpr int kPlaces = 240;             // of a curve, before it is looked at more closely
constexpr int kMostLooks = 4000;         // at a curve, beside those places: what is wilder is drawn roughly
constexpr int kMostHalvings = 9;         // of the way from one to the next
constexpr double kStraight = 1 / 900.0;  // of the range: what is nearer to a straight line is one
constexpr double kLeap = 0.08;           // of the range: what is still farther apart after all halvings is no curve
constexpr double kBeyond = 3;            // heights of the range: what is farther out is cut off
constexpr int kBisections = 80, kSections = 80;
constexpr double kGolden = 0.6180339887498949;
constexpr double kUsualFrom = -10, kUsualTo = 10, kUsualTurn = 360, kUsualGon = 400;
constexpr double kFarthestZero = 1000, kAboutZeros = 1.3;
constexpr double kMostOf = 0.04;  // of the values on either side that may be left out,
constexpr double kMuchMore = 4;   // where the range would be so many times as high with them
constexpr double kMargin = 0.08;
constexpr double kRoundTo = 0.05;  // of the power of ten below a range
constexpr double kNothing = 1e-9;  // of the range's height

bool is_number(double v) { return std::isfinite(v); }

// The name that is calculated with: y, f(x), V(r).
bool is_a_side(const MathTree& left, const std::set<std::string>& unknowns_right) {
    if (left.kind == MathKind::name) return !unknowns_right.contains(left.text);
    return left.kind == MathKind::product && left.parts.size() == 2 && left.parts[0].kind == MathKind::name &&
           left.parts[1].kind == MathKind::name && unknowns_right.contains(left.parts[1].text) &&
           !unknowns_right.contains(left.parts[0].text);
}

std::set<std::string> open_names(const MathTree& tree, const Plot& plot) {
    std::set<std::string> out = unknowns_in(tree);
    // x runs in a plot, also where x = 4 stands above it.
    std::erase_if(out, [&](const std::string& name) { return name != "x" && plot.values.contains(name); });
    return out;
}

// Where all names have values one of them runs all the same: t² − 16 is a curve though t = 4 stands above it, too.
std::string variable_among(const std::set<std::string>& names) {
    if (names.contains("t")) return "t";
    return names.size() == 1 ? *names.begin() : std::string();
}

// A curve's way from one place to the next, halved until it is straight.
class Tracing {
public:
    Tracing(const PlottedFunction& f, const PlotRange& range)
        : f_(f), range_(range), height_(range.top - range.bottom) {}

    std::vector<std::vector<Point>> all() {
        Point before = at(range_.left);
        begin(before);
        for (int i = 1; i <= kPlaces; ++i) {
            const Point next = at(range_.left + (range_.right - range_.left) * i / kPlaces);
            go(before, next, 0);
            before = next;
        }
        std::erase_if(pieces_, [](const std::vector<Point>& piece) { return piece.empty(); });
        return std::move(pieces_);
    }

private:
    Point at(double x) const { return {x, f_.f(x)}; }
    double seen(double y) const {
        return std::clamp(y, range_.bottom - kBeyond * height_, range_.top + kBeyond * height_);
    }
    void begin(Point p) {
        pieces_.emplace_back();
        if (is_number(p.y)) pieces_.back().push_back({p.x, seen(p.y)});
    }
    void go(Point a, Point b, int halvings) {
        const bool both = is_number(a.y) && is_number(b.y);
        if (!both && !is_number(a.y) && !is_number(b.y) && halvings > 0) return begin(b);
        const Point middle = at((a.x + b.x) / 2);
        ++looks_;
        const double ya = seen(a.y), yb = seen(b.y), ym = seen(middle.y);
        const bool straight = both && is_number(middle.y) && std::abs(ym - (ya + yb) / 2) < kStraight * height_ &&
                              (halvings > 0 || std::abs(yb - ya) < kLeap * height_);
        if (straight || halvings == kMostHalvings || looks_ > kMostLooks) {
            if (both && (straight || std::abs(yb - ya) < kLeap * height_))
                pieces_.back().push_back({b.x, yb});
            else
                begin(b);
            return;
        }
        go(a, middle, halvings + 1);
        go(middle, b, halvings + 1);
    }

    const PlottedFunction& f_;
    PlotRange range_;
    double height_;
    int looks_ = 0;
    std::vector<std::vector<Point>> pieces_;
};

double zero_between(const PlottedFunction& f, double a, double b) {
    const bool rises = f.f(a) < f.f(b);
    for (int i = 0; i < kBisections; ++i) {
        const double middle = (a + b) / 2;
        (f.f(middle) < 0) == rises ? a = middle : b = middle;
    }
    return (a + b) / 2;
}

// The highest place between two, where there is one; sign: -1 for the lowest.
Point extreme_between(const PlottedFunction& f, double a, double b, double sign) {
    for (int i = 0; i < kSections; ++i) {
        const double left = b - kGolden * (b - a), right = a + kGolden * (b - a);
        sign* f.f(left) < sign* f.f(right) ? a = left : b = right;
    }
    const double x = (a + b) / 2;
    return {x, f.f(x)};
}

// A round number where one is meant: halving ends beside it.
double tidy(double v, double width) {
    const double grain = std::pow(10, std::ceil(std::log10(width)) - 8);
    const double round = std::round(v / grain) * grain;
    return std::abs(round) < grain / 2 ? 0 : round;
}

// To numbers that are easy to read, a little farther apart.
void round_outwards(double& from, double& to) {
    const double grain = kRoundTo * std::pow(10, std::floor(std::log10(to - from)));
    from = std::floor(from / grain + kNothing) * grain, to = std::ceil(to / grain - kNothing) * grain;
}

double usual_half(const Plot& plot) {
    for (const PlotCurve& curve : plot.curves) {
        const auto tree = parse_math(curve.formula, plot.decimal_comma);
        const std::string text = tree ? math_text(*tree) : std::string();
        const bool turns = text.find("sin(") != std::string::npos || text.find("cos(") != std::string::npos ||
                           text.find("tan(") != std::string::npos;
        if (turns && plot.angles != AngleUnit::radian) return plot.angles == AngleUnit::degree ? kUsualTurn : kUsualGon;
    }
    return kUsualTo;
}

}  // namespace

Result<PlottedFunction> plotted_function(const std::string& formula, const Plot& plot) {
    const auto parsed = parse_math(formula, plot.decimal_comma);
    if (!parsed) return parsed.error();
    MathTree tree = *parsed;
    if (tree.kind == MathKind::asked) tree = MathTree(tree.parts[0]);
    if (tree.kind == MathKind::relation) {
        if (tree.text != "=" || tree.parts.size() != 2) return Error{"Only expressions and equations can be plotted."};
        const MathTree left = tree.parts[0], right = tree.parts[1];
        if (is_a_side(left, open_names(right, plot)))
            tree = right;
        else if (is_a_side(right, open_names(left, plot)) && right.kind == MathKind::name)
            tree = left;
        else
            tree = math_of(MathKind::sum, {left, math_of(MathKind::negative, {right})});
    }
    const std::set<std::string> open = open_names(tree, plot);
    if (open.size() > 1) {
        std::string names;
        for (const std::string& name : open) names += (names.empty() ? "" : ", ") + name;
        return Error{"This has several unknowns (" + names + "). Give all but one a value above the plot."};
    }
    const std::string variable = open.empty() ? variable_among(unknowns_in(tree)) : *open.begin();
    auto f = NumericFunction::of(tree, variable, plot.angles, plot.values);
    if (!f) return Error{"This can't be plotted: it has no numeric value."};
    return PlottedFunction{*std::move(f), variable};
}

std::vector<std::vector<Point>> curve_of(const PlottedFunction& f, const PlotRange& range) {
    return Tracing(f, range).all();
}

MarkedPlaces marked_places(const PlottedFunction& f, const PlotRange& range) {
    MarkedPlaces out;
    const double width = range.right - range.left, height = range.top - range.bottom;
    constexpr int kSteps = 4 * kPlaces;
    // Beginning beside the border, so that round numbers lie between two places.
    const auto x_at = [&](int i) { return range.left + width * (i + 0.31) / (kSteps + 0.62); };
    const auto seen = [&](Point p) { return is_number(p.y) && p.y >= range.bottom && p.y <= range.top; };
    double before = f.f(x_at(0)), here = f.f(x_at(1));
    for (int i = 1; i <= kSteps; ++i) {
        const double next = i < kSteps ? f.f(x_at(i + 1)) : std::numeric_limits<double>::quiet_NaN();
        const double from = x_at(i - 1), to = x_at(i);
        if (is_number(before) && is_number(here) && (before < 0) != (here < 0)) {
            const double zero = zero_between(f, from, to);
            // A pole changes the sign, too.
            if (std::abs(f.f(zero)) < std::max(std::abs(before), std::abs(here)) * 0.01 + kNothing * height)
                out.zeros.push_back({tidy(zero, width), 0});
        }
        for (const double sign : {1.0, -1.0}) {
            if (!is_number(before) || !is_number(here) || !is_number(next)) continue;
            if (!(sign * here > sign * before && sign * here >= sign * next)) continue;
            Point place = extreme_between(f, from, x_at(i + 1), sign);
            // Where it leaps there is no highest place, and rounding makes none.
            if (!seen(place) || std::abs(place.y - here) > 0.2 * height) continue;
            if (std::max(std::abs(here - before), std::abs(here - next)) < kNothing * height) continue;
            place = {tidy(place.x, width / 1000), tidy(place.y, height)};
            if (std::abs(place.y) < kNothing * height) out.zeros.push_back({place.x, 0});
            (sign > 0 ? out.highest : out.lowest).push_back(place);
        }
        before = here, here = next;
    }
    if (range.bottom > 0 || range.top < 0) out.zeros.clear();  // they are not seen
    for (std::vector<Point>* places : {&out.zeros, &out.highest, &out.lowest})
        if (places->size() > kMostMarkedPlaces) places->clear();
    return out;
}

PlotRange fitting_range(const Plot& plot) {
    std::vector<PlottedFunction> functions;
    for (const PlotCurve& curve : plot.curves)
        if (auto f = plotted_function(curve.formula, plot)) functions.push_back(*std::move(f));
    PlotRange range;
    range.left = kUsualFrom, range.right = kUsualTo;
    if (const double half = usual_half(plot); half != kUsualTo) range.left = -half, range.right = half;
    Box points;
    for (const PlotPoints& series : plot.points)
        for (const Point p : series.at) points.include(p);
    if (!points.empty()) {
        const double margin = points.width() > 0 ? kMargin * points.width() : 1;
        range.left = points.left - margin, range.right = points.right + margin;
    } else {
        // Where it is zero there is something to see.
        double farthest = 0;
        const PlotRange far{-kFarthestZero, kFarthestZero, -1, 1};
        for (const PlottedFunction& f : functions)
            for (const Point zero : marked_places(f, far).zeros) farthest = std::max(farthest, std::abs(zero.x));
        if (farthest > kUsualTo && usual_half(plot) == kUsualTo)
            range.left = -kAboutZeros * farthest, range.right = kAboutZeros * farthest;
    }
    std::vector<double> values;
    for (const PlottedFunction& f : functions)
        for (int i = 0; i <= kPlaces; ++i) {
            const double y = f.f(range.left + (range.right - range.left) * i / kPlaces);
            if (is_number(y) && std::abs(y) < kFarthestPlotted / 10) values.push_back(y);
        }
    const auto points_high = [&](double& low, double& high) {
        if (!points.empty()) low = std::min(low, points.top), high = std::max(high, points.bottom);
    };
    double low = 0, high = 0;
    if (!values.empty()) {
        std::ranges::sort(values);
        const auto left_out = static_cast<size_t>(kMostOf * static_cast<double>(values.size()));
        low = values[left_out], high = values[values.size() - 1 - left_out];
        if (values.back() - values.front() < kMuchMore * (high - low)) low = values.front(), high = values.back();
    } else if (!points.empty()) {
        low = points.top, high = points.bottom;
    }
    points_high(low, high);
    if (high - low < kNothing * std::max(1.0, std::abs(high))) low -= 1, high += 1;
    const double margin = kMargin * (high - low);
    range.bottom = low - margin, range.top = high + margin;
    round_outwards(range.left, range.right);
    round_outwards(range.bottom, range.top);
    return is_sound(range) ? range : PlotRange{};
}

std::vector<double> ticks(double from, double to, double least_apart) {
    const double power = std::pow(10, std::floor(std::log10(least_apart)));
    double apart = 10 * power;
    for (const double times : {1.0, 2.0, 5.0})
        if (times * power >= least_apart * (1 - kNothing)) {
            apart = times * power;
            break;
        }
    std::vector<double> out;
    for (double k = std::ceil(from / apart - kNothing); k * apart <= to + kNothing * apart; ++k)
        out.push_back(k == 0 ? 0 : k * apart);
    return out;
}

std::string tick_text(double value, double apart, bool decimal_comma) {
    std::array<char, 64> text{};
    const double size = std::max(std::abs(value), apart);
    if (value != 0 && (size >= 1e6 || apart < 1e-5)) {
        std::snprintf(text.data(), text.size(), "%.4g", value);
    } else {
        const int decimals = std::clamp(static_cast<int>(std::ceil(-std::log10(apart) - kNothing)), 0, 6);
        std::snprintf(text.data(), text.size(), "%.*f", decimals, value);
    }
    std::string out = text.data();
    if (decimal_comma) std::ranges::replace(out, '.', ',');
    return out;
}

}  // namespace fernleaf
