#include "paper/printed_text.h"

#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <opencv2/imgproc.hpp>

#include "base/text.h"
#include "paper/baseline.h"
#include "paper/scan_lines.h"
#include "reading/test_reader.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

// A line of plotter letters, which tesseract reads: light on dark, as the reader sees lines.
LinePicture plotted(const std::string& text) {
    LinePicture line;
    line.pixels = cv::Mat(40, static_cast<int>(20 * text.size()), CV_8U, cv::Scalar(0));
    cv::putText(line.pixels, text, {6, 30}, cv::FONT_HERSHEY_DUPLEX, 0.8, cv::Scalar(255), 1, cv::LINE_AA);
    return line;
}

// Pieces that say nothing by how they stand.
cv::Mat silent() { return {kOffsetClasses, kOffsetBins, CV_32F, cv::Scalar(0)}; }

// Says the same of every word.
PrintTeller always(bool printed) {
    cv::Mat last(1, 3, CV_32F, cv::Scalar(0));
    last.at<float>(2) = printed ? 9 : -9;
    return PrintTeller({cv::Mat(1, 193, CV_32F, cv::Scalar(0)), last, silent(), 0});
}

ScannedPage page_of(const LinePicture& picture, size_t lines) {
    ScannedPage page;
    for (size_t i = 0; i < lines; ++i) page.lines.push_back({picture, {}, 0, false, {}});
    return page;
}

AnyLineReading read_one(const LinePicture& line, const Reader& reader, PrintSkills& print) {
    return read_scanned(page_of(line, 1), reader, &print, {}).front();
}

std::string said(const std::vector<WordReading>& words) {
    std::string out;
    for (const WordReading& word : words) out += (out.empty() ? "" : " ") + word.text;
    return out;
}

class PrintedText : public WithReader {};

TEST_F(PrintedText, ALineOfPrintIsReadWordByWordWithItsPlaces) {
    PrintReader print;
    const auto words = print.read(255 - plotted("Cider press").pixels, {"en"});
    ASSERT_EQ(words.size(), 2U) << said(words);
    EXPECT_EQ(fold(said(words)), "cider press");
    EXPECT_LT(words[0].end, words[1].begin);
    EXPECT_GT(words[0].certainty, 0.5);
    EXPECT_LE(words[1].end, 20 * 11);
}

TEST_F(PrintedText, NothingIsReadWhereNothingStands) {
    PrintReader print;
    EXPECT_TRUE(print.read({}, {"en"}).empty());
    EXPECT_TRUE(print.read(cv::Mat(60, 300, CV_8U, cv::Scalar(255)), {"en"}).empty());
}

TEST_F(PrintedText, LanguagesWithoutDataAreReadAsEnglish) {
    PrintReader print;
    const cv::Mat line = 255 - plotted("Cider press").pixels;
    for (const std::vector<std::string>& languages : {std::vector<std::string>{"xx"}, {}, {"vi"}, {"en"}})
        EXPECT_EQ(fold(said(print.read(line, languages))), "cider press");
}

TEST_F(PrintedText, WordsTakenForPrintGoToTesseractAndWhatTheReaderSawStaysAmongTheAlternatives) {
    const LinePicture line = plotted("Cider press");
    PrintSkills print(always(true));
    const AnyLineReading reading = read_one(line, *reader_, print);
    EXPECT_EQ(fold(said(reading.line.words)), "cider press");
    EXPECT_EQ(reading.printed, (std::vector<bool>{true, true}));
    EXPECT_NEAR(reading.line.certainty, certainty_of(reading.line.words), 1e-9);
    PrintSkills none(always(false));
    const AnyLineReading written = read_one(line, *reader_, none);
    EXPECT_EQ(written.printed, std::vector<bool>(written.line.words.size(), false));
    EXPECT_EQ(said(written.line.words), said(reader_->read(line, {}).words)) << "as the reader reads it by itself";
    for (size_t i = 0; i < reading.line.words.size(); ++i)
        if (written.line.words.size() == 2 && written.line.words[i].text != reading.line.words[i].text) {
            const auto& others = reading.line.words[i].alternatives;
            EXPECT_EQ(std::ranges::count(others, written.line.words[i].text, &Alternative::text), 1);
        }
}

TEST_F(PrintedText, AnEmptyLineHasNoWords) {
    PrintSkills print(always(true));
    const AnyLineReading reading = read_one({}, *reader_, print);
    EXPECT_TRUE(reading.line.words.empty());
    EXPECT_TRUE(reading.printed.empty());
}

TEST_F(PrintedText, WhatTheNetworkSeesIsTheSameInOneRunAndByItself) {
    const cv::Mat pixels = plotted("Cider press").pixels;
    cv::Mat seen;
    const cv::Mat scores = reader_->network().log_probabilities(pixels, &seen);
    EXPECT_EQ(cv::norm(scores, reader_->network().log_probabilities(pixels), cv::NORM_INF), 0);
    EXPECT_EQ(cv::norm(seen, reader_->network().before_layer(pixels, kFirstAlong), cv::NORM_INF), 0);
}

TEST(PrintTeller, TheShippedWeightsAreThere) {
    EXPECT_TRUE(PrintTeller::load(std::string(FERNLEAF_SOURCE_DIR) + "/models"));
}

TEST(PrintTeller, WeighsTheMeanAndTheDeviationOfItsUnitsOverAWord) {
    // Two channels over four rows: one steady at 2, one that goes from 0 to 4 and back.
    const cv::Mat features = (cv::Mat_<float>(4, 2) << 2, 0, 2, 4, 2, 0, 2, 4);
    WordReading word;
    word.begin = 0, word.end = 16;
    // Units: the first channel less 1; the second; one that is never above zero.
    const cv::Mat hidden = (cv::Mat_<float>(3, 3) << 1, 0, -1, 0, 1, 0, -1, 0, 0);
    const cv::Mat last = (cv::Mat_<float>(1, 7) << 1, 0.5F, 100, 100, -1, 100, 0.25F);
    const PrintTeller teller({hidden, last, silent(), 0});
    EXPECT_NEAR(teller.printed(word_rows(features, word), {}), 1 * 1 + 0.5 * 2 - 1 * 2 + 0.25, 1e-5);
    word.begin = 900, word.end = 1000;
    EXPECT_EQ(word_rows(features, word).rows, 1) << "beyond the line: its end";
    EXPECT_TRUE(word_rows({}, word).empty());
    EXPECT_NEAR(teller.printed({}, {}), 0.25, 1e-6) << "nothing seen: the bias alone";
}

TEST(PrintTeller, SteadyPiecesSayMoreTheMoreThereAre) {
    cv::Mat last(1, 3, CV_32F, cv::Scalar(0)), offsets = silent();
    last.at<float>(2) = 99;  // the network is sure
    offsets.col(0) = 1, offsets.col(kOffsetBins - 1) = -2;
    const PrintTeller teller({cv::Mat(1, 193, CV_32F, cv::Scalar(0)), last, offsets, 3});
    const double network = teller.printed({}, {});
    EXPECT_LT(network, 9) << "but not that sure";
    const auto with = [&](size_t count, double offset) {
        return teller.printed({}, std::vector<BaselineOffset>(count, {offset, 0})) - network;
    };
    EXPECT_NEAR(with(100, 0), 3, 1e-5);
    EXPECT_NEAR(with(100, kMostOffset), -6, 1e-5);
    EXPECT_LT(with(3, 0), 0.5 * with(100, 0));
    EXPECT_EQ(with(100, kMostOffset / 4), 0);
}

TEST(PrintTeller, PlacesOfOffsetsAreFinerNearTheBaseline) {
    EXPECT_EQ(place_of({0, 0}), cv::Point(0, 0));
    EXPECT_EQ(place_of({-kMostOffset, 0}).x, kOffsetBins - 1);
    EXPECT_EQ(place_of({9, 0}).x, kOffsetBins - 1);
    EXPECT_EQ(place_of({kMostOffset / 4 + 1e-9, 0}).x, kOffsetBins / 2);
    EXPECT_EQ(place_of({0, 1}).y, kOffsetClasses - 1);
    for (double offset = 0; offset < kMostOffset; offset += 0.001)
        EXPECT_LE(place_of({offset, 0}).x, place_of({-offset - 0.001, 0}).x);
}

TEST(PrintTeller, APageTellsHowMuchOfItIsPrinted) {
    EXPECT_EQ(page_prior({}), 0);
    EXPECT_LT(std::abs(page_prior({3, -3, 3, -3, 2, -2})), 0.1) << "both by turns: no leaning";
    std::vector<double> written(60, -2);
    for (size_t i = 0; i < 60; i += 5) written[i] = 1;  // hands that write like print
    EXPECT_LT(page_prior(written), -1);
    for (double& odds : written) odds = -odds;
    EXPECT_GT(page_prior(written), 1);
    EXPECT_GE(page_prior(std::vector<double>(5000, -50)), -kMostPrior);
    EXPECT_LT(std::abs(page_prior({2.0})), 0.25) << "one word is no page";
}

TEST_F(PrintedText, APageIsReadLineByLineInOrder) {
    const LinePicture line = plotted("Cider press");
    PrintSkills print(always(true));
    ScannedPage page = page_of(line, 5);
    page.lines[2].drawing = true;
    const auto all = read_scanned(page, *reader_, &print, {});
    ASSERT_EQ(all.size(), 5U);
    for (size_t i = 0; i < 5; ++i)
        EXPECT_EQ(all[i].printed, i == 2 ? std::vector<bool>() : (std::vector<bool>{true, true}));
    for (const AnyLineReading& one : read_scanned(page, *reader_, nullptr, {}))
        EXPECT_EQ(std::ranges::count(one.printed, true), 0) << "without skills all is handwriting";
}

TEST_F(PrintedText, ACancelledPageKeepsWhatWasRead) {
    const LinePicture line = plotted("Cider press");
    PrintSkills print(always(true));
    CancelSource cancel;
    const auto some =
        read_scanned(page_of(line, 3), *reader_, &print, {}, cancel.token(), [&](double) { cancel.cancel(); });
    ASSERT_EQ(some.size(), 3U);
    EXPECT_FALSE(some[0].line.words.empty());
    EXPECT_TRUE(some[2].line.words.empty());
}

TEST(PrintTeller, DamagedWeightsAreRefused) {
    const fs::path folder = fs::temp_directory_path() / ("fernleaf-print-" + std::to_string(getpid()));
    fs::create_directories(folder);
    EXPECT_FALSE(PrintTeller::load(folder)) << "missing";
    std::string offsets;
    for (int i = 0; i < kOffsetClasses * kOffsetBins; ++i) offsets += "0.5 ";
    const std::string good = "fernleaf print 4\n1 1\n1 2\n1 2 3\n" + offsets + "2\n";
    for (const std::string& bad :
         {std::string(), "fernleaf print 9\n1 1\n1 2\n1 2 3\n" + offsets + "2\n",
          "fernleaf print 4\n1 2\n1 2\n1 2 3\n" + offsets, std::string("fernleaf print 4\n0 0\n"),
          std::string("fernleaf print 4\n99999999 1\n"), "fernleaf print 4\n1 1\n1 x\n1 2 3\n" + offsets + "2\n",
          good.substr(0, good.size() - 3)}) {
        std::ofstream(folder / "print.head") << bad;
        EXPECT_FALSE(PrintTeller::load(folder)) << bad;
        EXPECT_FALSE(PrintSkills::load(folder)) << bad;
    }
    std::ofstream(folder / "print.head") << good;
    EXPECT_TRUE(PrintTeller::load(folder));
    fs::remove_all(folder);
}

// Worms of light and dark, as cloth, gravel and leaves have them.
cv::Mat texture(int seed) {
    cv::Mat noise(900, 700, CV_8U);
    cv::RNG random(static_cast<uint64_t>(seed));
    random.fill(noise, cv::RNG::NORMAL, 128, 60);
    cv::Mat fine, broad;
    cv::GaussianBlur(noise, fine, {}, 3);
    cv::GaussianBlur(noise, broad, {}, 7);
    fine.convertTo(fine, CV_32F);
    broad.convertTo(broad, CV_32F);
    cv::Mat out = (fine - broad) * 9 + 150;
    out.convertTo(out, CV_8U);
    return out;
}

TEST_F(PrintedText, WhatIsNoWritingHasNoWords) {
    for (int seed = 1; seed <= 3; ++seed) {
        const ScannedPage page = scan_page(texture(seed));
        EXPECT_FALSE(page.lines.empty()) << "there is something to look at";
        for (const AnyLineReading& line : read_scanned(page, *reader_, nullptr, {}))
            EXPECT_TRUE(line.line.words.empty()) << said(line.line.words);
    }
}

TEST_F(PrintedText, AChessboardHasNoWords) {
    cv::Mat board(900, 900, CV_8U, cv::Scalar(245));
    for (int y = 0; y < 30; ++y)
        for (int x = y % 2; x < 30; x += 2) board(cv::Rect(30 * x, 30 * y, 28, 28)) = 20;
    for (const AnyLineReading& line : read_scanned(scan_page(board), *reader_, nullptr, {}))
        EXPECT_TRUE(line.line.words.empty()) << said(line.line.words);
}

}  // namespace
}  // namespace fernleaf
