// Formulas that somebody wrote, read from their ink: each kind of structure, and pages of words with formulas among
// them.
#include <gtest/gtest.h>

#include <algorithm>

#include "demo/drawn_formula.h"
#include "math/formula_reading.h"
#include "math/formula_skills.h"
#include "paper/page_reading.h"
#include "reading/models_directory.h"

namespace fernleaf {
namespace {

class WrittenFormulas : public testing::Test {
protected:
    static void SetUpTestSuite() {
        auto weights = load_formula_weights(models_directory());
        ASSERT_TRUE(weights) << weights.error().message;
        weights_ = *weights;
        for (const char* name : {"tobias", "mirela", "walker"}) {
            auto hand = Hand::load(std::string(FERNLEAF_SOURCE_DIR) + "/demo/hands/" + name + ".json");
            ASSERT_TRUE(hand) << hand.error().message;
            hands_.push_back(*std::move(hand));
        }
    }

    static std::vector<Stroke> ink_of(const std::string& latex, size_t hand, unsigned seed, Point at = {20, 40}) {
        std::mt19937 random(seed);
        WrittenFormula formula = *written_formula(latex);
        return draw_formula(formula, hands_[hand], {3, 0.4, false, {}}, at, random);
    }

    // How many of some writings of a formula are read as it.
    static int read_right(const std::string& latex) {
        int right = 0;
        for (size_t hand = 0; hand < hands_.size(); ++hand)
            for (unsigned seed = 1; seed <= 4; ++seed)
                right += read_formula(ink_of(latex, hand, seed), *weights_).latex == latex;
        return right;
    }

    static inline std::shared_ptr<const FormulaWeights> weights_;
    static inline std::vector<Hand> hands_;
};

// Of twelve writings by three people so many at least: what is reached is not to be lost.
struct Kept {
    const char* latex;
    int least;
};

TEST_F(WrittenFormulas, EachKindOfStructureIsRead) {
    for (const auto& [latex, least] : {Kept{"12+47=59", 9},
                                       {"x^{2}-16=0", 10},
                                       {"\\frac{3}{4}", 12},
                                       {"\\frac{a+b}{2}", 12},
                                       {"\\sqrt{a+4}", 10},
                                       {"x_{1}+x_{2}", 8},
                                       {"2^{n+1}", 9},
                                       {"(a+b)^{2}", 12},
                                       {"\\frac{1}{\\sqrt{2}}", 8},
                                       {"x^{\\frac{1}{2}}", 8},
                                       {"3.5+0.7=", 9}})
        EXPECT_GE(read_right(latex), least) << latex;
}

TEST_F(WrittenFormulas, NamesGreekLettersAndOperationsWithBoundsAreRead) {
    for (const auto& [latex, least] :
         {Kept{"\\sin x", 12}, {"\\alpha+\\beta=\\pi", 12}, {"\\sum_{k=1}^{n}k", 8}, {"\\int_{0}^{3}xdx", 12}})
        EXPECT_GE(read_right(latex), least) << latex;
}

TEST_F(WrittenFormulas, TheOrderOfStrokesDoesNotMatter) {
    std::vector<Stroke> ink = ink_of("\\frac{a+b}{2}", 0, 1);
    const std::string latex = read_formula(ink, *weights_).latex;
    EXPECT_EQ(latex, "\\frac{a+b}{2}");
    std::mt19937 random(4);
    for (int i = 0; i < 5; ++i) {
        std::ranges::shuffle(ink, random);
        EXPECT_EQ(read_formula(ink, *weights_).latex, latex);
    }
}

TEST_F(WrittenFormulas, EachSignTellsItsStrokesAndWhatElseItMayBe) {
    std::mt19937 random(1);
    WrittenFormula formula = *written_formula("\\frac{a+b}{2}");
    const std::vector<Stroke> ink = draw_formula(formula, hands_[0], {3, 0.4, false, {}}, {20, 40}, random);
    const FormulaReading reading = read_formula(ink, *weights_);
    ASSERT_EQ(reading.latex, "\\frac{a+b}{2}");
    ASSERT_EQ(reading.signs.size(), 5U);
    std::vector<size_t> all;
    for (const ReadSign& sign : reading.signs) {
        Box box;
        for (const size_t s : sign.strokes) box.include(ink[s].box()), all.push_back(s);
        EXPECT_EQ(box, sign.box) << sign.latex;
        EXPECT_GT(sign.certainty, 0.1) << sign.latex;
        EXPECT_LE(sign.certainty, 1) << sign.latex;
        for (const SignAlternative& other : sign.alternatives) EXPECT_NE(other.latex, sign.latex);
        EXPECT_TRUE(std::ranges::is_sorted(sign.alternatives, std::greater{}, &SignAlternative::certainty));
    }
    std::ranges::sort(all);
    EXPECT_EQ(all.size(), ink.size()) << "each stroke belongs to one";
    EXPECT_EQ(std::ranges::adjacent_find(all), all.end());
    EXPECT_EQ(reading.signs[3].latex, "\\frac") << "the bar, between what stands over and under it";
    EXPECT_EQ(reading.signs[3].strokes, formula.parts[0].strokes);
}

TEST_F(WrittenFormulas, AnywhereAndInAnySizeTheyAreTheSame) {
    for (const double size : {1.5, 3.0, 9.0}) {
        std::mt19937 random(2);
        WrittenFormula formula = *written_formula("x^{2}-16=0");
        const std::vector<Stroke> ink = draw_formula(formula, hands_[0], {size, 0.4, false, {}}, {120, 200}, random);
        EXPECT_EQ(read_formula(ink, *weights_).latex, "x^{2}-16=0") << size;
    }
}

class FormulasOnAPage : public WrittenFormulas {
protected:
    void SetUp() override {
        auto reader = Reader::load(models_directory());
        ASSERT_TRUE(reader) << reader.error().message;
        reader_ = *std::move(reader);
        ASSERT_TRUE(reader_->load_language("en"));
        auto skills = FormulaSkills::load(models_directory());
        ASSERT_TRUE(skills);
        skills_ = *std::move(skills);
        page_.info.width_mm = 210, page_.info.height_mm = 297;
    }
    void write(const char* text, double y) {
        std::mt19937 random(1);
        add(hands_[0].write(text, {20, y}, {2.4, {}, 0, 0.6}, random));
    }
    std::vector<StrokeId> formula(const char* latex, double y, double x = 24) {
        return add(ink_of(latex, 0, 1, {x, y}));
    }
    std::vector<StrokeId> add(std::vector<Stroke> ink) {
        std::vector<StrokeId> ids;
        for (Stroke& s : ink) {
            s.id = static_cast<StrokeId>(page_.strokes.size() + 1);
            ids.push_back(s.id);
            page_.strokes.push_back(std::move(s));
        }
        return ids;
    }
    Reading read(const Reading& before = {}, const std::vector<Correction>& corrections = {}) {
        return read_page(page_, {}, *reader_, {}, before, corrections, {}, {}, nullptr, nullptr, skills_.get());
    }
    static std::vector<std::string> formulas(const Reading& reading) {
        std::vector<std::string> out;
        for (const ReadLine& line : reading.lines)
            if (line.kind == RegionKind::math) out.push_back(line.text() + " | " + line.result);
        return out;
    }

    std::unique_ptr<Reader> reader_;
    std::unique_ptr<FormulaSkills> skills_;
    Page page_;
};

using Lines = std::vector<std::string>;

TEST_F(FormulasOnAPage, AreFoundAmongWordsAndWorkedOut) {
    write("We pressed apples all day", 30);
    const std::vector<StrokeId> ink = formula("x^{2}-16=0", 55);
    write("and the pulp went to the pigs", 75);
    const Reading reading = read();
    EXPECT_EQ(formulas(reading), (Lines{"x^{2}-16=0 | x = -4 or x = 4"}));
    ASSERT_EQ(reading.lines.size(), 3U);
    EXPECT_EQ(reading.lines[0].text(), "We pressed apples all day");
    EXPECT_EQ(reading.lines[1].kind, RegionKind::math) << "in its place";
    std::vector<StrokeId> told = reading.lines[1].ink;
    std::ranges::sort(told);
    EXPECT_EQ(told, ink);
    EXPECT_EQ(reading.lines[2].text(), "and the pulp went to the pigs");
}

TEST_F(FormulasOnAPage, PagesOfWordsDatesAndNumbersHaveNone) {
    write("Row 3: 7 of 8 are green", 30);
    write("12.10.2026 and 14/10", 45);
    write("- call Ines at 555-0134", 60);
    write("half of it by the gate", 75);
    EXPECT_EQ(formulas(read()), Lines{});
}

TEST_F(FormulasOnAPage, AFractionsBarAndARootAreTakenAlong) {
    write("The pump", 30);
    const std::vector<StrokeId> ink = formula("x=\\frac{a+b}{2}", 60);
    const Reading reading = read();
    ASSERT_EQ(formulas(reading).size(), 1U);
    const auto line = std::ranges::find(reading.lines, RegionKind::math, &ReadLine::kind);
    EXPECT_EQ(line->text(), "x=\\frac{a+b}{2}");
    EXPECT_EQ(line->ink.size(), ink.size());
    EXPECT_TRUE(std::ranges::none_of(reading.lines, [](const ReadLine& l) { return l.kind == RegionKind::drawing; }))
        << "nothing of it stays a drawing";
}

TEST_F(FormulasOnAPage, ALaterReadingFindsThemAgainAndFollowsWhatChanged) {
    Box box;
    for (const StrokeId id : formula("4+1=", 40)) box.include(page_.strokes[static_cast<size_t>(id - 1)].box());
    write("so it is", 60);
    const Reading first = read();
    ASSERT_EQ(formulas(first).size(), 1U);
    const Reading second = read(first);
    EXPECT_EQ(formulas(second), formulas(first));
    EXPECT_EQ(formulas(first), (Lines{"4+1= | 5"}));
    formula("7", 40, box.right + 1);  // behind the sign of equality
    EXPECT_EQ(formulas(read(second)), (Lines{"4+1=7 | false: 5"}));
}

TEST_F(FormulasOnAPage, WhatIsSaidToBeTextIsWordsAndWhatIsSaidToBeMathIsRead) {
    const std::vector<StrokeId> ink = formula("x^{2}-16=0", 55);
    EXPECT_EQ(formulas(read({}, {{ink, {}, "", InkClass::text}})), Lines{});
    page_.strokes.clear();
    const std::vector<StrokeId> single = formula("7", 55);
    EXPECT_EQ(formulas(read()), Lines{}) << "a number by itself is none";
    EXPECT_EQ(formulas(read({}, {{single, {}, "", InkClass::math}})), (Lines{"7 | "}));
}

TEST_F(FormulasOnAPage, WhatIsTypedForOneLastsAndIsWorkedOut) {
    const std::vector<StrokeId> ink = formula("x^{2}-16=0", 55);
    const std::vector<Correction> typed{{ink, {}, "x^2=25"}};
    const Reading reading = read({}, typed);
    EXPECT_EQ(formulas(reading), (Lines{"x^2=25 | x = -5 or x = 5"}));
    EXPECT_TRUE(reading.lines[0].words[0].corrected);
    EXPECT_EQ(formulas(read(reading, typed)), (Lines{"x^2=25 | x = -5 or x = 5"}));
    EXPECT_EQ(formulas(read(reading)), (Lines{"x^{2}-16=0 | x = -4 or x = 4"})) << "taken back";
}

TEST_F(FormulasOnAPage, WithoutTheirDataTheyAreWordsAsBefore) {
    formula("x^{2}-16=0", 55);
    const Reading reading = read_page(page_, {}, *reader_, {}, {}, {});
    EXPECT_TRUE(std::ranges::none_of(reading.lines, [](const ReadLine& l) { return l.kind == RegionKind::math; }));
}

}  // namespace
}  // namespace fernleaf
