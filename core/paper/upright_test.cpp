#include "paper/upright.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

#include "reading/test_reader.h"

namespace fernleaf {
namespace {

class Upright : public WithReader {
protected:
    static cv::Mat page(const std::vector<std::string>& lines) {
        cv::Mat out(1100, 900, CV_8UC3, cv::Scalar(240, 245, 246));
        for (size_t i = 0; i < lines.size(); ++i)
            cv::putText(out, lines[i], {70, 140 + 110 * static_cast<int>(i)}, cv::FONT_HERSHEY_SCRIPT_SIMPLEX, 1.5,
                        {80, 50, 30}, 3, cv::LINE_AA);
        return out;
    }
    int turns(const cv::Mat& picture) { return upright_turns(picture, *reader_, {}); }
};

TEST_F(Upright, APageIsFoundUprightWhicheverWayItLies) {
    const cv::Mat upright =
        page({"late frost in the orchard", "water the young trees", "cider press at noon", "pears for the market"});
    EXPECT_EQ(turns(upright), 0);
    cv::Mat lying;
    cv::rotate(upright, lying, cv::ROTATE_90_COUNTERCLOCKWISE);
    EXPECT_EQ(turns(lying), 1);
    cv::rotate(upright, lying, cv::ROTATE_180);
    EXPECT_EQ(turns(lying), 2);
    cv::rotate(upright, lying, cv::ROTATE_90_CLOCKWISE);
    EXPECT_EQ(turns(lying), 3);
}

TEST_F(Upright, OfTwoWordsTheirPlaceTellsToo) {
    // Either way round they can be read: but nobody begins in the lower right corner.
    cv::Mat note(900, 900, CV_8UC3, cv::Scalar(90, 210, 230)), lying;
    cv::putText(note, "no son", {70, 140}, cv::FONT_HERSHEY_SCRIPT_SIMPLEX, 1.5, {80, 50, 30}, 3, cv::LINE_AA);
    EXPECT_EQ(turns(note), 0);
    cv::rotate(note, lying, cv::ROTATE_180);
    EXPECT_EQ(turns(lying), 2);
}

TEST_F(Upright, WhatTellsNothingIsLeftAsItIs) {
    EXPECT_EQ(turns({}), 0);
    EXPECT_EQ(turns(page({})), 0);
    EXPECT_EQ(turns(page({"oxo"})), 0);
}

}  // namespace
}  // namespace fernleaf
