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

namespace {

// So many of a layer's numbers at once, in registers, from the one at first on. in: those that are not nothing, with
// their places.
template <size_t Count>
void add_up(const DenseNetwork::Layer& layer, const std::vector<std::pair<size_t, float>>& in, size_t first,
            std::vector<float>& out) {
    std::array<float, Count> sums;
    std::copy_n(&layer.bias[first], Count, sums.begin());
    for (const auto& [i, v] : in) {
        const float* row = &layer.weights[i * layer.out + first];
        for (size_t o = 0; o < Count; ++o) sums[o] += row[o] * v;
    }
    std::ranges::copy(sums, &out[first]);
}

}  // namespace

std::vector<float> DenseNetwork::chances(std::span<const float> input) const {
    std::vector<float> now(input.begin(), input.end()), next;
    std::vector<std::pair<size_t, float>> something;  // many are nothing: of kinds, and behind the rectifier
    for (size_t l = 0; l < layers_.size(); ++l) {
        const Layer& layer = layers_[l];
        something.clear();
        for (size_t i = 0; i < layer.in; ++i)
            if (now[i] != 0) something.emplace_back(i, now[i]);
        next.resize(layer.out);
        size_t o = 0;
        for (; o + 16 <= layer.out; o += 16) add_up<16>(layer, something, o, next);
        for (; o + 4 <= layer.out; o += 4) add_up<4>(layer, something, o, next);
        for (; o < layer.out; ++o) add_up<1>(layer, something, o, next);
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

// The file has weights by what goes out: [out][in][kernel]; here they are [in][kernel][out].
void by_what_goes_in(SignNetwork::Convolution& layer) {
    std::vector<float> turned(layer.weights.size());
    for (size_t o = 0; o < layer.out; ++o)
        for (size_t i = 0; i < layer.in * kKernel; ++i)
            turned[i * layer.out + o] = layer.weights[o * layer.in * kKernel + i];
    layer.weights = std::move(turned);
}

// side x side maps in, side / 2 x side / 2 maps out. Worked out by what goes in, of which most is nothing (paper
// without ink; what the rectifier took away): each number is added, weighted, to the places about it, all maps of a
// place at once.
template <size_t Side>
std::vector<float> convolved(const std::vector<float>& maps, const SignNetwork::Convolution& layer) {
    constexpr size_t kPadded = Side + 2;  // what falls beyond the edges is added up, too, and not used
    const size_t out = layer.out;
    std::vector<float> sums(kPadded * kPadded * out);
    for (size_t m = 0; m < layer.in; ++m)
        for (size_t y = 0; y < Side; ++y)
            for (size_t x = 0; x < Side; ++x) {
                const float v = maps[(m * Side + y) * Side + x];
                if (v == 0) continue;
                for (size_t k = 0; k < kKernel; ++k) {
                    const float* weight = &layer.weights[(m * kKernel + k) * out];
                    float* to = &sums[((y + 2 - k / 3) * kPadded + x + 2 - k % 3) * out];
                    for (size_t o = 0; o < out; ++o) to[o] += weight[o] * v;
                }
            }
    constexpr size_t kHalf = Side / 2;
    std::vector<float> halved(out * kHalf * kHalf);
    for (size_t y = 0; y < kHalf; ++y)
        for (size_t x = 0; x < kHalf; ++x) {
            const float* at = &sums[((2 * y + 1) * kPadded + 2 * x + 1) * out];
            const float* below = at + kPadded * out;
            for (size_t o = 0; o < out; ++o)
                halved[(o * kHalf + y) * kHalf + x] =
                    std::max(0.0F, layer.bias[o] + std::max({at[o], at[out + o], below[o], below[out + o]}));
        }
    return halved;
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
    for (SignNetwork::Convolution& layer : maps) by_what_goes_in(layer);
    auto joining = unpacking.network({SignNetwork::kSecondMaps * kPixels + kSignFormNumbers - kSignFormMaps,
                                      SignNetwork::kJoined, math_signs().size() + 1});
    auto places = unpacking.network({kPlaceNumbers, kPlaceLayers[0], kPlaceLayers[1], kPlaces});
    if (!joining || !places || !unpacking.at_end()) return damaged;
    return std::make_shared<const FormulaWeights>(
        FormulaWeights{SignNetwork(std::move(maps[0]), std::move(maps[1]), *std::move(joining)), *std::move(places)});
}

}  // namespace fernleaf
