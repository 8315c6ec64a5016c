// Tells printed words from written ones.
//
// The line network learns to look past how letters are drawn, but what it sees on the way still holds it: a small
// network over what stands before its first layer that looks along the line. Each column is seen by a layer of hidden
// units; a word by their mean and deviation over its columns. What it says and how steadily the word's pieces stand on
// their baseline (baseline.h) are weighed together. How much of a page is printed is learnt from the page itself
// (Saerens, Latinne & Decaestecker, "Adjusting the outputs of a classifier to new a priori probabilities", 2002).
// training/print_head.py trains it; docs/paper.md has the figures.
#pragma once

#include <filesystem>
#include <opencv2/core.hpp>
#include <vector>

#include "base/result.h"
#include "paper/baseline.h"
#include "reading/reader.h"

namespace fernleaf {

class PrintTeller {
public:
    struct Weights {
        cv::Mat hidden;         // CV_32F, a row a unit: a weight for each channel and the bias
        cv::Mat last;           // one row: a weight for each unit's mean, one for its deviation, and the bias
        cv::Mat offsets;        // a row for each class of uncertainty: what a piece says by its bin (place_of)
        double steadiness = 0;  // what the pieces say together counts so much beside the network
    };
    explicit PrintTeller(Weights weights) : weights_(std::move(weights)) {}
    // models: the directory with print.head. Fails with one sentence.
    static Result<PrintTeller> load(const std::filesystem::path& models);

    // The logarithm of the odds that a word is printed, when print and writing are as frequent. rows: what the network
    // saw in it (word_rows). offsets: of pieces in and about it that stand on a baseline.
    double printed(const cv::Mat& rows, const std::vector<BaselineOffset>& offsets) const;

private:
    Weights weights_;
};

// What pieces say is told by bins, finer near the baseline, for each class of how uncertain their offset is.
constexpr int kOffsetBins = 16, kOffsetClasses = 4;
cv::Point place_of(const BaselineOffset& offset);  // x: the bin; y: the class

// What the network saw in a word: its rows of features.
cv::Mat word_rows(const cv::Mat& features, const WordReading& word);

// What to add to the words' logarithms of odds on a page where print is more or less frequent than writing, as they
// themselves tell. Between -kMostPrior and kMostPrior, 0 for few words.
double page_prior(const std::vector<double>& odds);
constexpr double kMostPrior = 4;

}  // namespace fernleaf
