#include "reading/network.h"

#include <gtest/gtest.h>

#include <unistd.h>

#include <cmath>
#include <fstream>
#include <opencv2/imgproc.hpp>
#include <thread>

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

fs::path models() { return fs::path(FERNLEAF_SOURCE_DIR) / "models"; }

class BrokenWeights : public testing::Test {
protected:
    BrokenWeights() : folder_(fs::temp_directory_path() / ("fernleaf-weights-" + std::to_string(getpid()))) {
        fs::create_directories(folder_);
    }
    ~BrokenWeights() override { fs::remove_all(folder_); }
    void write(const std::string& bytes) { std::ofstream(folder_ / "reader.weights.gz", std::ios::binary) << bytes; }
    fs::path folder_;
};

cv::Mat scribble(int width) {
    cv::Mat picture = cv::Mat::zeros(40, width, CV_8U);
    for (int x = 10; x + 12 < width; x += 15) cv::ellipse(picture, {x, 22}, {5, 7}, 0, 30, 300, 255, 2, cv::LINE_AA);
    return picture;
}

TEST(Network, GivesProbabilitiesThatSumToOne) {
    const auto network = Network::load(models());
    ASSERT_TRUE(network) << network.error().message;
    const cv::Mat scores = (*network)->log_probabilities(cv::Mat::zeros(40, 101, CV_8U));
    EXPECT_EQ(scores.rows, 52);
    EXPECT_EQ(scores.cols, (*network)->alphabet().size());
    double sum = 0;
    for (int s = 0; s < scores.cols; ++s) sum += std::exp(scores.at<float>(10, s));
    EXPECT_NEAR(sum, 1, 1e-4);
}

// The layers as they are defined, computed the plain way, against what oneDNN makes of them.
TEST(Network, ComputesWhatItsLayersSay) {
    auto weights = std::make_shared<Weights>();
    weights->alphabet = Alphabet(U" a");
    cv::RNG random(7);
    const auto add = [&](int in, int out, cv::Size kernel, cv::Size stride, cv::Size pad, bool rectified,
                         bool residual) {
        Layer layer{in,
                    out,
                    kernel,
                    stride,
                    pad,
                    rectified,
                    residual,
                    cv::Mat(out, in * kernel.area(), CV_32F),
                    cv::Mat(1, out, CV_32F)};
        random.fill(layer.weights, cv::RNG::NORMAL, 0, 0.2);
        random.fill(layer.bias, cv::RNG::NORMAL, 0, 0.2);
        weights->layers.push_back(layer);
    };
    add(1, 3, {3, 40}, {4, 40}, {1, 0}, true, false);
    add(3, 3, {5, 1}, {1, 1}, {2, 0}, true, true);
    add(3, 6, {1, 1}, {1, 1}, {0, 0}, false, false);
    const auto network = Network::make(weights);
    ASSERT_TRUE(network) << network.error().message;

    const cv::Mat picture = scribble(64);
    const auto at = [](const cv::Mat& m, int x, int c) { return x < 0 || x >= m.rows ? 0.F : m.at<float>(x, c); };
    const auto& layers = weights->layers;
    cv::Mat_<float> first(16, 3), second(16, 3), head(16, 6);
    for (int x = 0; x < 16; ++x)
        for (int o = 0; o < 3; ++o) {
            float sum = layers[0].bias.at<float>(0, o);
            for (int ky = 0; ky < 40; ++ky)
                for (int kx = 0; kx < 3; ++kx)
                    if (const int from = 4 * x + kx - 1; from >= 0 && from < 64)
                        sum += layers[0].weights.at<float>(o, ky * 3 + kx) * picture.at<uchar>(ky, from) / 255.F;
            first(x, o) = std::max(sum, 0.F);
        }
    for (int x = 0; x < 16; ++x)
        for (int o = 0; o < 3; ++o) {
            float sum = layers[1].bias.at<float>(0, o);
            for (int i = 0; i < 3; ++i)
                for (int k = 0; k < 5; ++k) sum += layers[1].weights.at<float>(o, i * 5 + k) * at(first, x + k - 2, i);
            second(x, o) = std::max(sum, 0.F) + first(x, o);
        }
    for (int x = 0; x < 16; ++x)
        for (int o = 0; o < 6; ++o) {
            head(x, o) = layers[2].bias.at<float>(0, o);
            for (int i = 0; i < 3; ++i) head(x, o) += layers[2].weights.at<float>(o, i) * second(x, i);
        }
    EXPECT_LT(cv::norm((*network)->before_layer(picture, 2), second, cv::NORM_INF), 1e-3);
    EXPECT_LT(cv::norm((*network)->log_probabilities(picture), to_log_probabilities(head, 3), cv::NORM_INF), 1e-3);
}

TEST(Network, ReadsTheSameFromSeveralThreads) {
    const auto network = Network::load(models());
    ASSERT_TRUE(network);
    const cv::Mat picture = scribble(230);
    const cv::Mat expected = (*network)->log_probabilities(picture);
    std::vector<double> differences(4, 1);
    {
        std::vector<std::jthread> threads;
        for (size_t i = 0; i < differences.size(); ++i)
            threads.emplace_back([&, i] {
                (void)(*network)->log_probabilities(scribble(100 + 64 * static_cast<int>(i)));
                differences[i] = cv::norm((*network)->log_probabilities(picture), expected, cv::NORM_INF);
            });
    }
    for (const double difference : differences) EXPECT_EQ(difference, 0);
}

TEST(Network, LayersThatDontFitALineAreRefused) {
    auto weights = std::make_shared<Weights>(**load_weights(models()));
    weights->layers.erase(weights->layers.begin());
    EXPECT_FALSE(Network::make(weights));
}

TEST_F(BrokenWeights, MissingIsToldByName) {
    const auto network = Network::load(folder_);
    ASSERT_FALSE(network);
    EXPECT_NE(network.error().message.find("missing"), std::string::npos);
}

TEST_F(BrokenWeights, TruncatedOrForeignFilesAreRefused) {
    std::ifstream in(models() / "reader.weights.gz", std::ios::binary);
    const std::string whole(std::istreambuf_iterator<char>(in), {});
    for (const size_t size : {size_t{0}, size_t{100}, whole.size() / 2, whole.size() - 1000}) {
        write(whole.substr(0, size));
        EXPECT_FALSE(Network::load(folder_)) << size;
    }
    for (const char* text : {"not a network at all", "fernleaf reader 1\n", "fernleaf reader 1\n{}\n",
                             "fernleaf reader 1\n{\"alphabet\":\"a\",\"layers\":[]}\n",
                             "fernleaf reader 1\n{\"alphabet\":\"a\",\"layers\":[{\"in\":-1}]}\n"}) {
        write(text);
        EXPECT_FALSE(Network::load(folder_)) << text;
    }
}

}  // namespace
}  // namespace fernleaf
