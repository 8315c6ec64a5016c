#include "paper/mean_about.h"

#include <opencv2/imgproc.hpp>
#include <vector>

namespace fernleaf {

cv::Mat mean_about(const cv::Mat& values, const cv::Mat& weights, cv::Size coarse, double sigma,
                   const cv::Scalar& usual, double its_weight) {
    const auto spread = [&](const cv::Mat& from) {
        cv::Mat out;
        cv::resize(from, out, coarse, 0, 0, cv::INTER_AREA);
        cv::GaussianBlur(out, out, {}, sigma);
        return out;
    };
    const cv::Mat all = spread(weights) + its_weight;
    std::vector<cv::Mat> channels(static_cast<size_t>(values.channels()));
    for (size_t i = 0; i < channels.size(); ++i) {
        cv::Mat channel;
        cv::extractChannel(values, channel, static_cast<int>(i));
        channel.convertTo(channel, CV_32F);
        channels[i] = (spread(channel.mul(weights)) + its_weight * usual[static_cast<int>(i)]) / all;
    }
    cv::Mat out;
    cv::merge(channels, out);
    return out;
}

}  // namespace fernleaf
