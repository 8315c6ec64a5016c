#include "paper/picture_file.h"

#include <gtest/gtest.h>
#include <unistd.h>

#include <filesystem>
#include <fstream>
#include <iterator>
#include <opencv2/imgcodecs.hpp>

namespace fernleaf {
namespace {

std::string encoded(const char* ending, const cv::Mat& pixels) {
    std::vector<uchar> bytes;
    cv::imencode(ending, pixels, bytes);
    return {bytes.begin(), bytes.end()};
}

const cv::Mat kPicture(30, 50, CV_8UC3, cv::Scalar(10, 200, 90));

TEST(PictureFile, ReadsEachKindByItsContent) {
    for (const char* ending : {".png", ".jpg", ".tiff", ".webp"}) {
        const std::string bytes = encoded(ending, kPicture);
        const auto sheets = probe_picture(bytes);
        ASSERT_TRUE(sheets) << ending << sheets.error().message;
        ASSERT_EQ(sheets->size(), 1U);
        EXPECT_EQ(sheets->at(0).width_px, 50) << ending;
        EXPECT_EQ(sheets->at(0).height_px, 30) << ending;
        const auto pixels = decode_picture(bytes, 0);
        ASSERT_TRUE(pixels) << ending;
        EXPECT_EQ(pixels->size(), kPicture.size());
        EXPECT_FALSE(decode_picture(bytes, 1));
    }
}

TEST(PictureFile, TruncatedPicturesAreErrors) {
    for (const char* ending : {".png", ".jpg", ".tiff", ".webp"}) {
        const std::string whole = encoded(ending, kPicture);
        for (size_t size = 0; size < whole.size(); size += 7)
            static_cast<void>(decode_picture(whole.substr(0, size), 0));
        EXPECT_FALSE(decode_picture(whole.substr(0, 20), 0)) << ending;
        EXPECT_FALSE(decode_picture(whole.substr(0, whole.size() * 2 / 3), 0)) << ending;
    }
    EXPECT_FALSE(probe_picture(""));
    EXPECT_FALSE(probe_picture("just text"));
}

TEST(PictureFile, EachDirectoryOfATiffIsASheet) {
    const auto path =
        std::filesystem::temp_directory_path() / ("fernleaf-sheets-" + std::to_string(getpid()) + ".tiff");
    cv::imwrite(path.string(), std::vector{kPicture, cv::Mat(20, 40, CV_8UC3, cv::Scalar(0, 0, 255))});
    std::ifstream in(path, std::ios::binary);
    const std::string bytes(std::istreambuf_iterator<char>(in), {});
    std::filesystem::remove(path);
    const auto sheets = probe_picture(bytes);
    ASSERT_TRUE(sheets) << sheets.error().message;
    ASSERT_EQ(sheets->size(), 2U);
    const auto second = decode_picture(bytes, 1);
    ASSERT_TRUE(second) << second.error().message;
    EXPECT_EQ(second->size(), cv::Size(40, 20));
    EXPECT_EQ(second->at<cv::Vec3b>(5, 5), cv::Vec3b(0, 0, 255));
}

TEST(PictureFile, AnEnormousPictureIsRefusedByItsHeader) {
    std::string png = encoded(".png", kPicture);
    png[18] = 0x75, png[19] = 0x30, png[22] = 0x75, png[23] = 0x30;  // 30,000 x 30,000
    const auto sheets = probe_picture(png);
    ASSERT_FALSE(sheets);
    EXPECT_NE(sheets.error().message.find("too large"), std::string::npos);
}

TEST(PictureFile, EveryBrokenFileGivesAnError) {
    const auto folder = std::filesystem::path(FERNLEAF_SOURCE_DIR) / "tests" / "broken" / "pictures";
    int count = 0;
    for (const auto& entry : std::filesystem::directory_iterator(folder)) {
        std::ifstream in(entry.path(), std::ios::binary);
        const std::string bytes(std::istreambuf_iterator<char>(in), {});
        EXPECT_FALSE(decode_picture(bytes, 0)) << entry.path();
        ++count;
    }
    EXPECT_GE(count, 8);
}

}  // namespace
}  // namespace fernleaf
