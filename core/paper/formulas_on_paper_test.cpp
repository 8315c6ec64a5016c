#include "paper/formulas_on_paper.h"

#include <gtest/gtest.h>

#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include "ink/test_stroke.h"
#include "paper/page_reading.h"
#include "reading/models_directory.h"
#include "reading/test_reader.h"

namespace fernleaf {
namespace {

// A scanned sheet with straight signs, 10 px a mm.
class FormulasOnPaper : public WithReader {
protected:
    void SetUp() override {
        auto skills = FormulaSkills::load(models_directory());
        ASSERT_TRUE(skills) << skills.error().message;
        skills_ = *std::move(skills);
    }
    void line(std::initializer_list<cv::Point2d> mm) {
        std::vector<cv::Point> path;
        for (const cv::Point2d& p : mm) path.emplace_back(cvRound(10 * p.x), cvRound(10 * p.y));
        cv::polylines(sheet_, path, false, cv::Scalar(60, 40, 30), 5, cv::LINE_AA);
    }
    void seven(double x, double y) { line({{x, y - 6}, {x + 3.6, y - 6}, {x + 1.2, y}}); }
    void plus(double x, double y) {
        line({{x, y - 2.5}, {x + 4, y - 2.5}});
        line({{x + 2, y - 4.5}, {x + 2, y - 0.5}});
    }
    void equals(double x, double y) {
        line({{x, y - 3.2}, {x + 4, y - 3.2}});
        line({{x, y - 1.7}, {x + 4, y - 1.7}});
    }
    void hill(double x, double y) {
        line({{x, y - 6}, {x, y}}), line({{x + 3.6, y - 6}, {x + 3.6, y}}), line({{x, y - 3}, {x + 3.6, y - 3}});
        line({{x + 6.3, y - 6}, {x + 6.3, y}}), line({{x + 9, y - 6}, {x + 9, y}, {x + 12, y}});
        line({{x + 14.1, y - 6}, {x + 14.1, y}, {x + 17.1, y}});
    }
    Reading read(FormulaSkills* formulas) {
        std::vector<uchar> png;
        cv::imencode(".png", sheet_, png);
        const std::string bytes(png.begin(), png.end());
        Page page;
        page.pictures = {{1, "f", "a.png", 0, Box::of(20, 30, 120, 90)}};
        return read_page(
            page, [&](const std::string&) { return Result<std::string>(bytes); }, *reader_, {}, {}, {}, {}, {}, nullptr,
            nullptr, formulas);
    }
    static const ReadLine* formula(const Reading& reading) {
        const auto found = std::ranges::find(reading.lines, RegionKind::math, &ReadLine::kind);
        return found == reading.lines.end() ? nullptr : &*found;
    }

    cv::Mat sheet_ = cv::Mat(900, 1200, CV_8UC3, cv::Scalar(238, 246, 250));
    std::unique_ptr<FormulaSkills> skills_;
};

TEST_F(FormulasOnPaper, ASumAmongWordsIsReadAndWorkedOut) {
    hill(15, 15);
    seven(15, 40), plus(21, 40), seven(27, 40), equals(33, 40);
    const Reading reading = read(skills_.get());
    const ReadLine* sum = formula(reading);
    ASSERT_TRUE(sum);
    EXPECT_EQ(sum->words.at(0).text, "7+7=");
    EXPECT_EQ(sum->result, "14");
    // It lies where the picture shows it, and is of no strokes of the page.
    EXPECT_NEAR(sum->box.left, 20 + 15, 1);
    EXPECT_NEAR(sum->box.right, 20 + 37, 1);
    EXPECT_NEAR(sum->box.bottom, 30 + 40, 1);
    EXPECT_TRUE(sum->ink.empty());
    ASSERT_EQ(sum->signs.size(), 4U);
    for (const ReadWord& sign : sum->signs) EXPECT_TRUE(sign.strokes.empty());
    ASSERT_EQ(reading.lines.size(), 2U);
    EXPECT_EQ(reading.lines[0].kind, RegionKind::text);
    for (const ReadWord& word : reading.lines[0].words) EXPECT_TRUE(word.strokes.empty());
}

TEST_F(FormulasOnPaper, APictureTakesNothingBackOfWhatWasTaughtByInk) {
    std::vector<Stroke> ink;
    for (StrokeId id = 1; id <= 2; ++id) {
        const double x = 8.0 * static_cast<double>(id);
        ink.push_back(stroke_along(id, {{x, 20}, {x + 3.6, 20}, {x + 1.2, 26}}));
    }
    ReadLine line;
    line.kind = RegionKind::math, line.ink = {1, 2};
    const Reading earlier{{line}};
    skills_->learn(earlier, ink, {{{1}, ink[0].box(), "1", InkClass::sign}});
    seven(15, 40), plus(21, 40), seven(27, 40), equals(33, 40);
    const auto text = [&] {
        const Reading reading = read(skills_.get());
        const ReadLine* sum = formula(reading);
        return sum ? sum->words.at(0).text : std::string();
    };
    const std::string taught = text();
    EXPECT_EQ(taught.substr(0, 2), "1+");
    EXPECT_EQ(text(), taught) << "it still is";
}

TEST_F(FormulasOnPaper, AFractionsBarBelongsToItAndIsNoDrawing) {
    seven(18, 35), line({{14, 38}, {26, 38}}), seven(18, 47);
    equals(30, 41), plus(40, 42), seven(47, 42);
    const Reading reading = read(skills_.get());
    ASSERT_TRUE(formula(reading));
    EXPECT_NE(formula(reading)->words.at(0).text.find("\\frac{7}{7}"), std::string::npos)
        << formula(reading)->words.at(0).text;
    for (const ReadLine& l : reading.lines) EXPECT_NE(l.kind, RegionKind::drawing);
}

TEST_F(FormulasOnPaper, WordsStayWords) {
    hill(15, 15), hill(15, 40);
    EXPECT_FALSE(formula(read(skills_.get())));
}

TEST_F(FormulasOnPaper, WithoutTheSkillALineIsReadAsBefore) {
    seven(15, 40), plus(21, 40), seven(27, 40), equals(33, 40);
    const Reading reading = read(nullptr);
    EXPECT_FALSE(formula(reading));
    ASSERT_FALSE(reading.lines.empty());
    for (const ReadWord& word : reading.lines[0].words) EXPECT_TRUE(word.strokes.empty());
}

}  // namespace
}  // namespace fernleaf
