#include "paper/picture_file.h"

#include <gtest/gtest.h>
#include <unistd.h>

#include <filesystem>
#include <fstream>
#include <iterator>
#include <opencv2/imgcodecs.hpp>

#include "paper/test_exif.h"
#include "paper/test_pdf.h"

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

const char* const kTwoLines =
    "BT /F 16 Tf 40 240 Td (Press house) Tj ET BT /F 16 Tf 40 216 Td (Second line) Tj ET "
    "BT /F 16 Tf 250 216 Td (far off) Tj ET";

TEST(PictureFile, APdfKeepsItsWordsWithTheirPlacesAndLines) {
    const std::string pdf = pdf_of({kTwoLines, ""});
    const std::vector<KeptWord> words = embedded_pdf_text(pdf, 0);
    std::string all;
    for (const KeptWord& w : words) all += w.text + (w.ends_line ? "|" : " ");
    EXPECT_EQ(all, "Press house|Second line|far off|");
    ASSERT_EQ(words.size(), 6U);
    EXPECT_NEAR(words[0].box.left, 40 / 400.0, 0.005);
    EXPECT_NEAR(words[0].box.bottom, 1 - 240 / 300.0, 0.02);
    EXPECT_LT(words[0].box.right, words[1].box.left);
    // Where the words are told to be, ink is drawn.
    const auto pixels = decode_picture(pdf, 0);
    ASSERT_TRUE(pixels);
    for (const KeptWord& w : words) {
        const cv::Rect at(static_cast<int>(w.box.left * pixels->cols), static_cast<int>(w.box.top * pixels->rows),
                          static_cast<int>(w.box.width() * pixels->cols),
                          static_cast<int>(w.box.height() * pixels->rows));
        EXPECT_LT(cv::mean((*pixels)(at))[0], 235) << w.text;
    }
    EXPECT_TRUE(embedded_pdf_text(pdf, 1).empty());
    EXPECT_TRUE(embedded_pdf_text(pdf, 2).empty());
    EXPECT_TRUE(embedded_pdf_text(encoded(".png", kPicture), 0).empty());
    EXPECT_TRUE(embedded_pdf_text("%PDF-1.4 nothing", 0).empty());
}

TEST(PictureFile, AnnotationsOfAPdfAreDrawn) {
    const auto pixels = decode_picture(pdf_of({kTwoLines}, true), 0);
    ASSERT_TRUE(pixels);
    const cv::Vec3b there = pixels->at<cv::Vec3b>(pixels->rows * 80 / 300, pixels->cols * 320 / 400);
    EXPECT_EQ(there, cv::Vec3b(0, 0, 255));
}

TEST(PictureFile, APdfIsDrawnAsFineAsWishedWithinReason) {
    const std::string pdf = pdf_of({kTwoLines});
    EXPECT_NEAR(decode_picture(pdf, 0, 100)->cols, 400 / 72.0 * 100, 1.5);
    EXPECT_NEAR(decode_picture(pdf, 0, 300)->cols, 400 / 72.0 * 300, 1.5);
    EXPECT_NEAR(decode_picture(pdf, 0, 1)->cols, 400, 1.5);
    EXPECT_NEAR(decode_picture(pdf, 0, 1000000)->cols, 400 / 72.0 * kMostDpi, 1.5);
}

TEST(PictureFile, PicturesOfEveryKindOfPixelComeAsColours) {
    // Grey, sixteen bits a channel, with transparency: what scanners and programs write.
    cv::Mat deep(30, 50, CV_16UC3, cv::Scalar(10 * 257, 200 * 257, 90 * 257)), grey(30, 50, CV_8U, cv::Scalar(77)),
        clear(30, 50, CV_8UC4, cv::Scalar(10, 200, 90, 128));
    for (const char* ending : {".png", ".tiff"}) {
        const auto of_deep = decode_picture(encoded(ending, deep), 0);
        ASSERT_TRUE(of_deep);
        EXPECT_EQ(of_deep->type(), CV_8UC3);
        EXPECT_EQ(of_deep->at<cv::Vec3b>(5, 5), cv::Vec3b(10, 200, 90)) << ending;
        EXPECT_EQ(decode_picture(encoded(ending, grey), 0)->at<cv::Vec3b>(5, 5), cv::Vec3b(77, 77, 77));
        EXPECT_EQ(decode_picture(encoded(ending, clear), 0)->type(), CV_8UC3);
    }
}

TEST(PictureFile, APictureThatMovesIsToldAsSuch) {
    // The head of an animated WebP: its flag is set, 50 by 30.
    std::string bytes("RIFF\x40\0\0\0WEBPVP8X\x0A\0\0\0\x02\0\0\0\x31\0\0\x1D\0\0", 30);
    bytes += std::string(34, '\0');
    const auto pixels = decode_picture(bytes, 0);
    ASSERT_FALSE(pixels);
    EXPECT_NE(pixels.error().message.find("moves"), std::string::npos) << pixels.error().message;
}

TEST(PictureFile, AJpegThatLiesOnItsSideIsTurned) {
    // The picture's top is on the right.
    const std::string bytes = with_orientation(encoded(".jpg", kPicture), 6);
    const auto sheets = probe_picture(bytes);
    ASSERT_TRUE(sheets) << sheets.error().message;
    EXPECT_EQ(sheets->at(0).width_px, kPicture.rows) << "as it is shown";
    const auto pixels = decode_picture(bytes, 0);
    ASSERT_TRUE(pixels) << pixels.error().message;
    EXPECT_EQ(pixels->size(), cv::Size(kPicture.rows, kPicture.cols));
}

TEST(PictureFile, AScannersResolutionIsReadFromWhereItIsNoted) {
    const cv::Mat sheet(60, 40, CV_8UC3, cv::Scalar::all(240));
    std::vector<uchar> coded;
    cv::imencode(".png", sheet, coded);
    const std::string png(coded.begin(), coded.end());
    EXPECT_EQ(scan_dpi(png, 0), 0);
    const std::string noted = with_scan_dpi(png, 300);
    EXPECT_NEAR(scan_dpi(noted, 0), 300, 0.05);
    EXPECT_EQ(scan_dpi(noted, 3), 0);
    const auto pixels = decode_picture(noted, 0);
    ASSERT_TRUE(pixels) << pixels.error().message;
    EXPECT_EQ(cv::norm(*pixels, sheet, cv::NORM_INF), 0);
    EXPECT_EQ(scan_dpi(with_scan_dpi(png, 72), 0), 0) << "no scanner's";
    EXPECT_EQ(with_scan_dpi(png, 0), png);

    cv::imencode(".jpg", sheet, coded);
    std::string jpeg(coded.begin(), coded.end());
    ASSERT_EQ(jpeg.substr(6, 4), "JFIF");
    jpeg[13] = 1, jpeg[14] = 0, jpeg[15] = static_cast<char>(200);
    EXPECT_EQ(scan_dpi(jpeg, 0), 200);
    jpeg[13] = 2, jpeg[15] = 118;
    EXPECT_NEAR(scan_dpi(jpeg, 0), 300, 0.5);
    const std::string camera = jpeg.substr(0, 20) +
                               std::string(
                                   "\xFF\xE1\0\x08"
                                   "Exif\0\0",
                                   10) +
                               jpeg.substr(20);
    EXPECT_EQ(scan_dpi(camera, 0), 0);

    cv::imencode(".tiff", sheet, coded,
                 {cv::IMWRITE_TIFF_RESUNIT, 2, cv::IMWRITE_TIFF_XDPI, 400, cv::IMWRITE_TIFF_YDPI, 400});
    EXPECT_EQ(scan_dpi({coded.begin(), coded.end()}, 0), 400);
}

}  // namespace
}  // namespace fernleaf
