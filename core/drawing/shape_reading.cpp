#include "drawing/shape_reading.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include "drawing/shape_fits.h"
#include "drawing/shape_weights.h"

namespace fernleaf {
namespace {

constexpr double kHand = 0.012;  // of the figure's size: how far a hand's ink usually lies from what it means
// Of fits of one kind, such as polylines of more and fewer corners, the one is taken that lies nearest to the ink, less
// a price for each number that forms it.
constexpr double kNear = 8, kFar = 0.095, kMostFar = 60, kPrice = 1.35;
constexpr double kLeastError = 2e-4, kNoFit = 0.3;  // of the figure's size
constexpr double kMostFreedom = 13;

double score(const Fit& fit, double scale) {
    const double off = std::pow(fit.error / (kHand * scale), 2);
    return -kNear * std::log1p(off) - kFar * std::min(off, kMostFar) - kPrice * fit.freedom;
}

// Of each kind its best fit; null: it has none.
using BestFits = std::array<const Fit*, kShapeKinds>;

BestFits best_fits(const ShapeFits& all) {
    BestFits out{};
    std::array<double, kShapeKinds> scores{};
    for (const Fit& fit : all.fits) {
        const auto kind = static_cast<size_t>(fit.shape.kind);
        const double here = score(fit, all.scale);
        if (!out[kind] || here > scores[kind]) out[kind] = &fit, scores[kind] = here;
    }
    return out;
}

template <size_t From, size_t To>
std::array<double, To> layer(const std::array<double, From>& in, const std::array<float, From * To>& weights,
                             const std::array<float, To>& bias, bool rectified) {
    std::array<double, To> out{};
    for (size_t o = 0; o < To; ++o) {
        double sum = static_cast<double>(bias[o]);
        for (size_t i = 0; i < From; ++i) sum += static_cast<double>(weights[o * From + i]) * in[i];
        out[o] = rectified ? std::max(0.0, sum) : sum;
    }
    return out;
}

// How likely each kind is, up to what is common to all: as training/shape_net.py has taught.
std::array<double, kShapeKinds> likelihoods(const BestFits& fits, double scale) {
    std::array<double, kShapeInputs> in{};
    for (size_t kind = 0; kind < kShapeKinds; ++kind) {
        const Fit* fit = fits[kind];
        in[kind] = std::log(std::max(kLeastError, fit ? fit->error / scale : kNoFit) / kHand);
        in[kShapeKinds + kind] = fit ? 1 : 0;
        in[size_t{2} * kShapeKinds + kind] = fit ? fit->freedom / kMostFreedom : 0;
    }
    const auto first = layer<kShapeInputs, kShapeHidden>(in, kFirstWeights, kFirstBias, true);
    const auto second = layer<kShapeHidden, kShapeHidden>(first, kSecondWeights, kSecondBias, true);
    auto out = layer<kShapeHidden, kShapeKinds>(second, kThirdWeights, kThirdBias, false);
    // What was learnt is added to how good each fit is by itself: that tells for ink that is no shape at all.
    for (size_t kind = 0; kind < kShapeKinds; ++kind)
        if (fits[kind]) out[kind] += score(*fits[kind], scale);
    return out;
}

}  // namespace

ShapeReading read_shape(const std::vector<const Stroke*>& strokes) {
    ShapeReading out;
    const ShapeFits all = shape_fits(strokes);
    if (all.fits.empty()) return out;
    const BestFits fits = best_fits(all);
    const std::array<double, kShapeKinds> scores = likelihoods(fits, all.scale);
    double most = -std::numeric_limits<double>::infinity(), sum = 0;
    for (size_t kind = 0; kind < kShapeKinds; ++kind)
        if (fits[kind]) most = std::max(most, scores[kind]);
    for (size_t kind = 0; kind < kShapeKinds; ++kind) {
        if (!fits[kind]) continue;
        const double here = std::exp(scores[kind] - most);
        sum += here;
        out.candidates.push_back({fits[kind]->shape, here, fits[kind]->error});
    }
    for (ShapeCandidate& candidate : out.candidates) candidate.certainty /= sum;
    std::ranges::sort(out.candidates, std::greater(), &ShapeCandidate::certainty);
    return out;
}

}  // namespace fernleaf
