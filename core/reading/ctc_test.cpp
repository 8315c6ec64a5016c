#include "reading/ctc.h"

#include <gtest/gtest.h>

#include <cmath>

#include "reading/network.h"

namespace fernleaf {
namespace {

cv::Mat random_scores(int steps, int symbols) {
    cv::Mat scores(steps, symbols, CV_32F);
    cv::RNG(11).fill(scores, cv::RNG::NORMAL, 0, 1.5);
    return scores;
}

cv::Mat softened(const cv::Mat& scores) {
    return to_log_probabilities(scores.reshape(1, scores.rows / 2), scores.cols);
}

// All ways through the steps, counted one by one.
double by_counting(const cv::Mat& log_probabilities, const std::vector<int>& wanted) {
    double sum = 0;
    std::vector<int> way(static_cast<size_t>(log_probabilities.rows));
    const auto try_all = [&](const auto& self, size_t t, double log_p) -> void {
        if (t == way.size()) {
            std::vector<int> text;
            for (size_t i = 0; i < way.size(); ++i)
                if (way[i] != 0 && (i == 0 || way[i] != way[i - 1])) text.push_back(way[i]);
            if (text == wanted) sum += std::exp(log_p);
            return;
        }
        for (int s = 0; s < log_probabilities.cols; ++s) {
            way[t] = s;
            self(self, t + 1, log_p + static_cast<double>(log_probabilities.at<float>(static_cast<int>(t), s)));
        }
    };
    try_all(try_all, 0, 0);
    return -std::log(sum);
}

TEST(Ctc, LossSumsAllWaysToWriteTheText) {
    const cv::Mat p = softened(random_scores(6, 3));
    for (const std::vector<int>& text : {std::vector<int>{}, {1}, {1, 2}, {1, 1}, {2, 1, 2}, {2, 2, 1}})
        EXPECT_NEAR(ctc_loss(p, text).loss, by_counting(p, text), 1e-4);
}

TEST(Ctc, GradientIsThatOfTheLoss) {
    const std::vector<int> text{1, 1, 3};
    cv::Mat scores = random_scores(10, 4);
    const cv::Mat gradient = ctc_loss(softened(scores), text).gradient;
    for (int t = 0; t < scores.rows; ++t)
        for (int s = 0; s < scores.cols; ++s) {
            const float value = scores.at<float>(t, s);
            constexpr float kStep = 0.01F;
            scores.at<float>(t, s) = value + kStep;
            const double more = ctc_loss(softened(scores), text).loss;
            scores.at<float>(t, s) = value - kStep;
            const double less = ctc_loss(softened(scores), text).loss;
            scores.at<float>(t, s) = value;
            EXPECT_NEAR(gradient.at<float>(t, s), (more - less) / (2 * kStep), 2e-3) << t << ' ' << s;
        }
}

TEST(Ctc, TextThatDoesNotFitHasNoGradient) {
    const CtcLoss loss = ctc_loss(softened(random_scores(4, 3)), {1, 1, 1});  // needs five steps
    EXPECT_TRUE(std::isinf(loss.loss));
    EXPECT_TRUE(loss.gradient.empty());
}

TEST(Ctc, GreedyDropsRepeatsAndBlanks) {
    cv::Mat scores = cv::Mat::zeros(6, 3, CV_32F);
    const int best[] = {1, 1, 0, 1, 2, 0};
    for (int t = 0; t < 6; ++t) scores.at<float>(t, best[t]) = 5;
    EXPECT_EQ(ctc_greedy(scores), (std::vector<int>{1, 1, 2}));
}

}  // namespace
}  // namespace fernleaf
