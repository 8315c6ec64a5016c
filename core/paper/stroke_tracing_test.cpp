#include "paper/stroke_tracing.h"

#include <gtest/gtest.h>

#include <opencv2/imgproc.hpp>

namespace fernleaf {
namespace {

using Lines = std::vector<std::vector<cv::Point>>;

cv::Mat drawn(const Lines& lines, int thickness = 5) {
    cv::Mat mask(120, 120, CV_8U, cv::Scalar(0));
    cv::polylines(mask, lines, false, cv::Scalar(255), thickness);
    return mask;
}

// How far the strokes are from the lines they should be, at most, both ways.
double off(const std::vector<TracedStroke>& strokes, const std::vector<Point>& line) {
    double best = 1e9;
    for (const TracedStroke& s : strokes) {
        double farthest = 0;
        for (const Point& p : s.points) {
            double nearest = 1e9;
            for (size_t i = 1; i < line.size(); ++i)
                nearest = std::min(nearest, distance_to_segment(p, line[i - 1], line[i]));
            farthest = std::max(farthest, nearest);
        }
        for (const Point& end : {line.front(), line.back()}) {
            double nearest = 1e9;
            for (const Point& p : s.points) nearest = std::min(nearest, distance(p, end));
            farthest = std::max(farthest, nearest);
        }
        best = std::min(best, farthest);
    }
    return best;
}

TEST(StrokeTracing, ALineIsOneStrokeAsWideAsItIs) {
    for (const int thickness : {1, 3, 5, 9}) {
        const auto strokes = traced_strokes(drawn({{{20, 30}, {100, 62}}}, thickness));
        ASSERT_EQ(strokes.size(), 1U) << thickness;
        EXPECT_LT(off(strokes, {{20, 30}, {100, 62}}), 0.5 * thickness + 1.5) << thickness;
        EXPECT_LE(strokes[0].points.size(), 12U) << "a straight line needs few points";
        EXPECT_NEAR(strokes[0].widths[strokes[0].widths.size() / 2], thickness, 1.2);
        EXPECT_LT(strokes[0].points.front().x, strokes[0].points.back().x) << "written from the left";
    }
}

TEST(StrokeTracing, UprightsAreWrittenFromAbove) {
    const auto strokes = traced_strokes(drawn({{{60, 100}, {55, 20}}}));
    ASSERT_EQ(strokes.size(), 1U);
    EXPECT_LT(strokes[0].points.front().y, strokes[0].points.back().y);
}

TEST(StrokeTracing, LinesThatCrossAreTwoStrokesThatRunOn) {
    for (const int thickness : {3, 7}) {
        const auto strokes = traced_strokes(drawn({{{20, 20}, {100, 90}}, {{100, 25}, {25, 95}}}, thickness));
        ASSERT_EQ(strokes.size(), 2U) << thickness;
        EXPECT_LT(off(strokes, {{20, 20}, {100, 90}}), 4.5);
        EXPECT_LT(off(strokes, {{100, 25}, {25, 95}}), 4.5);
    }
}

TEST(StrokeTracing, AFlatCrossingIsPutTogetherAgain) {
    // At a small angle thinning leaves two forks far from one another.
    const auto strokes = traced_strokes(drawn({{{10, 50}, {110, 70}}, {{10, 72}, {110, 48}}}, 5));
    ASSERT_EQ(strokes.size(), 2U);
    EXPECT_LT(off(strokes, {{10, 50}, {110, 70}}), 5);
    EXPECT_LT(off(strokes, {{10, 72}, {110, 48}}), 5);
}

TEST(StrokeTracing, AForkIsAStrokeAndOneThatLeavesIt) {
    const auto strokes = traced_strokes(drawn({{{60, 20}, {60, 100}}, {{60, 60}, {105, 60}}}));
    ASSERT_EQ(strokes.size(), 2U);
    EXPECT_LT(off(strokes, {{60, 20}, {60, 100}}), 4);
    EXPECT_LT(off(strokes, {{60, 60}, {105, 60}}), 4);
}

TEST(StrokeTracing, ALoopThatCrossesItselfIsOneStroke) {
    // As a written l: up, round and down through itself.
    std::vector<cv::Point> loop;
    for (int i = 0; i <= 60; ++i) {
        const double t = i / 60.0 * 2 - 1;  // x = t^3 - t, y = t^2: crosses itself at t = -1 and 1
        loop.emplace_back(static_cast<int>(60 + 60 * (t * t * t - t) + 30 * t),
                          static_cast<int>(90 - 70 * (1 - t * t)));
    }
    EXPECT_EQ(traced_strokes(drawn({loop}, 3)).size(), 1U);
}

TEST(StrokeTracing, ARingBeginsAtItsTopAndGoesAgainstTheClock) {
    cv::Mat mask(120, 120, CV_8U, cv::Scalar(0));
    cv::circle(mask, {60, 60}, 35, cv::Scalar(255), 5);
    const auto strokes = traced_strokes(mask);
    ASSERT_EQ(strokes.size(), 1U);
    const auto& points = strokes[0].points;
    EXPECT_NEAR(points.front().y, 25, 2);
    EXPECT_EQ(points.front(), points.back());
    EXPECT_LT(points[points.size() / 4].x, 50) << "to the left first";
    for (const Point& p : points) EXPECT_NEAR(distance(p, {60, 60}), 35, 1.5);
}

TEST(StrokeTracing, ADotAndASpeckAreAStrokeEach) {
    cv::Mat mask(40, 40, CV_8U, cv::Scalar(0));
    cv::circle(mask, {20, 20}, 4, cv::Scalar(255), cv::FILLED);
    const auto dot = traced_strokes(mask);
    ASSERT_EQ(dot.size(), 1U);
    for (const Point& p : dot[0].points) EXPECT_LT(distance(p, {20, 20}), 4);
    EXPECT_NEAR(*std::ranges::max_element(dot[0].widths), 9, 2);
    mask.setTo(0);
    mask.at<uchar>(7, 9) = 255;
    const auto speck = traced_strokes(mask);
    ASSERT_EQ(speck.size(), 1U);
    EXPECT_EQ(speck[0].points.front(), (Point{9, 7}));
    EXPECT_TRUE(traced_strokes({}).empty());
    EXPECT_TRUE(traced_strokes(cv::Mat(9, 9, CV_8U, cv::Scalar(0))).empty());
}

TEST(StrokeTracing, AnUnevenBorderGivesNoSpurs) {
    cv::Mat mask = drawn({{{15, 60}, {105, 60}}}, 7);
    cv::RNG random(3);
    for (int x = 15; x < 105; ++x) {
        if (random.uniform(0, 4) == 0) mask.at<uchar>(56, x) = mask.at<uchar>(55, x) = 255;
        if (random.uniform(0, 4) == 0) mask.at<uchar>(64, x) = 0;
        if (random.uniform(0, 12) == 0) mask.at<uchar>(61, x) = 0;  // a pinhole
    }
    const auto strokes = traced_strokes(mask);
    ASSERT_EQ(strokes.size(), 1U);
    EXPECT_LT(off(strokes, {{15, 60}, {105, 60}}), 4.5);
}

TEST(StrokeTracing, MiddleLinesAreOnePixelWideAndKeepThePiecesInOne) {
    cv::RNG random(11);
    for (int i = 0; i < 40; ++i) {
        Lines lines(1);
        for (int k = 0; k < 6; ++k) lines[0].emplace_back(random.uniform(8, 112), random.uniform(8, 112));
        const cv::Mat mask = drawn(lines, random.uniform(1, 9)), thin = thinned(mask);
        cv::Mat labels;
        EXPECT_EQ(cv::connectedComponents(thin, labels), cv::connectedComponents(mask, labels));
        EXPECT_EQ(cv::countNonZero(thin & ~mask), 0);
        cv::Mat blocks;
        cv::erode(thin, blocks, cv::getStructuringElement(cv::MORPH_RECT, {2, 2}));
        EXPECT_EQ(cv::countNonZero(blocks), 0) << "a block of four pixels";
    }
}

}  // namespace
}  // namespace fernleaf
