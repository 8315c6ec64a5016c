#include "reading/network.h"

#include <zlib.h>

#include <cmath>
#include <fstream>
#include <iterator>
#include <nlohmann/json.hpp>

#include "base/text.h"
#include "reading/raster.h"

namespace fernleaf {
namespace {

constexpr size_t kLargestWeights = 200'000'000;
constexpr int kWidthStep = 4;  // the network halves the width twice

// Unpacks a compressed file; one that is not compressed is taken as it is. Empty when it is damaged.
std::string unpacked(const std::filesystem::path& path) {
    std::string out;
    const gzFile file = gzopen(path.c_str(), "rb");
    if (!file) return out;
    char buffer[1 << 16];
    int read = 0;
    while ((read = gzread(file, buffer, sizeof buffer)) > 0 && out.size() < kLargestWeights)
        out.append(buffer, static_cast<size_t>(read));
    int problem = Z_OK;
    gzerror(file, &problem);
    const bool whole = read == 0 && problem == Z_OK && gzeof(file);
    gzclose(file);
    return whole ? out : std::string();
}

Result<std::string> contents(const std::filesystem::path& path) {
    std::ifstream in(path, std::ios::binary);
    if (!in) return Error{"The reader's file " + path.string() + " is missing."};
    return std::string(std::istreambuf_iterator<char>(in), {});
}

void log_softmax(float* row, int count) {
    float most = row[0];
    for (int i = 1; i < count; ++i) most = std::max(most, row[i]);
    double sum = 0;
    for (int i = 0; i < count; ++i) sum += std::exp(static_cast<double>(row[i] - most));
    const auto shift = static_cast<float>(most + std::log(sum));
    for (int i = 0; i < count; ++i) row[i] -= shift;
}

}  // namespace

Result<std::unique_ptr<Network>> Network::load(const std::filesystem::path& directory) {
    const std::filesystem::path weights_path = directory / "reader.onnx.gz";
    if (const auto there = contents(weights_path); !there) return there.error();
    auto card = contents(directory / "reader.json");
    if (!card) return card.error();
    const Error damaged{"The reader's weights in " + directory.string() + " are damaged or not Fernleaf's."};
    try {
        const auto json = nlohmann::json::parse(*card);
        Alphabet alphabet(decode_utf8(json.at("alphabet").get<std::string>()));
        const std::string weights = unpacked(weights_path);
        if (weights.empty()) return damaged;
        cv::dnn::Net net = cv::dnn::readNetFromONNX(weights.data(), weights.size());
        if (net.empty()) return damaged;
        net.setPreferableBackend(cv::dnn::DNN_BACKEND_OPENCV);
        std::unique_ptr<Network> network(new Network(net, std::move(alphabet)));
        const cv::Mat trial = network->log_probabilities(cv::Mat::zeros(kLineHeightPx, 64, CV_8U));
        if (trial.rows != 64 / kColumnsPerStep) return damaged;
        return network;
    } catch (const std::exception&) {  // OpenCV and the JSON library report through exceptions
        return damaged;
    }
}

cv::Mat Network::log_probabilities(const cv::Mat& pixels) {
    const int width = std::max((pixels.cols + kWidthStep - 1) / kWidthStep * kWidthStep, 4 * kWidthStep);
    const int shape[] = {1, 1, kLineHeightPx, width};
    cv::Mat blob(4, shape, CV_32F, cv::Scalar(0));
    cv::Mat plane(kLineHeightPx, width, CV_32F, blob.ptr<float>());
    pixels.convertTo(plane(cv::Rect(0, 0, pixels.cols, kLineHeightPx)), CV_32F, 1 / 255.0);

    cv::Mat output;
    {
        const std::lock_guard lock(mutex_);
        net_.setInput(blob);
        output = net_.forward().clone();
    }
    // 1 x (2 * symbols) x 1 x steps / 2: each column of the head holds two time steps.
    const int symbols = alphabet_.size();
    CV_Assert(output.dims == 4 && output.size[1] == 2 * symbols && output.size[2] == 1);
    const int columns = output.size[3];
    cv::Mat scores(2 * columns, symbols, CV_32F);
    const auto* from = output.ptr<float>();
    for (int half = 0; half < 2; ++half)
        for (int s = 0; s < symbols; ++s)
            for (int t = 0; t < columns; ++t)
                scores.at<float>(2 * t + half, s) = from[(half * symbols + s) * columns + t];
    for (int t = 0; t < scores.rows; ++t) log_softmax(scores.ptr<float>(t), symbols);
    return scores;
}

}  // namespace fernleaf
