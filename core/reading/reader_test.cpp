#include "reading/reader.h"

#include <gtest/gtest.h>

#include <cmath>
#include <limits>
#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include "base/text.h"
#include "reading/ink_reading.h"
#include "reading/raster.h"
#include "reading/test_reader.h"

namespace fernleaf {
namespace {

// Straight strokes spelling out letters of 4 mm: enough for any reader worth the name.
struct Script {
    std::vector<Stroke> strokes;
    StrokeId next = 1;
    void stroke(std::vector<Point> points, Point at) {
        Stroke s;
        s.id = next++;
        // As a pen samples it: every half millimetre.
        for (size_t i = 1; i < points.size(); ++i)
            for (int k = 0; k <= 8; ++k)
                s.points.push_back({at + points[i - 1] + (points[i] - points[i - 1]) * (k / 8.0)});
        strokes.push_back(s);
    }
    void hill(Point at) {  // H I L L
        stroke({{0, -4}, {0, 0}}, at), stroke({{2.4, -4}, {2.4, 0}}, at), stroke({{0, -2}, {2.4, -2}}, at);
        stroke({{4.2, -4}, {4.2, 0}}, at);
        stroke({{6, -4}, {6, 0}, {8, 0}}, at);
        stroke({{9.4, -4}, {9.4, 0}, {11.4, 0}}, at);
    }
};

using ReaderTest = WithReader;

TEST_F(ReaderTest, ReadsCapitalsAndTiesWordsToTheirStrokes) {
    Script script;
    script.hill({20, 30});
    script.hill({38, 30});
    const auto lines = read_ink(script.strokes, *reader_, {}, {});
    ASSERT_EQ(lines.size(), 1U);
    EXPECT_EQ(lines[0].text(), "HILL HILL");
    ASSERT_EQ(lines[0].words.size(), 2U);
    EXPECT_EQ(lines[0].words[0].strokes, (std::vector<StrokeId>{1, 3, 2, 4, 5, 6}));
    EXPECT_NEAR(lines[0].words[1].box.left, 38, 0.5);
    EXPECT_NEAR(lines[0].words[1].box.right, 49.4, 0.5);
}

TEST_F(ReaderTest, OnlyChangedLinesAreReadAgain) {
    Script script;
    script.hill({20, 30});
    script.hill({20, 45});
    Reading earlier{read_ink(script.strokes, *reader_, {}, {})};
    ASSERT_EQ(earlier.lines.size(), 2U);
    earlier.lines[0].words[0].text = "kept";
    earlier.lines[1].words[0].text = "kept";
    script.hill({38, 45});
    const auto lines = read_ink(script.strokes, *reader_, {}, earlier);
    ASSERT_EQ(lines.size(), 2U);
    EXPECT_EQ(lines[0].text(), "kept");
    EXPECT_EQ(lines[1].text(), "HILL HILL");
    ReadSettings literal;
    literal.language_weight = 0;
    EXPECT_EQ(fold(read_ink(script.strokes, *reader_, literal, earlier)[0].text()), "hill");
}

TEST_F(ReaderTest, EmptyAndOnePointStrokesAndAMillionPointsAreTaken) {
    std::vector<Stroke> odd(3);
    odd[1].points = {{{10, 10}}};
    for (int i = 0; i < 1'000'000; ++i) odd[2].points.push_back({{20 + i % 50 * 0.1, 20 + (i * 7) % 40 * 0.1}});
    for (const ReadLine& line : read_ink(odd, *reader_, {}, {}))
        EXPECT_TRUE(line.kind == RegionKind::drawing || line.certainty < 0.9) << line.text();
}

TEST_F(ReaderTest, InkAtNoPlaceIsLeftOut) {
    Script script;
    script.hill({20, 30});
    const double nowhere[] = {std::numeric_limits<double>::quiet_NaN(), std::numeric_limits<double>::infinity(), 1e300};
    for (const double x : nowhere) {
        Stroke& stroke = script.strokes.emplace_back();
        stroke.points = {{{22, 30}}, {{x, 31}}};
    }
    const auto lines = read_ink(script.strokes, *reader_, {}, {});
    ASSERT_EQ(lines.size(), 1U);
    EXPECT_EQ(fold(lines[0].text()), "hill");
}

TEST_F(ReaderTest, HatchingIsADrawingOrUnsure) {
    std::vector<Stroke> hatching;
    for (int i = 0; i < 400; ++i) {
        Stroke& stroke = hatching.emplace_back();
        const double x = 20 + i % 80;
        const double y = 20 + static_cast<double>(i / 80) * 6;
        stroke.points = {{{x, y + 8}}, {{x + 6, y}}};
    }
    for (const ReadLine& line : read_ink(hatching, *reader_, {}, {}))
        EXPECT_TRUE(line.kind == RegionKind::drawing || line.certainty < 0.6) << line.text();
}

TEST_F(ReaderTest, TextUpsideDownIsUnsure) {
    const auto lines = reader_->rehearsal();
    ASSERT_TRUE(lines);
    double upright = 0, turned = 0;
    constexpr size_t kLines = 12;
    ASSERT_GE(lines->size(), kLines);
    for (size_t i = 0; i < kLines; ++i) {
        LinePicture line;
        line.pixels = (*lines)[i].pixels;
        upright += reader_->read(line, {}).certainty / kLines;
        cv::rotate(line.pixels.clone(), line.pixels, cv::ROTATE_180);
        turned += reader_->read(line, {}).certainty / kLines;
    }
    EXPECT_LT(turned, 0.5);
    EXPECT_GT(upright, turned + 0.3);
}

TEST_F(ReaderTest, WhereNothingIsSeenTheLanguageDoesNotRunOn) {
    // Smudges: wide and soft, no letters of any hand.
    cv::Mat smudges(kLineHeightPx, 640, CV_8U, cv::Scalar(0));
    cv::RNG rng(5);
    for (int x = 8; x < smudges.cols - 12; x += rng.uniform(9, 26))
        cv::ellipse(smudges, {x, rng.uniform(6, kLineHeightPx - 6)}, {rng.uniform(2, 14), rng.uniform(1, 6)},
                    rng.uniform(0, 180), 0, 360, cv::Scalar(rng.uniform(60, 200)), cv::FILLED);
    cv::GaussianBlur(smudges, smudges, {}, 2);
    LinePicture line;
    line.pixels = smudges;
    ReadSettings settings;
    settings.language_weight = 0;
    const LineReading literal = reader_->read(line, settings);
    ASSERT_LT(literal.evidence, 0.45) << "or it says nothing of this";
    settings.language_weight = 1;
    const LineReading leaning = reader_->read(line, settings);
    ASSERT_EQ(leaning.words.size(), literal.words.size());
    size_t of_language = 0;
    for (size_t i = 0; i < literal.words.size(); ++i) {
        EXPECT_EQ(leaning.words[i].text, literal.words[i].text);
        EXPECT_LT(leaning.words[i].certainty, 0.6);
        for (const Alternative& other : leaning.words[i].alternatives)
            of_language += std::ranges::find(literal.words[i].alternatives, other.text, &Alternative::text) ==
                           literal.words[i].alternatives.end();
    }
    EXPECT_GT(of_language, 0U) << "what the language makes of it can be chosen";
}

TEST_F(ReaderTest, CancelledBeforeItStartsItReadsNothing) {
    Script script;
    script.hill({20, 30});
    CancelSource cancel;
    cancel.cancel();
    EXPECT_TRUE(read_ink(script.strokes, *reader_, {}, {}, cancel.token()).empty());
}

TEST_F(ReaderTest, LanguagesWithoutDataAreAnErrorAndReadingIsLiteral) {
    EXPECT_FALSE(reader_->load_language("xx"));
    EXPECT_EQ(reader_->languages().size(), 29U);
    Script script;
    script.hill({20, 30});
    ReadSettings settings;
    settings.languages = {"xx"};
    EXPECT_EQ(fold(read_ink(script.strokes, *reader_, settings, {})[0].text()), "hill");  // I and l are one bar here
}

TEST_F(ReaderTest, UnderlinedWordsAreEmphasisedAndReadAsWithoutTheirLine) {
    Script script;
    script.hill({20, 30});
    script.hill({38, 30});
    script.stroke({{0, 0}, {12, 0.2}}, {37.6, 31});
    const auto lines = read_ink(script.strokes, *reader_, {}, {});
    ASSERT_EQ(lines.size(), 1U);
    EXPECT_EQ(lines[0].text(), "HILL HILL");
    EXPECT_FALSE(lines[0].words[0].italic);
    EXPECT_TRUE(lines[0].words[1].italic);
    EXPECT_FALSE(lines[0].words[1].bold);
    // Without its line, the emphasis is gone, though the line of words need not be read again.
    script.strokes.pop_back();
    EXPECT_FALSE(read_ink(script.strokes, *reader_, {}, Reading{lines})[0].words[1].italic);
}

TEST_F(ReaderTest, ARingedLetterMakesAHeadingOfTheLineBesideIt) {
    Script script;
    const auto ringed_letter = [&script](Point at) {
        script.stroke({{0, 0}, {1.6, -4}, {3.2, 0}}, at), script.stroke({{0.7, -1.5}, {2.5, -1.5}}, at);
        std::vector<Point> ring;
        for (int i = 0; i <= 20; ++i) ring.push_back({1.6 + 4.2 * std::cos(i * 0.32), -1.8 + 4.2 * std::sin(i * 0.32)});
        script.stroke(ring, at);
    };
    script.hill({30, 30});
    script.hill({30, 50});
    ringed_letter({15, 30});
    auto lines = read_ink(script.strokes, *reader_, {}, {});
    ASSERT_EQ(lines.size(), 2U);
    EXPECT_EQ(lines[0].text(), "HILL");
    EXPECT_EQ(lines[0].heading, 1);
    EXPECT_EQ(lines[1].heading, 0);
    // Beside nothing it is a letter.
    ringed_letter({15, 100});
    lines = read_ink(script.strokes, *reader_, {}, Reading{lines});
    ASSERT_EQ(lines.size(), 3U);
    EXPECT_EQ(fold(lines[2].text()), "a");
    EXPECT_EQ(lines[0].heading, 1);
}

TEST_F(ReaderTest, WhatAPersonSaysIsADrawingMathOrTextIsThatFromThenOn) {
    Script script;
    script.hill({20, 30});
    const auto before = read_ink(script.strokes, *reader_, {}, {});
    ASSERT_EQ(before.size(), 1U);
    ASSERT_EQ(before[0].kind, RegionKind::text);
    std::vector<StrokeId> all;
    for (const Stroke& s : script.strokes) all.push_back(s.id);
    std::vector<Correction> corrections = {{all, before[0].box, "", InkClass::drawing}};
    auto after = read_ink(script.strokes, *reader_, {}, Reading{before}, {}, {}, corrections);
    ASSERT_EQ(after.size(), 1U);
    EXPECT_EQ(after[0].kind, RegionKind::drawing);
    EXPECT_TRUE(after[0].words.empty());
    EXPECT_TRUE(std::is_permutation(after[0].ink.begin(), after[0].ink.end(), all.begin(), all.end()))
        << "it is shown as it is";
    corrections.push_back({all, before[0].box, "", InkClass::math});
    after = read_ink(script.strokes, *reader_, {}, Reading{after}, {}, {}, corrections);
    ASSERT_EQ(after.size(), 1U);
    EXPECT_EQ(after[0].kind, RegionKind::math);
    EXPECT_TRUE(after[0].words.empty());
    corrections.push_back({all, before[0].box, "", InkClass::text});
    after = read_ink(script.strokes, *reader_, {}, Reading{after}, {}, {}, corrections);
    EXPECT_EQ(after[0].kind, RegionKind::text) << "the later word holds";
    EXPECT_EQ(after[0].text(), before[0].text());
    EXPECT_TRUE(after[0].ink.empty());
}

}  // namespace
}  // namespace fernleaf
