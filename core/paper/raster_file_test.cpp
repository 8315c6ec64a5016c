#include "paper/raster_file.h"

#include <gtest/gtest.h>

#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include "paper/picture_header.h"
#include "paper/test_exif.h"

namespace fernleaf {
namespace {

// Each quarter another colour, so that every way to turn it is another picture.
cv::Mat quarters() {
    cv::Mat out(32, 48, CV_8UC3, cv::Scalar(20, 20, 220));
    out(cv::Rect(24, 0, 24, 16)).setTo(cv::Scalar(20, 220, 20));
    out(cv::Rect(0, 16, 24, 16)).setTo(cv::Scalar(220, 20, 20));
    out(cv::Rect(24, 16, 24, 16)).setTo(cv::Scalar(220, 220, 220));
    return out;
}

TEST(RasterFile, WhatIsWrittenIsReadAgain) {
    const cv::Mat picture = quarters();
    const auto png = decode_raster(encode_png(picture), 0);
    ASSERT_TRUE(png) << png.error().message;
    EXPECT_EQ(cv::norm(*png, picture, cv::NORM_INF), 0);
    const auto jpeg = decode_raster(encode_jpeg(picture, 95), 0);
    ASSERT_TRUE(jpeg) << jpeg.error().message;
    EXPECT_LT(cv::norm(*jpeg, picture, cv::NORM_L1) / static_cast<double>(3 * picture.total()), 6);
    EXPECT_TRUE(encode_png({}).empty());
    EXPECT_TRUE(encode_jpeg({}, 90).empty());
}

TEST(RasterFile, AGreyPictureIsWrittenAsWell) {
    const cv::Mat grey(20, 30, CV_8U, cv::Scalar(90));
    for (const std::string& bytes : {encode_png(grey), encode_jpeg(grey, 90)}) {
        const auto read = decode_raster(bytes, 0);
        ASSERT_TRUE(read) << read.error().message;
        EXPECT_EQ(read->at<cv::Vec3b>(10, 10), cv::Vec3b(90, 90, 90));
    }
}

TEST(RasterFile, EveryWayACameraIsHeldIsTurnedAsOthersTurnIt) {
    const std::string jpeg = encode_jpeg(quarters(), 95);
    for (char orientation = 1; orientation <= 8; ++orientation) {
        const std::string bytes = with_orientation(jpeg, orientation);
        EXPECT_EQ(picture_headers(bytes).at(0).orientation, orientation);
        const cv::Mat other = cv::imdecode(std::vector<uchar>(bytes.begin(), bytes.end()), cv::IMREAD_COLOR);
        const auto pixels = decode_raster(bytes, 0);
        ASSERT_TRUE(pixels) << pixels.error().message;
        ASSERT_EQ(pixels->size(), other.size()) << int{orientation};
        EXPECT_LT(cv::norm(*pixels, other, cv::NORM_L1) / static_cast<double>(3 * other.total()), 4)
            << int{orientation};
    }
}

TEST(RasterFile, WhatIsTransparentShowsPaper) {
    cv::Mat clear(20, 30, CV_8UC4, cv::Scalar(0, 0, 0, 0));
    clear(cv::Rect(0, 0, 15, 20)).setTo(cv::Scalar(40, 30, 20, 255));
    std::vector<uchar> png;
    cv::imencode(".png", clear, png);
    const auto pixels = decode_raster({png.begin(), png.end()}, 0);
    ASSERT_TRUE(pixels) << pixels.error().message;
    EXPECT_EQ(pixels->at<cv::Vec3b>(10, 20), cv::Vec3b(255, 255, 255));
    EXPECT_EQ(pixels->at<cv::Vec3b>(10, 5), cv::Vec3b(40, 30, 20));
}

TEST(RasterFile, FewColoursAndBlackAndWhiteAreReadAsColours) {
    cv::Mat sign(24, 40, CV_8U, cv::Scalar(255));
    sign(cv::Rect(0, 0, 20, 24)).setTo(0);
    std::vector<uchar> bytes;
    cv::imencode(".png", sign, bytes, {cv::IMWRITE_PNG_BILEVEL, 1});
    const auto png = decode_raster({bytes.begin(), bytes.end()}, 0);
    ASSERT_TRUE(png) << png.error().message;
    EXPECT_EQ(png->at<cv::Vec3b>(10, 5), cv::Vec3b(0, 0, 0));
    EXPECT_EQ(png->at<cv::Vec3b>(10, 35), cv::Vec3b(255, 255, 255));
}

TEST(RasterFile, DamagedFilesAreErrors) {
    EXPECT_FALSE(decode_raster("", 0));
    EXPECT_FALSE(decode_raster("no picture", 0));
    const std::string png = encode_png(quarters());
    EXPECT_FALSE(decode_raster(png, 1));
    EXPECT_FALSE(decode_raster(png.substr(0, png.size() / 2), 0));
}

}  // namespace
}  // namespace fernleaf
