#include "reading/network.h"

#include <gtest/gtest.h>

#include <unistd.h>

#include <cmath>
#include <fstream>

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

fs::path models() { return fs::path(FERNLEAF_SOURCE_DIR) / "models"; }

class BrokenWeights : public testing::Test {
protected:
    BrokenWeights() : folder_(fs::temp_directory_path() / ("fernleaf-weights-" + std::to_string(getpid()))) {
        fs::create_directories(folder_);
        fs::copy_file(models() / "reader.json", folder_ / "reader.json", fs::copy_options::overwrite_existing);
    }
    ~BrokenWeights() override { fs::remove_all(folder_); }
    void write(const std::string& bytes) { std::ofstream(folder_ / "reader.onnx.gz", std::ios::binary) << bytes; }
    fs::path folder_;
};

TEST(Network, GivesProbabilitiesThatSumToOne) {
    auto network = Network::load(models());
    ASSERT_TRUE(network) << network.error().message;
    const cv::Mat scores = (*network)->log_probabilities(cv::Mat::zeros(40, 101, CV_8U));
    EXPECT_EQ(scores.rows, 52);
    EXPECT_EQ(scores.cols, (*network)->alphabet().size());
    double sum = 0;
    for (int s = 0; s < scores.cols; ++s) sum += std::exp(scores.at<float>(10, s));
    EXPECT_NEAR(sum, 1, 1e-4);
}

TEST_F(BrokenWeights, MissingIsToldByName) {
    const auto network = Network::load(folder_);
    ASSERT_FALSE(network);
    EXPECT_NE(network.error().message.find("missing"), std::string::npos);
}

TEST_F(BrokenWeights, TruncatedOrForeignFilesAreRefused) {
    std::ifstream in(models() / "reader.onnx.gz", std::ios::binary);
    const std::string whole(std::istreambuf_iterator<char>(in), {});
    for (const size_t size : {size_t{0}, size_t{100}, whole.size() / 2, whole.size() - 1000}) {
        write(whole.substr(0, size));
        EXPECT_FALSE(Network::load(folder_)) << size;
    }
    write("not a network at all");
    EXPECT_FALSE(Network::load(folder_));
}

}  // namespace
}  // namespace fernleaf
