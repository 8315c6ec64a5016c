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
#include "reading/reader.h"

namespace fernleaf {

class PrintTeller {
public:
    // CV_32F. hidden: a row a unit, of a weight for each channel and the bias. last: one row, of a weight for each
    // unit's mean, one for its deviation, and the bias. offsets: one row, of what a piece adds by how far it stands off
    // the baseline, for each bin (offset_bin).
    PrintTeller(cv::Mat hidden, cv::Mat last, cv::Mat offsets)
        : hidden_(std::move(hidden)), last_(std::move(last)), offsets_(std::move(offsets)) {}
    // models: the directory with print.head. Fails with one sentence.
    static Result<PrintTeller> load(const std::filesystem::path& models);

    // The logarithm of the odds that a word is printed, when print and writing are as frequent. rows: what the network
    // saw in it (word_rows). offsets: of its pieces that stand on a baseline (baseline_offsets).
    double printed(const cv::Mat& rows, const std::vector<double>& offsets) const;

private:
    cv::Mat hidden_, last_, offsets_;
};

// Bins of offsets from the baseline, finer near it.
constexpr int kOffsetBins = 16;
int offset_bin(double offset);

// What the network saw in a word: its rows of features.
cv::Mat word_rows(const cv::Mat& features, const WordReading& word);

// What to add to the words' logarithms of odds on a page where print is more or less frequent than writing, as they
// themselves tell. Between -kMostPrior and kMostPrior, 0 for few words.
double page_prior(const std::vector<double>& odds);
constexpr double kMostPrior = 4;

}  // namespace fernleaf
