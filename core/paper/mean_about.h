// What is known in places, spread over those about them (normalised convolution: Knutsson & Westin 1993).
#pragma once

#include <opencv2/core.hpp>

namespace fernleaf {

// The mean about each place of a copy of size `coarse`, by weights (a Gaussian of `sigma` of the copy's px). values:
// of any depth, up to four channels; weights: CV_32FC1, as large, 0 where nothing is known. usual: the mean where
// hardly anything is known about; its_weight says how hardly. What comes is CV_32F.
cv::Mat mean_about(const cv::Mat& values, const cv::Mat& weights, cv::Size coarse, double sigma,
                   const cv::Scalar& usual = {}, double its_weight = 1e-9);

}  // namespace fernleaf
