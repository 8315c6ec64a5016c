#include "paper/examples.h"

#include <gtest/gtest.h>

#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

namespace fernleaf {
namespace {

const FileSource kNoFiles = [](const std::string&) -> Result<std::string> { return Error{"none"}; };

// A line of upright strokes; which word they belong to is given by the caller.
std::vector<StrokeId> bars(Page& page, double x, double y, int count) {
    std::vector<StrokeId> ids;
    for (int i = 0; i < count; ++i, x += 2) {
        Stroke s;
        s.id = static_cast<StrokeId>(page.strokes.size()) + 1;
        for (int k = 0; k <= 8; ++k) s.points.push_back({{x, y - 4 + 0.5 * k}});
        ids.push_back(s.id);
        page.strokes.push_back(s);
    }
    return ids;
}

ReadLine line_of(const std::string& text, std::vector<StrokeId> strokes) {
    ReadLine line;
    ReadWord word;
    word.text = text;
    word.strokes = std::move(strokes);
    line.words.push_back(word);
    return line;
}

TEST(Examples, AWordIsDrawnFromItsOwnStrokes) {
    Page page;
    bars(page, 20, 30, 9);
    const std::vector<StrokeId> ids = bars(page, 60, 30, 3);
    ReadWord word;
    word.text = "ill";
    word.strokes = ids;
    const auto example = example_of(page, kNoFiles, word);
    ASSERT_TRUE(example);
    EXPECT_EQ(example->text, "ill");
    EXPECT_EQ(example->pixels.rows, kLineHeightPx);
    EXPECT_LT(example->pixels.cols, 60);  // three bars, not twelve
    page.strokes.clear();
    EXPECT_FALSE(example_of(page, kNoFiles, word));
}

TEST(Examples, AWordInAPictureIsCutFromIt) {
    cv::Mat scan(400, 800, CV_8U, cv::Scalar(250));
    cv::putText(scan, "frost by dawn", {100, 200}, cv::FONT_HERSHEY_SIMPLEX, 1.2, 20, 3, cv::LINE_AA);
    std::vector<uchar> png;
    cv::imencode(".png", scan, png);
    Page page;
    page.pictures.push_back({1, "hash", "scan.png", 0, Box::of(0, 0, 80, 40)});
    ReadWord word;
    word.text = "frost";
    word.box = Box::of(10, 16, 11, 5);
    const FileSource files = [&](const std::string&) {
        return Result<std::string>(std::string(png.begin(), png.end()));
    };
    const auto example = example_of(page, files, word);
    ASSERT_TRUE(example);
    word.box = Box::of(10, 16, 28, 5);
    const auto whole = example_of(page, files, word);
    ASSERT_TRUE(whole);
    EXPECT_LT(example->pixels.cols, 0.6 * whole->pixels.cols);
    EXPECT_GT(cv::countNonZero(example->pixels > 128), 50);
    EXPECT_FALSE(example_of(page, kNoFiles, word));
    word.box = Box::of(10, 2, 28, 5);  // blank paper
    EXPECT_FALSE(example_of(page, files, word));
}

TEST(Examples, CopiedLinesAreMatchedThoughSomeAreMissing) {
    Page page;
    Reading reading;
    reading.lines.push_back(line_of("Heading", bars(page, 20, 20, 4)));
    reading.lines.push_back(line_of("Ouiet wimd over the hi11, fnost", bars(page, 20, 30, 9)));
    reading.lines.push_back(line_of("Boxes 12 bears 30 plurns", bars(page, 20, 40, 7)));
    const auto examples = copied_lines(page, kNoFiles, reading, lines_to_copy());
    ASSERT_EQ(examples.size(), 2U);
    EXPECT_EQ(examples[0].text, lines_to_copy()[0]);
    EXPECT_EQ(examples[1].text, lines_to_copy()[2]);
    EXPECT_GT(examples[0].pixels.cols, examples[1].pixels.cols);
    EXPECT_TRUE(copied_lines(page, kNoFiles, {}, lines_to_copy()).empty());
}

TEST(Examples, TheLinesToCopyHoldEveryLetterAndAreEnough) {
    std::string all;
    std::vector<Example> examples;
    for (const std::string& line : lines_to_copy()) all += line, examples.push_back({cv::Mat(), line});
    for (char c = 'a'; c <= 'z'; ++c) {
        EXPECT_NE(all.find(c), std::string::npos) << c;
        EXPECT_NE(all.find(static_cast<char>(c - 32)), std::string::npos) << c;
    }
    for (char c = '0'; c <= '9'; ++c) EXPECT_NE(all.find(c), std::string::npos) << c;
    EXPECT_TRUE(enough_to_teach(examples));
}

}  // namespace
}  // namespace fernleaf
