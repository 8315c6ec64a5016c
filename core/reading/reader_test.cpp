#include "reading/reader.h"

#include <gtest/gtest.h>

#include "base/text.h"
#include "reading/ink_reading.h"

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

class ReaderTest : public testing::Test {
protected:
    static void SetUpTestSuite() {
        auto loaded = Reader::load(std::string(FERNLEAF_SOURCE_DIR) + "/models");
        ASSERT_TRUE(loaded) << loaded.error().message;
        reader_ = *std::move(loaded);
        ASSERT_TRUE(reader_->load_language("en"));
    }
    static void TearDownTestSuite() { reader_.reset(); }
    static std::unique_ptr<Reader> reader_;
};
std::unique_ptr<Reader> ReaderTest::reader_;

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
    literal.lean = 0;
    EXPECT_EQ(fold(read_ink(script.strokes, *reader_, literal, earlier)[0].text()), "hill");
}

TEST_F(ReaderTest, OddInkGivesAnEmptyOrUnsureReading) {
    std::vector<Stroke> odd(3);
    odd[1].points = {{{10, 10}}};
    for (int i = 0; i < 20'000; ++i) odd[2].points.push_back({{20 + i % 50 * 0.1, 20 + (i * 7) % 40 * 0.1}});
    for (const ReadLine& line : read_ink(odd, *reader_, {}, {}))
        EXPECT_TRUE(line.kind == RegionKind::drawing || line.certainty < 0.99);
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

}  // namespace
}  // namespace fernleaf
