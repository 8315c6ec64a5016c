#include "reading/network.h"

#include <cmath>
#include <map>
#include <mutex>
#include <oneapi/dnnl/dnnl.hpp>

#include "reading/one_thread.h"
#include "reading/raster.h"

namespace fernleaf {
namespace {

using Memory = dnnl::memory;

// Widths are padded to few values, coarser for long lines.
int padded_width(int width) {
    const int step = width <= 512 ? 32 : width <= 1024 ? 64 : 256;
    return std::max((width + step - 1) / step * step, 64);
}

void log_softmax(float* row, int count) {
    float most = row[0];
    for (int i = 1; i < count; ++i) most = std::max(most, row[i]);
    double sum = 0;
    for (int i = 0; i < count; ++i) sum += std::exp(static_cast<double>(row[i] - most));
    const auto shift = static_cast<float>(most + std::log(sum));
    for (int i = 0; i < count; ++i) row[i] -= shift;
}

cv::Size size_after(const Layer& layer, cv::Size size) {
    return {(size.width + 2 * layer.pad.width - layer.kernel.width) / layer.stride.width + 1,
            (size.height + 2 * layer.pad.height - layer.kernel.height) / layer.stride.height + 1};
}

}  // namespace

class Network::Engine {
public:
    explicit Engine(const std::vector<Layer>& layers)
        : layers_(layers), engine_(dnnl::engine::kind::cpu, 0), stream_(engine_), kept_(layers.size()) {}

    // The output of the first `count` layers, rows x channels per row of the picture's last axis.
    cv::Mat run(const cv::Mat& pixels, size_t count, cv::Mat* seen = nullptr) {
        const std::lock_guard lock(mutex_);
        const OneThread one;
        const int width = padded_width(pixels.cols);
        cv::Size size(width, kLineHeightPx);
        cv::Mat input(size, CV_32F, cv::Scalar(0));
        pixels.convertTo(input(cv::Rect(0, 0, pixels.cols, kLineHeightPx)), CV_32F, 1 / 255.0);
        auto& steps = widths_[width];
        for (size_t i = 0; i < count; ++i) {
            if (seen && i == kFirstAlong) *seen = real_rows(input, size, pixels.cols, width);
            if (steps.size() == i) steps.push_back(step(i, size));
            const cv::Size after = size_after(layers_[i], size);
            cv::Mat output(after.area(), layers_[i].out, CV_32F);
            Memory from(steps[i].description.src_desc(), engine_, input.data);
            Memory to(steps[i].description.dst_desc(), engine_, output.data);
            steps[i].primitive.execute(stream_, {{DNNL_ARG_SRC, from},
                                                 {DNNL_ARG_WEIGHTS, *steps[i].weights},
                                                 {DNNL_ARG_BIAS, *steps[i].bias},
                                                 {DNNL_ARG_DST, to}});
            stream_.wait();
            if (layers_[i].residual) output += input.reshape(1, output.rows);
            input = output;
            size = after;
        }
        return real_rows(input, size, pixels.cols, width);
    }

private:
    // Columns beyond the picture's own are padding.
    static cv::Mat real_rows(const cv::Mat& output, cv::Size size, int columns, int width) {
        return output.rowRange(0, std::min(output.rows, (columns * size.width + width - 1) / width)).clone();
    }

    struct Step {
        dnnl::convolution_forward::primitive_desc description;
        dnnl::convolution_forward primitive;
        const Memory* weights;
        const Memory* bias;
    };
    // A layer's numbers in the orders that oneDNN asked for.
    struct Kept {
        std::vector<std::unique_ptr<Memory>> weights;
        std::unique_ptr<Memory> bias;
    };

    Step step(size_t number, cv::Size size) {
        const Layer& layer = layers_[number];
        const cv::Size after = size_after(layer, size);
        using Tag = Memory::format_tag;
        const Memory::desc source({1, layer.in, size.height, size.width}, Memory::data_type::f32, Tag::nhwc);
        const Memory::desc target({1, layer.out, after.height, after.width}, Memory::data_type::f32, Tag::nhwc);
        const Memory::dims kernel{layer.out, layer.in, layer.kernel.height, layer.kernel.width};
        const Memory::desc any(kernel, Memory::data_type::f32, Tag::any);
        const Memory::desc bias({layer.out}, Memory::data_type::f32, Tag::x);
        const Memory::dims pad{layer.pad.height, layer.pad.width};
        const dnnl::convolution_forward::desc operation(dnnl::prop_kind::forward_inference,
                                                        dnnl::algorithm::convolution_direct, source, any, bias, target,
                                                        {layer.stride.height, layer.stride.width}, pad, pad);
        dnnl::primitive_attr attributes;
        if (layer.rectified) {
            dnnl::post_ops after_it;
            after_it.append_eltwise(1.0F, dnnl::algorithm::eltwise_relu, 0.0F, 0.0F);
            attributes.set_post_ops(after_it);
        }
        dnnl::convolution_forward::primitive_desc description(operation, attributes, engine_);

        Kept& kept = kept_[number];
        const auto wanted = description.weights_desc();
        const Memory* ordered = nullptr;
        for (const auto& memory : kept.weights)
            if (memory->get_desc() == wanted) ordered = memory.get();
        if (!ordered) {
            const Memory plain({kernel, Memory::data_type::f32, Tag::oihw}, engine_, layer.weights.data);
            auto made = std::make_unique<Memory>(wanted, engine_);
            dnnl::reorder(plain, *made).execute(stream_, const_cast<Memory&>(plain), *made);
            stream_.wait();
            ordered = kept.weights.emplace_back(std::move(made)).get();
        }
        if (!kept.bias) kept.bias = std::make_unique<Memory>(bias, engine_, layer.bias.data);
        return {description, dnnl::convolution_forward(description), ordered, kept.bias.get()};
    }

    const std::vector<Layer>& layers_;
    std::mutex mutex_;
    dnnl::engine engine_;
    dnnl::stream stream_;
    std::vector<Kept> kept_;
    std::map<int, std::vector<Step>> widths_;
};

Network::Network(std::shared_ptr<const Weights> weights)
    : weights_(std::move(weights)), engine_(std::make_unique<Engine>(weights_->layers)) {}
Network::~Network() = default;

Result<std::unique_ptr<Network>> Network::load(const std::filesystem::path& directory) {
    auto weights = load_weights(directory);
    if (!weights) return weights.error();
    return make(*std::move(weights));
}

Result<std::unique_ptr<Network>> Network::make(std::shared_ptr<const Weights> weights) {
    cv::Size size(64, kLineHeightPx);
    for (const Layer& layer : weights->layers) {
        size = size_after(layer, size);
        if (size.width < 1 || size.height < 1) break;
    }
    if (size != cv::Size(64 / (2 * static_cast<int>(kColumnsPerStep)), 1))
        return Error{"The reader's weights are for lines of another shape."};
    try {
        return std::unique_ptr<Network>(new Network(std::move(weights)));
    } catch (const dnnl::error&) {
        return Error{"The reader can't run on this computer's processor."};
    }
}

cv::Mat Network::before_layer(const cv::Mat& pixels, size_t layer) const { return engine_->run(pixels, layer); }

cv::Mat Network::log_probabilities(const cv::Mat& pixels, cv::Mat* seen) const {
    return to_log_probabilities(engine_->run(pixels, weights_->layers.size(), seen), alphabet().size());
}

cv::Mat to_log_probabilities(const cv::Mat& head, int symbols) {
    CV_Assert(head.cols == 2 * symbols && head.isContinuous());
    cv::Mat scores = head.reshape(1, 2 * head.rows).clone();
    for (int t = 0; t < scores.rows; ++t) log_softmax(scores.ptr<float>(t), symbols);
    return scores;
}

}  // namespace fernleaf
