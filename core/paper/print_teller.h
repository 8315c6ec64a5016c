// Tells printed words from written ones.
//
// The line network learns to look past how letters are drawn, but what it sees on the way still holds it: a logistic
// regression over what stands before its first layer that looks along the line, in the mean and the deviation over a
// word's columns. training/print_head.cpp trains it; docs/paper.md has the figures.
#pragma once

#include <filesystem>
#include <opencv2/core.hpp>
#include <vector>

#include "base/result.h"
#include "reading/reader.h"

namespace fernleaf {

class PrintTeller {
public:
    // The weights, one a channel, and the bias.
    PrintTeller(std::vector<float> weights, float bias) : weights_(std::move(weights)), bias_(bias) {}
    // models: the directory with print.head. Fails with one sentence.
    static Result<PrintTeller> load(const std::filesystem::path& models);

    // For each word of a line how likely it is printed, 0 to 1. features: what the network
    // saw in the line (Reader::read).
    std::vector<double> printed(const cv::Mat& features, const std::vector<WordReading>& words) const;

private:
    std::vector<float> weights_;
    float bias_ = 0;
};

// Their mean over the columns of a word, and then their deviation.
std::vector<float> word_features(const cv::Mat& features, const WordReading& word);

}  // namespace fernleaf
