// Rules printed on paper: lines and squares to write on, frames and lines of forms.
//
// They are long thin runs along one slope, across a page or down it, fainter than ink or not. Where the page
// curls they are followed on from their ends, by a filter that foretells place and slope from what it saw so far
// (Benedict & Bordner 1962).
#pragma once

#include <opencv2/core.hpp>

namespace fernleaf {

constexpr int kFaintestRule = 12;    // darker than the paper by this many of 255
constexpr int kRuleThicknessPx = 4;  // at most
constexpr double kOnRule = 1.4;      // as dark as a rule mostly is: darker is a stroke on it

// CV_8U, 255 where
struct PrintedRules {
    explicit PrintedRules(cv::Size size);
    cv::Mat free;   // no stroke lies there
    cv::Mat all;    // as dark as rules are, whatever crosses them
    cv::Mat under;  // a stroke lies on the rule
};

// Those across, and those down. CV_8U, of one size: faint: 255 for what is darker than paper at all; ink: for what is
// as dark as ink; dark: how dark all is.
PrintedRules rules_across(const cv::Mat& faint, const cv::Mat& ink, const cv::Mat& dark);
PrintedRules rules_down(const cv::Mat& faint, const cv::Mat& ink, const cv::Mat& dark);

}  // namespace fernleaf
