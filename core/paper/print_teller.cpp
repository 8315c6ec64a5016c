#include "paper/print_teller.h"

#include <cmath>
#include <fstream>

namespace fernleaf {
namespace {

constexpr char kHeader[] = "fernleaf print 1";
constexpr double kColumnsPerRow = 2 * kColumnsPerStep;

}  // namespace

Result<PrintTeller> PrintTeller::load(const std::filesystem::path& models) {
    const Error damaged{"The data that tells print from writing (" + (models / "print.head").string() +
                        ") is missing or damaged."};
    std::ifstream in(models / "print.head");
    std::string header;
    size_t count = 0;
    float bias = 0;
    if (!std::getline(in, header) || header != kHeader || !(in >> count >> bias) || count == 0 || count > 4096)
        return damaged;
    std::vector<float> weights(count);
    for (float& w : weights)
        if (!(in >> w)) return damaged;
    return PrintTeller(std::move(weights), bias);
}

std::vector<double> PrintTeller::printed(const cv::Mat& features, const std::vector<WordReading>& words) const {
    std::vector<double> out;
    for (const WordReading& word : words) {
        const std::vector<float> mean = word_features(features, word);
        double sum = bias_;
        for (size_t i = 0; i < std::min(mean.size(), weights_.size()); ++i)
            sum += static_cast<double>(weights_[i]) * mean[i];
        out.push_back(1 / (1 + std::exp(-sum)));
    }
    return out;
}

std::vector<float> word_features(const cv::Mat& features, const WordReading& word) {
    if (features.empty()) return {};
    const int begin = std::clamp(static_cast<int>(word.begin / kColumnsPerRow), 0, features.rows - 1);
    const int end = std::clamp(static_cast<int>(std::ceil(word.end / kColumnsPerRow)), begin + 1, features.rows);
    const cv::Mat word_rows = features.rowRange(begin, end);
    cv::Mat mean, square;
    cv::reduce(word_rows, mean, 0, cv::REDUCE_AVG, CV_32F);
    cv::reduce(word_rows.mul(word_rows), square, 0, cv::REDUCE_AVG, CV_32F);
    std::vector<float> out(mean.begin<float>(), mean.end<float>());
    for (int i = 0; i < mean.cols; ++i)
        out.push_back(std::sqrt(std::max(0.0F, square.at<float>(i) - mean.at<float>(i) * mean.at<float>(i))));
    return out;
}

}  // namespace fernleaf
