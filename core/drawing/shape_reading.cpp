#include "drawing/shape_reading.h"

#include <array>

#include "drawing/shape_fits.h"

namespace fernleaf {
namespace {

// What makes a kind likely, learnt by training/shape_costs.py on shapes as people draw them. Its logarithm is how
// common the kind is, less how far the ink lies from it, less a price for each number that forms it. Small distances
// tell kinds apart that differ little, such as a square and a rectangle; large ones rule a kind out.
struct Weights {
    double common, near, far;
};
constexpr double kHand = 0.012;  // of the figure's size: how far a hand's ink usually lies from what it means
constexpr double kMostFar = 60;
constexpr double kPrice = 1.35;
constexpr std::array<Weights, kShapeKinds> kWeights{{
    {-0.96, 6.96, 0.899},   // line
    {-1.71, 6.51, 0.814},   // polyline
    {1.14, 2.20, 0.975},    // arrow
    {1.66, 1.47, 0.929},    // double_arrow
    {-0.45, 12.34, 1.008},  // arc
    {-0.93, 4.99, 0.991},   // curve
    {1.01, 15.25, 1.034},   // circle
    {-1.39, 15.03, 1.007},  // ellipse
    {2.76, 1.87, 23.258},   // square
    {0.95, 8.64, 0.910},    // rectangle
    {1.45, 9.85, 1.090},    // rounded_rectangle
    {0.01, 5.29, 0.868},    // triangle
    {2.56, 3.26, 5.939},    // diamond
    {-0.11, 6.28, 0.930},   // parallelogram
    {-1.14, 6.21, 1.044},   // trapezoid
    {-2.49, 10.62, 1.000},  // pentagon
    {-3.13, 12.46, 0.899},  // hexagon
    {0.31, 2.59, 0.992},    // star
    {-0.77, 14.89, 1.009},  // polygon
    {1.22, 2.52, 6.145},    // brace
}};

double score(const Fit& fit, double scale) {
    const double off = std::pow(fit.error / (kHand * scale), 2);
    const Weights& w = kWeights[static_cast<size_t>(fit.shape.kind)];
    return w.common - w.near * std::log1p(off) - w.far * std::min(off, kMostFar) / 10 - kPrice * fit.freedom;
}

}  // namespace

ShapeReading read_shape(const std::vector<const Stroke*>& strokes) {
    ShapeReading out;
    const ShapeFits all = shape_fits(strokes);
    std::vector<double> scores;  // of each candidate
    for (const Fit& fit : all.fits) {
        const double here = score(fit, all.scale);
        const auto same =
            std::ranges::find(out.candidates, fit.shape.kind, [](const ShapeCandidate& c) { return c.shape.kind; });
        const auto at = static_cast<size_t>(same - out.candidates.begin());
        if (same == out.candidates.end())
            out.candidates.push_back({fit.shape, 0, fit.error}), scores.push_back(here);
        else if (here > scores[at])
            *same = {fit.shape, 0, fit.error}, scores[at] = here;
    }
    if (scores.empty()) return out;
    const double most = std::ranges::max(scores);
    double sum = 0;
    for (double& here : scores) here = std::exp(here - most), sum += here;
    for (size_t i = 0; i < scores.size(); ++i) out.candidates[i].certainty = scores[i] / sum;
    std::ranges::sort(out.candidates, std::greater(), &ShapeCandidate::certainty);
    return out;
}

}  // namespace fernleaf
