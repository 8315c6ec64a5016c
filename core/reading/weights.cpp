#include "reading/weights.h"

#include <nlohmann/json.hpp>

#include "base/text.h"
#include "reading/packed_file.h"

namespace fernleaf {
namespace {

constexpr char kWeightsMagic[] = "fernleaf reader 1\n";
constexpr int kWidestLayer = 4096;
constexpr int kLargestKernel = 31;
constexpr int kMostLayers = 200;

cv::Size size_of(const nlohmann::json& json) { return {json.at(1).get<int>(), json.at(0).get<int>()}; }

bool within(const cv::Size& size, int least, int most) {
    return size.width >= least && size.height >= least && size.width <= most && size.height <= most;
}

// The layer's shape; its weights follow in the file.
Layer shape(const nlohmann::json& json) {
    Layer layer;
    layer.in = json.at("in").get<int>();
    layer.out = json.at("out").get<int>();
    layer.kernel = size_of(json.at("kernel"));
    layer.stride = size_of(json.at("stride"));
    layer.pad = size_of(json.at("pad"));
    layer.rectified = json.at("rectified").get<bool>();
    layer.residual = json.at("residual").get<bool>();
    return layer;
}

bool is_valid(const Layer& layer) {
    return layer.in > 0 && layer.out > 0 && layer.in <= kWidestLayer && layer.out <= kWidestLayer &&
           within(layer.kernel, 1, kLargestKernel) && within(layer.stride, 1, 4) &&
           within(layer.pad, 0, kLargestKernel / 2) && (!layer.residual || layer.in == layer.out);
}

// Takes a matrix of 16-bit floats from the file's bytes.
bool take(const std::string& bytes, size_t& at, int rows, int columns, cv::Mat& out) {
    const size_t size = sizeof(cv::float16_t) * static_cast<size_t>(rows) * static_cast<size_t>(columns);
    if (size > bytes.size() - at) return false;
    cv::Mat halves(rows, columns, CV_16F);
    std::copy_n(bytes.data() + at, size, halves.ptr<char>());
    halves.convertTo(out, CV_32F);
    at += size;
    return true;
}

}  // namespace

Result<std::shared_ptr<const Weights>> load_weights(const std::filesystem::path& directory) {
    const auto path = directory / "reader.weights.gz";
    auto unpacked = read_packed(path);
    if (!unpacked) return unpacked.error();
    const std::string& bytes = *unpacked;
    const Error damaged{"The reader's weights in " + directory.string() + " are damaged or not Fernleaf's."};
    const size_t header = sizeof kWeightsMagic - 1;
    const size_t line_end = bytes.find('\n', header);
    if (bytes.compare(0, header, kWeightsMagic) != 0 || line_end == std::string::npos) return damaged;
    auto weights = std::make_shared<Weights>();
    try {
        const auto json = nlohmann::json::parse(bytes.begin() + static_cast<std::ptrdiff_t>(header),
                                                bytes.begin() + static_cast<std::ptrdiff_t>(line_end));
        weights->alphabet = Alphabet(decode_utf8(json.at("alphabet").get<std::string>()));
        size_t at = line_end + 1;
        for (const auto& entry : json.at("layers")) {
            Layer layer = shape(entry);
            const bool fits = weights->layers.empty() ? layer.in == 1 : layer.in == weights->layers.back().out;
            if (!fits || !is_valid(layer) || weights->layers.size() == kMostLayers) return damaged;
            if (!take(bytes, at, layer.out, layer.in * layer.kernel.area(), layer.weights)) return damaged;
            if (!take(bytes, at, 1, layer.out, layer.bias)) return damaged;
            weights->layers.push_back(std::move(layer));
        }
        if (at != bytes.size() || weights->layers.empty()) return damaged;
        // The head holds two time steps a column.
        if (weights->layers.back().out != 2 * weights->alphabet.size()) return damaged;
    } catch (const std::exception&) {  // the JSON library reports through exceptions
        return damaged;
    }
    return std::shared_ptr<const Weights>(std::move(weights));
}

}  // namespace fernleaf
