#include "paper/lab.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace fernleaf {
namespace {

constexpr size_t kSteps = 4096;  // of the table of f, between which it is taken to be straight

double linear(double channel) {
    const double part = std::clamp(channel / 255, 0.0, 1.0);
    return part <= 0.04045 ? part / 12.92 : std::pow((part + 0.055) / 1.055, 2.4);
}

double f(double t) { return t > 216.0 / 24389 ? std::cbrt(t) : (24389.0 / 27 * t + 16) / 116; }

// From linear B, G, R to X, Y, Z, each in parts of the white's.
constexpr std::array<std::array<double, 3>, 3> kToXyz{
    {{0.180423 / 0.950456, 0.357580 / 0.950456, 0.412453 / 0.950456},
     {0.072169, 0.715160, 0.212671},
     {0.950227 / 1.088754, 0.119193 / 1.088754, 0.019334 / 1.088754}}};

struct Tables {
    std::array<float, 256> linear_of{};
    std::array<float, kSteps + 2> f_of{};

    Tables() {
        for (size_t i = 0; i < linear_of.size(); ++i) linear_of[i] = static_cast<float>(linear(static_cast<double>(i)));
        for (size_t i = 0; i < f_of.size(); ++i) f_of[i] = static_cast<float>(f(static_cast<double>(i) / kSteps));
    }
    float f_at(float t) const {
        const float place = std::clamp(t, 0.0F, 1.0F) * kSteps;
        const auto step = static_cast<size_t>(place);
        const float part = place - static_cast<float>(step);
        return f_of[step] + (f_of[step + 1] - f_of[step]) * part;
    }
};

}  // namespace

cv::Mat to_lab(const cv::Mat& bgr) {
    static const Tables tables;
    cv::Mat out(bgr.size(), CV_32FC3);
    std::array<std::array<float, 3>, 3> to_xyz{};
    for (size_t i = 0; i < 3; ++i)
        for (size_t k = 0; k < 3; ++k) to_xyz[i][k] = static_cast<float>(kToXyz[i][k]);
    for (int y = 0; y < bgr.rows; ++y) {
        const cv::Vec3b* from = bgr.ptr<cv::Vec3b>(y);
        cv::Vec3f* to = out.ptr<cv::Vec3f>(y);
        for (int x = 0; x < bgr.cols; ++x) {
            const float b = tables.linear_of[from[x][0]], g = tables.linear_of[from[x][1]],
                        r = tables.linear_of[from[x][2]];
            std::array<float, 3> part{};
            for (size_t i = 0; i < 3; ++i)
                part[i] = tables.f_at(to_xyz[i][0] * b + to_xyz[i][1] * g + to_xyz[i][2] * r);
            to[x] = {116 * part[1] - 16, 500 * (part[0] - part[1]), 200 * (part[1] - part[2])};
        }
    }
    return out;
}

cv::Vec3d lab_of(const cv::Vec3d& bgr) {
    std::array<double, 3> part{};
    for (size_t i = 0; i < 3; ++i)
        part[i] = f(kToXyz[i][0] * linear(bgr[0]) + kToXyz[i][1] * linear(bgr[1]) + kToXyz[i][2] * linear(bgr[2]));
    return {116 * part[1] - 16, 500 * (part[0] - part[1]), 200 * (part[1] - part[2])};
}

std::array<float, 2> hue_in_good_light(const cv::Vec3f& lab) {
    const float light = 100 / (lab[0] + 16);
    return {lab[1] * light, lab[2] * light};
}

bool same_hue(const cv::Vec3f& a, const cv::Vec3f& b) {
    const std::array<float, 2> one = hue_in_good_light(a), other = hue_in_good_light(b);
    return std::hypot(one[0] - other[0], one[1] - other[1]) < kSameHue;
}

}  // namespace fernleaf
