#include "math/formula_weights.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>
#include <numeric>
#include <optional>

#include "math/formula_parts.h"
#include "math/math_signs.h"
#include "math/sign_form.h"
#include "reading/packed_file.h"

namespace fernleaf {
namespace {

constexpr size_t kKernel = 9;  // of a convolution
constexpr std::array<size_t, 2> kPlaceLayers{48, 32};
constexpr const char* kFirstLine = "fernleaf formula 2\n";

class Unpacking {
public:
    explicit Unpacking(std::string bytes) : bytes_(std::move(bytes)) {}

    bool line(std::string& out) {
        const size_t end = bytes_.find('\n', at_);
        if (end == std::string::npos) return false;
        out = bytes_.substr(at_, end + 1 - at_);
        at_ = end + 1;
        return true;
    }

    std::optional<std::vector<float>> numbers(size_t count) {
        if ((bytes_.size() - at_) / sizeof(float) < count) return std::nullopt;
        std::vector<float> out(count);
        std::memcpy(out.data(), bytes_.data() + at_, count * sizeof(float));
        at_ += count * sizeof(float);
        if (!std::ranges::all_of(out, [](float v) { return std::isfinite(v); })) return std::nullopt;
        return out;
    }

    template <typename Layer>
    bool layer(size_t in, size_t out, size_t kernel, std::vector<Layer>& layers) {
        auto weights = numbers(in * out * kernel);
        auto bias = numbers(out);
        if (!weights || !bias) return false;
        layers.push_back({in, out, *std::move(weights), *std::move(bias)});
        return true;
    }

    // Layers that join everything, of so many numbers.
    std::optional<DenseNetwork> network(const std::vector<size_t>& sizes) {
        std::vector<DenseNetwork::Layer> layers;
        for (size_t i = 0; i + 1 < sizes.size(); ++i)
            if (!layer(sizes[i], sizes[i + 1], 1, layers)) return std::nullopt;
        // By what goes in: then a layer is worked out many numbers at a time.
        for (DenseNetwork::Layer& l : layers) {
            std::vector<float> turned(l.weights.size());
            for (size_t o = 0; o < l.out; ++o)
                for (size_t i = 0; i < l.in; ++i) turned[i * l.out + o] = l.weights[o * l.in + i];
            l.weights = std::move(turned);
        }
        return DenseNetwork(std::move(layers));
    }

    bool at_end() const { return at_ == bytes_.size(); }

private:
    std::string bytes_;
    size_t at_ = 0;
};

}  // namespace

std::vector<float> DenseNetwork::chances(std::span<const float> input) const {
    std::vector<float> now(input.begin(), input.end()), next;
    for (size_t l = 0; l < layers_.size(); ++l) {
        const Layer& layer = layers_[l];
        next.assign(layer.bias.begin(), layer.bias.end());
        for (size_t i = 0; i < layer.in; ++i) {
            if (now[i] == 0) continue;  // as many are, of kinds and behind the rectifier
            const float* row = &layer.weights[i * layer.out];
            for (size_t o = 0; o < layer.out; ++o) next[o] += row[o] * now[i];
        }
        if (l + 1 < layers_.size())
            for (float& v : next) v = std::max(v, 0.0F);
        std::swap(now, next);
    }
    const float most = *std::ranges::max_element(now);
    for (float& v : now) v = std::exp(v - most);
    const float all = std::accumulate(now.begin(), now.end(), 0.0F);
    for (float& v : now) v /= all;
    return now;
}

namespace {

// side x side maps in, side / 2 x side / 2 maps out.
template <size_t Side>
std::vector<float> convolved(const std::vector<float>& maps, const SignNetwork::Convolution& layer) {
    constexpr size_t kPadded = Side + 2;
    std::vector<float> padded(layer.in * kPadded * kPadded);
    for (size_t m = 0; m < layer.in; ++m)
        for (size_t y = 0; y < Side; ++y)
            std::copy_n(&maps[(m * Side + y) * Side], Side, &padded[(m * kPadded + y + 1) * kPadded + 1]);
    std::vector<float> out(layer.out * (Side / 2) * (Side / 2));
    std::array<float, Side * Side> sums{};
    for (size_t o = 0; o < layer.out; ++o) {
        sums.fill(layer.bias[o]);
        for (size_t m = 0; m < layer.in; ++m)
            for (size_t k = 0; k < kKernel; ++k) {
                const float weight = layer.weights[(o * layer.in + m) * kKernel + k];
                for (size_t y = 0; y < Side; ++y) {
                    const float* from = &padded[(m * kPadded + y + k / 3) * kPadded + k % 3];
                    for (size_t x = 0; x < Side; ++x) sums[y * Side + x] += weight * from[x];
                }
            }
        for (size_t y = 0; y < Side / 2; ++y)
            for (size_t x = 0; x < Side / 2; ++x) {
                const float* at = &sums[2 * y * Side + 2 * x];
                out[(o * (Side / 2) + y) * (Side / 2) + x] = std::max({0.0F, at[0], at[1], at[Side], at[Side + 1]});
            }
    }
    return out;
}

}  // namespace

std::vector<float> SignNetwork::chances(const SignForm& form) const {
    const std::vector<float> maps(form.begin(), form.begin() + kSignFormMaps);
    std::vector<float> joined = convolved<kSignGrid / 2>(convolved<kSignGrid>(maps, first_), second_);
    joined.insert(joined.end(), form.begin() + kSignFormMaps, form.end());
    return joining_.chances(joined);
}

Result<std::shared_ptr<const FormulaWeights>> load_formula_weights(const std::filesystem::path& directory) {
    const auto path = directory / "formula.weights.gz";
    const auto bytes = read_packed(path);
    if (!bytes) return bytes.error();
    const Error damaged{"The reader's file " + path.string() + " is damaged."};
    Unpacking unpacking(*bytes);
    std::string first;
    if (!unpacking.line(first) || first != kFirstLine) return damaged;
    std::vector<SignNetwork::Convolution> maps;
    constexpr size_t kPixels = kSignGrid / 4 * (kSignGrid / 4);
    if (!unpacking.layer(kSignDirections, SignNetwork::kFirstMaps, kKernel, maps) ||
        !unpacking.layer(SignNetwork::kFirstMaps, SignNetwork::kSecondMaps, kKernel, maps))
        return damaged;
    auto joining = unpacking.network({SignNetwork::kSecondMaps * kPixels + kSignFormNumbers - kSignFormMaps,
                                      SignNetwork::kJoined, math_signs().size() + 1});
    auto places = unpacking.network({kPlaceNumbers, kPlaceLayers[0], kPlaceLayers[1], kPlaces});
    if (!joining || !places || !unpacking.at_end()) return damaged;
    return std::make_shared<const FormulaWeights>(
        FormulaWeights{SignNetwork(std::move(maps[0]), std::move(maps[1]), *std::move(joining)), *std::move(places)});
}

}  // namespace fernleaf
