// Teaching: the reader's last layer fitted to one person's hand by lines that person wrote and whose text is known.
//
//   auto taught = teach(network, examples);
//   if (taught && taught->better()) hand = Network::make(with_head(*network.weights(), taught->head));
//
// The layers below stay as they are, so what is learnt is small (a profile of some 120 kB), quick to learn (a second or
// two for thirty lines), and bounded in what it can spoil. Between a person's lines, lines of other hands are rehearsed
// (Robins 1995), so that the taught reader still reads those. The head is moved by Adam (Kingma & Ba 2015) along the
// CTC gradient, one line a step; how long is chosen by cross-validation: the lines are dealt into four shares, each is
// read by heads that learnt from the other three. Where no length reads held-back lines better than the reader did
// before, nothing is learnt. Figures: docs/reading.md.
#pragma once

#include <opencv2/core.hpp>
#include <string>
#include <vector>

#include "base/cancel.h"
#include "base/result.h"
#include "reading/network.h"

namespace fernleaf {

// What it takes to learn from: ten short lines, or as much in longer lines or words.
constexpr size_t kFewestExamples = 8;
constexpr size_t kFewestCharacters = 240;

struct Example {
    cv::Mat pixels;    // a line or word as the network sees it: CV_8U, 40 rows
    std::string text;  // UTF-8
};

// The last layer: scores from features.
struct ReaderHead {
    cv::Mat weights;  // CV_32F, a row for each output
    cv::Mat bias;     // CV_32F, one row
};

struct Taught {
    ReaderHead head;
    size_t examples = 0;
    // Characters wrong of a hundred in held-back examples, spelt as seen.
    double errors_before = 0;
    double errors_after = 0;
    bool better() const { return errors_after < errors_before; }
};

// Whether there is enough to learn from.
bool enough_to_teach(const std::vector<Example>& examples);

// Fails when there are too few examples to learn from, or cancelled. Examples whose text has characters that the
// alphabet lacks, or doesn't fit the picture, are passed over.
// rehearsal: lines of other hands.
Result<Taught> teach(const Network& network, const std::vector<Example>& examples,
                     const std::vector<Example>& rehearsal, const CancelToken& cancel = {},
                     const Progress& progress = {});

// Reads rehearsal.gz of a directory. Unpacked it is the line "fernleaf lines 1" and for each example a line with the
// picture's width, a space and the text; then 40 rows of so many bytes, and a line's end. training/rehearsal.py writes
// it.
Result<std::vector<Example>> load_rehearsal(const std::filesystem::path& directory);

std::shared_ptr<const Weights> with_head(const Weights& weights, const ReaderHead& head);

// A head as bytes, and back: tied to the layers it was learnt on, so that a profile from other weights is refused.
std::string encode_head(const ReaderHead& head, const Weights& weights);
Result<ReaderHead> decode_head(const std::string& bytes, const Weights& weights);

}  // namespace fernleaf
