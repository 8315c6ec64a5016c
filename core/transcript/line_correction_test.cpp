#include "transcript/line_correction.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

ReadLine line_of(const std::vector<std::string>& words) {
    ReadLine line;
    StrokeId id = 1;
    for (const std::string& text : words) {
        ReadWord word;
        word.text = text;
        word.strokes = {id, id + 1};
        const double left = 10.0 * static_cast<double>(id);
        word.box = {left, 20, left + 15, 26};
        id += 2;
        line.words.push_back(std::move(word));
    }
    return line;
}

TEST(LineCorrection, CorrectsTheWordsThatDiffer) {
    const ReadLine line = line_of({"Dump", "house", "door", "tighl"});
    const auto found = corrections_of(line, "Pump  house door tight ");
    ASSERT_TRUE(found);
    ASSERT_EQ(found->size(), 2U);
    EXPECT_EQ((*found)[0], (Correction{{1, 2}, line.words[0].box, "Pump"}));
    EXPECT_EQ((*found)[1], (Correction{{7, 8}, line.words[3].box, "tight"}));
    EXPECT_TRUE(corrections_of(line, "Dump house door tighl")->empty());
}

TEST(LineCorrection, SaysOfAllTheirInkWhatIsOneWordForTwoOrTwoForOne) {
    const auto joined = corrections_of(line_of({"ther", "mometer", "broken"}), "thermometer broken");
    ASSERT_TRUE(joined);
    ASSERT_EQ(joined->size(), 1U);
    EXPECT_EQ((*joined)[0].strokes, (std::vector<StrokeId>{1, 2, 3, 4}));
    EXPECT_EQ((*joined)[0].text, "thermometer");
    EXPECT_EQ((*joined)[0].box, (Box{10, 20, 45, 26}));
    const auto parted = corrections_of(line_of({"lowergate", "open"}), "lower gate open");
    ASSERT_TRUE(parted);
    ASSERT_EQ(parted->size(), 1U);
    EXPECT_EQ((*parted)[0].strokes, (std::vector<StrokeId>{1, 2}));
    EXPECT_EQ((*parted)[0].text, "lower gate");
}

TEST(LineCorrection, WhatWasNotSeenGoesWithTheWordBeforeIt) {
    const auto more = corrections_of(line_of({"two", "crates"}), "two full crates");
    ASSERT_TRUE(more);
    ASSERT_EQ(more->size(), 1U);
    EXPECT_EQ((*more)[0].strokes, (std::vector<StrokeId>{1, 2}));
    EXPECT_EQ((*more)[0].text, "two full");
    const auto first = corrections_of(line_of({"crates"}), "two crates");
    ASSERT_TRUE(first);
    EXPECT_EQ((*first)[0].text, "two crates");
    const auto fewer = corrections_of(line_of({"'", "crates"}), "crates");
    ASSERT_TRUE(fewer);
    ASSERT_EQ(fewer->size(), 1U);
    EXPECT_EQ((*fewer)[0].strokes.size(), 4U);
    EXPECT_EQ((*fewer)[0].text, "crates");
}

TEST(LineCorrection, RefusesNothingAndWhatIsTyped) {
    EXPECT_FALSE(corrections_of(line_of({"crates"}), "  "));
    ReadLine line = line_of({"two", "crates"});
    line.words[1].block = 9;
    EXPECT_FALSE(corrections_of(line, "two boxes"));
    EXPECT_TRUE(corrections_of(line, "ten crates"));
}

}  // namespace
}  // namespace fernleaf
