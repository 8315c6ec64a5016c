// Colours in CIE L*a*b* (white D65, as sRGB has it): L* from 0 to 100.
#pragma once

#include <array>
#include <opencv2/core.hpp>

namespace fernleaf {

// bgr: CV_8UC3, sRGB. CV_32FC3 comes, within 0.02 of the exact values. OpenCV's own conversion makes tables of 0.1 s
// when it is first asked, and takes no lock for it.
cv::Mat to_lab(const cv::Mat& bgr);

// Of one colour, 0 to 255.
cv::Vec3d lab_of(const cv::Vec3d& bgr);

// a* and b* as they are with L* = 84: they grow and shrink with the light as L* + 16 does.
std::array<float, 2> hue_in_good_light(const cv::Vec3f& lab);
constexpr double kSameHue = 7;  // of these
bool same_hue(const cv::Vec3f& a, const cv::Vec3f& b);

}  // namespace fernleaf
