// What training made: the line network's layers and the alphabet they were trained for.
//
//   auto weights = load_weights("models");            // reader.weights.gz
//   auto network = Network(*weights);
//
// The file, compressed with gzip: the line "fernleaf reader 1"; one line of JSON with the alphabet and the layers'
// shapes; then every layer's weights (out x in x height x width) and biases (out) as little-endian 16-bit floats.
// training/export.py writes it.
#pragma once

#include <filesystem>
#include <memory>
#include <opencv2/core.hpp>
#include <string>
#include <vector>

#include "base/result.h"
#include "reading/alphabet.h"

namespace fernleaf {

// A convolution with zero padding; then, where told, the rectifier; then, where told, the layer's input is added.
struct Layer {
    int in = 0;
    int out = 0;
    cv::Size kernel;
    cv::Size stride;
    cv::Size pad;
    bool rectified = false;
    bool residual = false;
    cv::Mat weights;  // CV_32F, out rows of in * kernel.height * kernel.width
    cv::Mat bias;     // CV_32F, one row of out
};

struct Weights {
    Alphabet alphabet;
    std::vector<Layer> layers;
};

// Fails with one sentence on weights that are missing, damaged or not Fernleaf's.
Result<std::shared_ptr<const Weights>> load_weights(const std::filesystem::path& directory);

}  // namespace fernleaf
