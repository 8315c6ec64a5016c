// How far apart two colours look: CIEDE2000 (Sharma, Wu & Dalal 2005).
#pragma once

#include <cmath>
#include <cstdint>
#include <numbers>
#include <opencv2/core.hpp>

#include "paper/lab.h"

namespace fernleaf {

inline cv::Vec3d lab_of(uint32_t rgb) { return lab_of(cv::Vec3d(rgb & 255U, rgb >> 8 & 255U, rgb >> 16 & 255U)); }

inline double colour_error(const cv::Vec3d& a, const cv::Vec3d& b) {
    constexpr double kPi = std::numbers::pi, kDegree = kPi / 180;
    const double pow7 = std::pow(25.0, 7);
    const double chroma = (std::hypot(a[1], a[2]) + std::hypot(b[1], b[2])) / 2;
    const double g = 0.5 * (1 - std::sqrt(std::pow(chroma, 7) / (std::pow(chroma, 7) + pow7)));
    const double a1 = a[1] * (1 + g), a2 = b[1] * (1 + g);
    const double c1 = std::hypot(a1, a[2]), c2 = std::hypot(a2, b[2]);
    const auto hue = [&](double x, double y) {
        return x == 0 && y == 0 ? 0 : std::fmod(std::atan2(y, x) + 2 * kPi, 2 * kPi);
    };
    const double h1 = hue(a1, a[2]), h2 = hue(a2, b[2]);
    double turn = h2 - h1;
    if (c1 * c2 == 0) turn = 0;
    if (turn > kPi) turn -= 2 * kPi;
    if (turn < -kPi) turn += 2 * kPi;
    const double dl = b[0] - a[0], dc = c2 - c1, dh = 2 * std::sqrt(c1 * c2) * std::sin(turn / 2);
    const double l = (a[0] + b[0]) / 2, c = (c1 + c2) / 2;
    double h = h1 + h2;
    if (c1 * c2 != 0) h = std::abs(h1 - h2) <= kPi ? h / 2 : h < 2 * kPi ? h / 2 + kPi : h / 2 - kPi;
    const double t = 1 - 0.17 * std::cos(h - 30 * kDegree) + 0.24 * std::cos(2 * h) +
                     0.32 * std::cos(3 * h + 6 * kDegree) - 0.20 * std::cos(4 * h - 63 * kDegree);
    const double sl = 1 + 0.015 * (l - 50) * (l - 50) / std::sqrt(20 + (l - 50) * (l - 50));
    const double sc = 1 + 0.045 * c, sh = 1 + 0.015 * c * t;
    const double turned = 30 * kDegree * std::exp(-std::pow((h / kDegree - 275) / 25, 2));
    const double rt = -2 * std::sqrt(std::pow(c, 7) / (std::pow(c, 7) + pow7)) * std::sin(2 * turned);
    return std::sqrt(std::pow(dl / sl, 2) + std::pow(dc / sc, 2) + std::pow(dh / sh, 2) + rt * (dc / sc) * (dh / sh));
}

}  // namespace fernleaf
