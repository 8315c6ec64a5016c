// The CTC loss of a text and its gradient (Graves et al. 2006, "Connectionist temporal classification").
#pragma once

#include <opencv2/core.hpp>
#include <vector>

namespace fernleaf {

struct CtcLoss {
    double loss = 0;   // negative natural logarithm of the text's probability
    cv::Mat gradient;  // of the loss by the scores before the softmax; CV_32F, the size of the scores
};

// log_probabilities: CV_32F, a row a time step, column 0 the blank. symbols: those of the text, none of them the blank.
// A text that needs more steps than there are has an infinite loss and no gradient.
CtcLoss ctc_loss(const cv::Mat& log_probabilities, const std::vector<int>& symbols);

// The most likely symbol at every step, repeats and blanks taken out.
std::vector<int> ctc_greedy(const cv::Mat& log_probabilities);

}  // namespace fernleaf
