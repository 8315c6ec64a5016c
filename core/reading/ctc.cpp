#include "reading/ctc.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace fernleaf {
namespace {

constexpr double kNegligible = 30;  // a summand e^-30 of the other changes nothing that matters
constexpr double kNoPath = -std::numeric_limits<double>::infinity();

double log_add(double a, double b) {
    if (a < b) std::swap(a, b);
    return b == kNoPath || b < a - kNegligible ? a : a + std::log1p(std::exp(b - a));
}

}  // namespace

CtcLoss ctc_loss(const cv::Mat& log_probabilities, const std::vector<int>& symbols) {
    const int steps = log_probabilities.rows;
    std::vector<int> states{0};  // blank, symbol, blank, …
    for (const int s : symbols) states.push_back(s), states.push_back(0);
    const int count = static_cast<int>(states.size());
    const auto seen = [&](int t, int s) { return static_cast<double>(log_probabilities.at<float>(t, states[s])); };
    const auto skips = [&](int s) { return s > 1 && states[s] != 0 && states[s] != states[s - 2]; };
    if (steps == 0) return {std::numeric_limits<double>::infinity(), {}};

    cv::Mat_<double> forward(steps, count, kNoPath);   // ways to reach a state, with this step's score
    cv::Mat_<double> backward(steps, count, kNoPath);  // ways on from it, without
    forward(0, 0) = seen(0, 0);
    if (count > 1) forward(0, 1) = seen(0, 1);
    // States that can't be reached yet, or from which the end can't be reached any more, are left out.
    const auto first = [&](int t) { return std::max(0, count - 2 * (steps - t)); };
    const auto last = [&](int t) { return std::min(count, 2 * (t + 1)); };
    for (int t = 1; t < steps; ++t)
        for (int s = first(t); s < last(t); ++s) {
            double sum = forward(t - 1, s);
            if (s > 0) sum = log_add(sum, forward(t - 1, s - 1));
            if (skips(s)) sum = log_add(sum, forward(t - 1, s - 2));
            forward(t, s) = sum + seen(t, s);
        }
    backward(steps - 1, count - 1) = 0;
    if (count > 1) backward(steps - 1, count - 2) = 0;
    for (int t = steps - 2; t >= 0; --t)
        for (int s = first(t); s < last(t); ++s) {
            double sum = backward(t + 1, s) + seen(t + 1, s);
            if (s + 1 < count) sum = log_add(sum, backward(t + 1, s + 1) + seen(t + 1, s + 1));
            if (s + 2 < count && skips(s + 2)) sum = log_add(sum, backward(t + 1, s + 2) + seen(t + 1, s + 2));
            backward(t, s) = sum;
        }
    double total = forward(steps - 1, count - 1);
    if (count > 1) total = log_add(total, forward(steps - 1, count - 2));
    if (total == kNoPath) return {std::numeric_limits<double>::infinity(), {}};

    CtcLoss out{-total, {}};
    cv::exp(log_probabilities, out.gradient);
    for (int t = 0; t < steps; ++t)
        for (int s = first(t); s < last(t); ++s)
            if (const double way = forward(t, s) + backward(t, s) - total; way > -40)
                out.gradient.at<float>(t, states[s]) -= static_cast<float>(std::exp(way));
    return out;
}

std::vector<int> ctc_greedy(const cv::Mat& log_probabilities) {
    std::vector<int> symbols;
    int before = 0;
    for (int t = 0; t < log_probabilities.rows; ++t) {
        const auto* row = log_probabilities.ptr<float>(t);
        const int best = static_cast<int>(std::max_element(row, row + log_probabilities.cols) - row);
        if (best != 0 && best != before) symbols.push_back(best);
        before = best;
    }
    return symbols;
}

}  // namespace fernleaf
