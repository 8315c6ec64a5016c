// Colours in CIE L*a*b*.
#pragma once

#include <opencv2/imgproc.hpp>

namespace fernleaf {

// From BGR, 8 bits or float, as cv::cvtColor does it. OpenCV makes its tables when they are first asked for, and takes
// no lock: two threads that ask at the same time may each look things up in the other's half-made ones.
inline void to_lab(const cv::Mat& bgr, cv::Mat& lab) {
    static const bool made = [] {
        cv::Mat one(1, 1, CV_8UC3, cv::Scalar::all(0));
        cv::cvtColor(one, one, cv::COLOR_BGR2Lab);
        return true;
    }();
    static_cast<void>(made);
    cv::cvtColor(bgr, lab, cv::COLOR_BGR2Lab);
}

}  // namespace fernleaf
