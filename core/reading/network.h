// The trained line network: a chain of convolutions, run by oneDNN on one thread.
//
//   auto network = Network::load("models");
//   cv::Mat scores = (*network)->log_probabilities(picture.pixels);   // time x symbols
//
// oneDNN runs these convolutions four times as fast as OpenCV's own network module does (docs/reading.md). It makes
// machine code for every shape, so lines are padded to few widths, and what was made for a width is kept.
#pragma once

#include <filesystem>
#include <memory>
#include <opencv2/core.hpp>

#include "base/result.h"
#include "reading/weights.h"

namespace fernleaf {

constexpr size_t kFirstAlong = 7;      // the first layer that looks along the line; what stands before it is local
constexpr double kColumnsPerStep = 2;  // picture columns in one time step of the network

class Network {
public:
    static Result<std::unique_ptr<Network>> load(const std::filesystem::path& directory);
    // Fails when the layers don't bring a line's 40 rows down to one.
    static Result<std::unique_ptr<Network>> make(std::shared_ptr<const Weights> weights);
    ~Network();

    const Alphabet& alphabet() const { return weights_->alphabet; }
    const std::shared_ptr<const Weights>& weights() const { return weights_; }

    // Natural logarithms of the symbols' probabilities, CV_32F, one row a time step, column 0 the blank.
    // pixels: CV_8U, 40 rows. Safe to call from several threads; calls run one after the other.
    // seen: what stands before kFirstAlong, as before_layer gives it.
    cv::Mat log_probabilities(const cv::Mat& pixels, cv::Mat* seen = nullptr) const;

    // What stands before layer number `layer`, which must be one of those behind the point where the height is down to
    // one: CV_32F, a row for every two time steps, a column for each of the layer's inputs.
    cv::Mat before_layer(const cv::Mat& pixels, size_t layer) const;

private:
    class Engine;
    explicit Network(std::shared_ptr<const Weights> weights);

    std::shared_ptr<const Weights> weights_;
    std::unique_ptr<Engine> engine_;
};

// The head's output, a row for every two time steps, as log-probabilities, a row for each.
cv::Mat to_log_probabilities(const cv::Mat& head, int symbols);

}  // namespace fernleaf
