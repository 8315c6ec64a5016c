// The trained line network, run by OpenCV from a compressed ONNX file.
//
//   auto network = Network::load("models");
//   cv::Mat scores = (*network)->log_probabilities(picture.pixels);   // time x symbols
#pragma once

#include <filesystem>
#include <memory>
#include <mutex>
#include <opencv2/dnn.hpp>

#include "base/result.h"
#include "reading/alphabet.h"

namespace fernleaf {

constexpr double kColumnsPerStep = 2;  // picture columns in one time step of the network

class Network {
public:
    // Reads reader.onnx.gz and reader.json of a directory. Fails with one sentence on weights that are missing, damaged
    // or made for another alphabet.
    static Result<std::unique_ptr<Network>> load(const std::filesystem::path& directory);

    const Alphabet& alphabet() const { return alphabet_; }

    // Natural logarithms of the symbols' probabilities, CV_32F, one row a time step, column 0 the blank.
    // pixels: CV_8U, 40 rows. Safe to call from several threads; calls run one after the other.
    cv::Mat log_probabilities(const cv::Mat& pixels);

private:
    Network(const cv::dnn::Net& net, Alphabet alphabet) : net_(net), alphabet_(std::move(alphabet)) {}

    std::mutex mutex_;
    cv::dnn::Net net_;
    Alphabet alphabet_;
};

}  // namespace fernleaf
