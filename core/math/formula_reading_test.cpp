#include "math/formula_reading.h"

#include <gtest/gtest.h>

#include <fstream>
#include <thread>

#include "math/formula_skills.h"
#include "math/math_signs.h"
#include "math/test_formula_ink.h"
#include "reading/models_directory.h"

namespace fernleaf {
namespace {

class FormulaReadingTest : public WithFormulaWeights {
protected:
    std::string read(const std::vector<Stroke>& strokes) { return read_formula(strokes, *weights_).latex; }
};

TEST_F(FormulaReadingTest, ReadsASumWithItsSignsAndTheirStrokes) {
    DrawnSigns ink;
    ink.sum(20, 40);
    const FormulaReading reading = read_formula(ink.strokes, *weights_);
    EXPECT_EQ(reading.latex, "7+7=");
    ASSERT_EQ(reading.signs.size(), 4U);
    EXPECT_EQ(reading.signs[1].latex, "+");
    EXPECT_EQ(reading.signs[1].strokes, (std::vector<size_t>{1, 2}));
    EXPECT_GT(reading.signs[1].certainty, 0.3);
    EXPECT_FALSE(reading.signs[1].alternatives.empty());
    EXPECT_GT(reading.certainty, 0);
    EXPECT_LE(reading.certainty, 1);
    // With a sign otherwise.
    std::vector<std::string> signs{"7", "-", "7", "="};
    EXPECT_EQ(latex_with(reading.pattern, signs), "7-7=");
    signs[1] = "\\cdot", signs[2] = "x";
    EXPECT_EQ(latex_with(reading.pattern, signs), "7\\cdot x=");
}

TEST_F(FormulaReadingTest, StrokesMayComeInAnyOrder) {
    DrawnSigns ink;
    ink.sum(20, 40);
    std::ranges::reverse(ink.strokes);
    EXPECT_EQ(read(ink.strokes), "7+7=");
    std::swap(ink.strokes[0], ink.strokes[3]);
    EXPECT_EQ(read(ink.strokes), "7+7=");
}

TEST_F(FormulaReadingTest, WhatAPersonSaidIsASignIsThatAndNothingElse) {
    DrawnSigns ink;
    ink.sum(20, 40);
    const std::vector<SaidSign> said{{{0}, *sign_named("1")}, {{3}, *sign_named("x")}};
    const FormulaReading reading = read_formula(ink.strokes, *weights_, {}, said);
    EXPECT_EQ(reading.latex, "1+x=");
    ASSERT_EQ(reading.signs.size(), 4U);
    EXPECT_TRUE(reading.signs[0].said);
    EXPECT_EQ(reading.signs[0].certainty, 1);
    EXPECT_TRUE(reading.signs[0].alternatives.empty());
    EXPECT_FALSE(reading.signs[1].said);
    // Strokes that no group holds may be said to be one sign; what is said of the same ink later does not count.
    const FormulaReading apart =
        read_formula(ink.strokes, *weights_, {}, {{{0, 3}, *sign_named("7")}, {{3}, *sign_named("x")}});
    const auto whole = std::ranges::find_if(apart.signs, [](const ReadSign& s) { return s.said; });
    ASSERT_NE(whole, apart.signs.end());
    EXPECT_EQ(whole->strokes, (std::vector<size_t>{0, 3}));
}

TEST_F(FormulaReadingTest, TellsFractionsAndPowersByPlaceAndSize) {
    DrawnSigns fraction;
    fraction.seven(24, 36), fraction.add({{20, 40}, {32, 40}}), fraction.seven(24, 50);
    EXPECT_EQ(read(fraction.strokes), "\\frac{7}{7}");
    DrawnSigns power;
    power.seven(20, 40), power.seven(25, 36, 3.6);
    EXPECT_EQ(read(power.strokes), "7^{7}");
    DrawnSigns row;
    row.seven(20, 40), row.seven(25, 40);
    EXPECT_EQ(read(row.strokes), "77");
}

TEST_F(FormulaReadingTest, ASmallNumberInARootsHookIsItsIndex) {
    DrawnSigns root;
    root.add({{20, 37}, {21.5, 36}, {23, 40}, {25, 32}, {38, 32}}), root.seven(27, 39.5), root.seven(32, 39.5);
    EXPECT_EQ(read(root.strokes), "\\sqrt{77}");
    root.seven(20.2, 35, 2);
    const FormulaReading reading = read_formula(root.strokes, *weights_);
    EXPECT_EQ(reading.latex, "\\sqrt[7]{77}");
    ASSERT_EQ(reading.signs.size(), 4U);
    EXPECT_EQ(reading.signs[0].latex, "\\sqrt");
    EXPECT_EQ(reading.signs[3].strokes, std::vector<size_t>{3}) << "in the order in which it is set";
}

TEST_F(FormulaReadingTest, AnArrowOverALetterMakesItAVector) {
    DrawnSigns ink;
    ink.add({{20, 34}, {23, 40}}), ink.add({{23, 34}, {20, 40}});  // x
    ink.add({{19.5, 31}, {24, 31}}), ink.add({{22.8, 30}, {24, 31}, {22.8, 32}});
    ink.equals(28, 40), ink.seven(36, 40);
    const FormulaReading reading = read_formula(ink.strokes, *weights_);
    EXPECT_EQ(reading.latex.substr(0, 5), "\\vec{") << reading.latex;
    ASSERT_GE(reading.signs.size(), 2U);
    EXPECT_EQ(reading.signs[0].strokes, (std::vector<size_t>{2, 3}));
}

TEST_F(FormulaReadingTest, TakesWhateverComes) {
    EXPECT_EQ(read({}), "");
    EXPECT_EQ(read({Stroke{}}), "");
    DrawnSigns dot;
    dot.add({{20, 20}, {20, 20}});
    EXPECT_EQ(read_formula(dot.strokes, *weights_).signs.size(), 1U);
    DrawnSigns many;
    for (int i = 0; i < 400; ++i) many.add({{i * 0.5, 20}, {i * 0.5, 25}});
    EXPECT_EQ(read(many.strokes), "") << "more than a formula has";
    DrawnSigns scribble;
    for (int i = 0; i < 40; ++i) scribble.add({{20.0 + i % 3, 20.0 + i % 5}, {30.0 - i % 7, 30.0 - i % 4}});
    EXPECT_LE(read_formula(scribble.strokes, *weights_).certainty, 1);
    CancelSource cancel;
    cancel.cancel();
    EXPECT_EQ(read_formula(scribble.strokes, *weights_, cancel.token()).latex, "");
}

TEST(FormulaWeights, WhatIsMissingCutOrOfAnotherIsToldInASentence) {
    const auto directory = std::filesystem::temp_directory_path() / "fernleaf_formula_weights";
    std::filesystem::create_directories(directory);
    std::filesystem::remove(directory / "formula.weights.gz");
    EXPECT_FALSE(load_formula_weights(directory));
    for (const std::string& bytes : {std::string("fernleaf reader 1\n"), std::string("fernleaf formula 2\n"),
                                     "fernleaf formula 2\n" + std::string(4000, 'a')}) {
        std::ofstream(directory / "formula.weights.gz", std::ios::binary) << bytes;
        const auto loaded = load_formula_weights(directory);
        ASSERT_FALSE(loaded);
        EXPECT_NE(loaded.error().message.find("damaged"), std::string::npos);
    }
    std::filesystem::remove_all(directory);
}

// A page's formulas, as if they had been read.
Reading formulas(std::initializer_list<const char*> latex) {
    Reading out;
    for (const char* text : latex) {
        ReadLine line;
        line.kind = RegionKind::math;
        line.words = {{text, 1, {}, {}, {}}};
        out.lines.push_back(std::move(line));
    }
    return out;
}

class FormulaSkillsTest : public testing::Test {
protected:
    void SetUp() override {
        auto skills = FormulaSkills::load(models_directory());
        ASSERT_TRUE(skills) << skills.error().message;
        skills_ = *std::move(skills);
    }
    std::vector<std::string> results(Reading reading, bool comma = false) {
        skills_->work_out(reading, comma);
        std::vector<std::string> out;
        for (const ReadLine& line : reading.lines) out.push_back(line.result);
        return out;
    }
    std::unique_ptr<FormulaSkills> skills_;
};

using Results = std::vector<std::string>;

TEST_F(FormulaSkillsTest, WorksOutWhatIsAskedAndChecksWhatIsSaid) {
    EXPECT_EQ(results(formulas({"12+21=", "x^{2}-16=0", "420-273=147", "420-273=148", "7", "x"})),
              (Results{"33", "x = -4 or x = 4", "true", "false: 147", "", ""}));
    EXPECT_EQ(results(formulas({"3,5+1="}), true), Results{"4.5"});
    EXPECT_EQ(results(formulas({"((("})), Results{""}) << "what makes no sense comes to nothing";
    EXPECT_EQ(results(formulas({"a+1=", "\\int_{0}^{3}x^{2}dx"})), (Results{"", "9"})) << "a + 1 is a + 1 says nothing";
    // A name that is given by itself, or in a circle, is no value.
    EXPECT_EQ(results(formulas({"a=a+1", "b=c", "c=b"})).size(), 3U);
}

TEST_F(FormulaSkillsTest, WhatAChainSaysBesidesItsNameIsChecked) {
    EXPECT_EQ(results(formulas({"V=3\\cdot 4=12", "V+1="})), (Results{"true", "13"}));
    EXPECT_EQ(results(formulas({"V=3\\cdot 4=13"})), Results{"false: 12"});
    EXPECT_EQ(results(formulas({"V=12=13"})), Results{"false: 12"});
    EXPECT_EQ(results(formulas({"h=3m", "h=\\frac{3m}{2}", "V=2cm\\cdot 3cm=6cm^{2}"})),
              (Results{"", "1.5 m", "true"}));
    EXPECT_EQ(results(formulas({"\\begin{aligned}V&=3\\cdot 4\\\\&=12\\end{aligned}"})), Results{"true"});
}

TEST_F(FormulaSkillsTest, ValuesAboveAreKnownBelow) {
    EXPECT_EQ(results(formulas({"r=3", "h=2", "V=r^{2}h", "V+1="})), (Results{"", "", "18", "19"}));
    EXPECT_EQ(results(formulas({"V=r^{2}", "r=3"})), (Results{"", ""})) << "not above";
    EXPECT_EQ(results(formulas({"a=2", "a+1=", "a=5", "a+1="})), (Results{"", "3", "", "6"})) << "the last one counts";
}

TEST_F(FormulaSkillsTest, WorksOutInTheMannerOfTheNotebookAndWithValuesOfEarlierPages) {
    Reading reading = formulas({"\\sin 30=", "\\frac{1}{3}=", "V="});
    const auto told = [&] {
        Results out;
        for (const ReadLine& line : reading.lines) out.push_back(line.result);
        return out;
    };
    WorkingManner manner;
    manner.angle = AngleUnit::degree, manner.digits = 3;
    skills_->work_out(reading, false, {}, manner, {"r=2", "V=3r", "unreadable {"});
    EXPECT_EQ(told(), (Results{"1/2 ≈ 0.5", "1/3 ≈ 0.333", "6"}));
    manner.exact = true;
    skills_->work_out(reading, false, {}, manner, {"r=2", "V=4r"});
    EXPECT_EQ(told(), (Results{"1/2", "", "8"})) << "what was known with another value is worked out anew";
}

TEST_F(FormulaSkillsTest, ReadsRegionsOfMathAlone) {
    DrawnSigns ink;
    ink.sum(20, 40);
    Reading reading;
    const ReadLine math = ink.as_math();
    ReadLine words;
    words.words = {{"frost", 1, {}, {}, {}}};
    reading.lines = {math, words};
    skills_->read(reading, ink.strokes, {});
    ASSERT_EQ(reading.lines[0].words.size(), 1U);
    EXPECT_EQ(reading.lines[0].words[0].text, "7+7=");
    EXPECT_EQ(reading.lines[0].words[0].strokes, math.ink);
    ASSERT_EQ(reading.lines[0].signs.size(), 4U);
    EXPECT_EQ(reading.lines[0].signs[3].strokes, (std::vector<StrokeId>{5, 6}));
    EXPECT_FALSE(reading.lines[0].words[0].alternatives.empty());
    double all = reading.lines[0].words[0].certainty;
    for (const Alternative& other : reading.lines[0].words[0].alternatives) all += other.certainty;
    EXPECT_LE(all, 1 + 1e-9) << "what it may be otherwise is what certainty leaves";
    EXPECT_TRUE(reading.lines[1].signs.empty());
    // What is known is kept.
    reading.lines[0].words[0].text = "said";
    skills_->read(reading, ink.strokes, {});
    EXPECT_EQ(reading.lines[0].words[0].text, "said");
}

TEST_F(FormulaSkillsTest, SignsThatAPersonCorrectedAreWhatWasSaid) {
    DrawnSigns ink;
    ink.sum(20, 40);
    const ReadLine math = ink.as_math();
    Reading reading{{math}};
    const Correction one{{1}, ink.strokes[0].box(), "1", InkClass::sign};
    skills_->read(reading, ink.strokes, {one, {{99}, {}, "x", InkClass::sign}, {{4}, {}, "no sign", InkClass::sign}});
    EXPECT_EQ(reading.lines[0].words.at(0).text, "1+7=") << "the other one was left as it is";
    ASSERT_EQ(reading.lines[0].signs.size(), 4U);
    EXPECT_TRUE(reading.lines[0].signs[0].corrected);
    EXPECT_FALSE(reading.lines[0].signs[2].corrected);
    // What was said last of a sign counts.
    Reading again{{math}};
    skills_->read(again, ink.strokes, {one, {{1}, {}, "z", InkClass::sign}});
    EXPECT_EQ(again.lines[0].words.at(0).text, "z+7=");
}

TEST_F(FormulaSkillsTest, WhatWasCorrectedOnAnotherPageIsKnownUntilItIsTakenBack) {
    DrawnSigns ink;
    ink.sum(20, 40);
    const Reading earlier{{ink.as_math()}};
    const std::vector<Correction> said{{{1}, ink.strokes[0].box(), "1", InkClass::sign}};
    DrawnSigns other;
    other.sum(60, 80);
    for (Stroke& s : other.strokes) s.id += 100;
    const auto read = [&] {
        Reading reading{{other.as_math()}};
        skills_->read(reading, other.strokes, {});
        return reading.lines[0].words.at(0).text;
    };
    EXPECT_EQ(read(), "7+7=");
    skills_->learn(earlier, ink.strokes, said);
    EXPECT_EQ(read(), "1+1=");
    skills_->learn(earlier, ink.strokes, {});
    EXPECT_EQ(read(), "7+7=");
}

// A line of words over some strokes.
ReadLine words_of(std::initializer_list<std::pair<const char*, std::vector<StrokeId>>> words,
                  const std::vector<Stroke>& ink) {
    ReadLine out;
    out.certainty = 0.9;
    for (const auto& [text, strokes] : words) {
        Box box;
        for (const Stroke& s : ink)
            if (std::ranges::find(strokes, s.id) != strokes.end()) box.include(s.box());
        out.words.push_back({text, 0.9, box, strokes, {}});
        out.box.include(box);
    }
    return out;
}

TEST_F(FormulaSkillsTest, FindsAFormulaAmongLinesOfWordsAndLeavesTheseAlone) {
    DrawnSigns ink;
    ink.sum(20, 40);
    ink.seven(20, 60), ink.seven(26, 60);
    Reading reading;
    reading.lines = {words_of({{"7", {1}}, {"+", {2, 3}}, {"7", {4}}, {"=", {5, 6}}}, ink.strokes),
                     words_of({{"seven", {7}}, {"=", {8}}}, ink.strokes)};
    Reading found = reading;
    skills_->find(found, ink.strokes, {}, false);
    ASSERT_EQ(found.lines.size(), 2U);
    EXPECT_EQ(found.lines[0].kind, RegionKind::math);
    EXPECT_EQ(found.lines[0].words[0].text, "7+7=");
    EXPECT_EQ(found.lines[0].ink.size(), 6U);
    EXPECT_EQ(found.lines[1].text(), "seven =");
    // What a person said of a word or of the kind of ink stays.
    Reading said = reading;
    skills_->find(said, ink.strokes, {{{1, 2, 3, 4, 5, 6}, {}, "", InkClass::text}}, false);
    EXPECT_EQ(said.lines[0].kind, RegionKind::text);
    said = reading;
    skills_->find(said, ink.strokes, {{{1}, {}, "z"}}, false);
    EXPECT_EQ(said.lines[0].kind, RegionKind::text);
    // No operation, no formula.
    Reading number;
    number.lines = {words_of({{"77", {7, 8}}}, ink.strokes)};
    skills_->find(number, ink.strokes, {}, false);
    EXPECT_EQ(number.lines[0].kind, RegionKind::text);
    // A sum is one where all of it is sure.
    Reading sum;
    sum.lines = {words_of({{"7", {1}}, {"+", {2, 3}}, {"7", {4}}}, ink.strokes)};
    skills_->find(sum, {ink.strokes.begin(), ink.strokes.begin() + 4}, {}, false);
    EXPECT_EQ(sum.lines[0].kind, RegionKind::math);
    // What can't be read as words may be a formula in signs that the reader of lines does not know.
    Reading unclear;
    unclear.lines = {words_of({{"Ft7z", {1, 2, 3, 4, 5, 6}}}, ink.strokes)};
    skills_->find(unclear, ink.strokes, {}, false);
    EXPECT_EQ(unclear.lines[0].kind, RegionKind::text);
    unclear.lines[0].certainty = 0.1;
    Reading numbers = unclear;
    numbers.lines[0].words[0].text = "75>77 7";
    skills_->find(unclear, ink.strokes, {}, false);
    EXPECT_EQ(unclear.lines[0].kind, RegionKind::math);
    skills_->find(numbers, ink.strokes, {}, false);
    EXPECT_EQ(numbers.lines[0].kind, RegionKind::text) << "rows of numbers are read so, too";
}

TEST_F(FormulaSkillsTest, WordsInAnyScriptKeepALineWordsAndNamesOfFunctionsDoNot) {
    DrawnSigns ink;
    ink.sum(20, 40);
    const auto kind_of = [&](const char* first, double certainty) {
        Reading reading;
        reading.lines = {words_of({{first, {1}}, {"+", {2, 3}}, {"7", {4}}, {"=", {5, 6}}}, ink.strokes)};
        reading.lines[0].words[0].certainty = certainty;
        skills_->find(reading, ink.strokes, {}, false);
        return reading.lines.at(0).kind;
    };
    EXPECT_EQ(kind_of("kg", 0.9), RegionKind::math) << "two letters stand in formulas, too";
    EXPECT_EQ(kind_of("für", 0.9), RegionKind::text);
    EXPECT_EQ(kind_of("frost", 0.9), RegionKind::text);
    EXPECT_EQ(kind_of("sin", 0.9), RegionKind::math);
    EXPECT_EQ(kind_of("arctan", 0.9), RegionKind::math);
    EXPECT_EQ(kind_of("abc", 0.2), RegionKind::math) << "hardly read: it may be signs";
    EXPECT_EQ(kind_of("neighbours", 0.2), RegionKind::text) << "but not as many";
}

TEST_F(FormulaSkillsTest, NumbersOverALineBecomeASumThatIsWorkedOut) {
    DrawnSigns ink;
    ink.seven(20, 40), ink.seven(20, 50);
    ink.add({{16, 52}, {28, 52}});
    Reading reading{{words_of({{"7", {1}}}, ink.strokes), words_of({{"7", {2}}}, ink.strokes)}};
    skills_->find(reading, ink.strokes, {}, false);
    ASSERT_EQ(reading.lines.size(), 1U);
    EXPECT_EQ(reading.lines[0].kind, RegionKind::math);
    EXPECT_EQ(reading.lines[0].ink, (std::vector<StrokeId>{1, 2, 3}));
    skills_->work_out(reading, false);
    EXPECT_EQ(reading.lines[0].result, "14");
    // With what it comes to below the line it is checked.
    ink.seven(20, 61);
    Reading checked{{words_of({{"7", {1}}}, ink.strokes), words_of({{"7", {2}}}, ink.strokes),
                     words_of({{"15", {4}}}, ink.strokes)}};
    skills_->find(checked, ink.strokes, {}, false);
    ASSERT_EQ(checked.lines.size(), 1U);
    skills_->work_out(checked, false);
    EXPECT_EQ(checked.lines[0].result, "false: 14");
    // Ink that a person spoke of stays what was said.
    Reading said{{words_of({{"7", {1}}}, ink.strokes), words_of({{"7", {2}}}, ink.strokes)}};
    skills_->find(said, ink.strokes, {{{1}, {}, "", InkClass::text}}, false);
    EXPECT_EQ(said.lines.size(), 2U);
}

TEST_F(FormulaSkillsTest, ACommaIsADecimalSignWhereTheLanguageSaysSo) {
    DrawnSigns ink;
    ink.sum(20, 40);
    const std::vector<Correction> typed{{{1, 2, 3, 4, 5, 6}, {}, "3,5+1="}};
    Reading reading;
    reading.lines = {words_of({{"7", {1}}, {"+", {2, 3}}, {"7", {4}}, {"=", {5, 6}}}, ink.strokes)};
    skills_->find(reading, ink.strokes, typed, true);
    skills_->work_out(reading, true);
    ASSERT_EQ(reading.lines.size(), 1U);
    EXPECT_EQ(reading.lines[0].result, "4.5");
    EXPECT_TRUE(writes_decimal_comma({"de", "en"}));
    EXPECT_FALSE(writes_decimal_comma({"en", "de"}));
    EXPECT_FALSE(writes_decimal_comma({}));
}

TEST_F(FormulaSkillsTest, AFormulaThatWasTypedForInkLasts) {
    DrawnSigns ink;
    ink.sum(20, 40);
    Reading reading;
    reading.lines = {words_of({{"7", {1}}, {"+", {2, 3}}, {"7", {4}}, {"=", {5, 6}}}, ink.strokes)};
    skills_->find(reading, ink.strokes, {{{1, 2, 3, 4, 5, 6}, {}, "x=1.4"}}, false);
    ASSERT_EQ(reading.lines.size(), 1U);
    EXPECT_EQ(reading.lines[0].kind, RegionKind::math);
    EXPECT_EQ(reading.lines[0].words[0].text, "x=1.4");
    // Of part of a line it is one where it says an equation, else a word.
    const auto part_said_as = [&](const char* text) {
        Reading part;
        part.lines = {words_of({{"7", {1}}, {"+", {2, 3}}, {"and", {4}}}, ink.strokes)};
        skills_->find(part, ink.strokes, {{{1, 2, 3}, {}, text}}, false);
        return part;
    };
    EXPECT_EQ(part_said_as("and/or").lines[0].kind, RegionKind::text);
    const Reading part = part_said_as("x=1.4");
    ASSERT_EQ(part.lines.size(), 2U);
    EXPECT_EQ(part.lines[0].words[0].text, "x=1.4");
    EXPECT_EQ(part.lines[1].text(), "and");
}

TEST_F(FormulaSkillsTest, AnEquationThatGoesOnBelowIsOne) {
    DrawnSigns ink;
    ink.sum(20, 40), ink.seven(44, 40), ink.equals(38, 52), ink.seven(44, 52);
    Reading reading;
    reading.lines = {words_of({{"7", {1}}, {"+", {2, 3}}, {"7", {4}}, {"=", {5, 6}}, {"7", {7}}}, ink.strokes),
                     words_of({{"=", {8, 9}}, {"7", {10}}}, ink.strokes)};
    skills_->find(reading, ink.strokes, {}, false);
    ASSERT_EQ(reading.lines.size(), 1U);
    EXPECT_EQ(reading.lines[0].words[0].text, "\\begin{aligned}7+7&=7\\\\&=7\\end{aligned}");
    EXPECT_EQ(reading.lines[0].signs.size(), 7U);
    EXPECT_EQ(reading.lines[0].ink.size(), 10U);
    skills_->work_out(reading, false);
    EXPECT_EQ(reading.lines[0].result, "false: 14");
}

TEST_F(FormulaSkillsTest, AnEquationAmongWordsIsPartedFromThem) {
    DrawnSigns ink;
    ink.seven(2, 40), ink.sum(20, 40), ink.seven(44, 40), ink.seven(60, 40);
    const auto line = [&](const char* first, const char* last) {
        Reading out;
        out.lines = {
            words_of({{"above", {7}}}, ink.strokes),
            words_of({{first, {1}}, {"7", {2}}, {"+", {3, 4}}, {"7", {5}}, {"=", {6, 7}}, {"7", {8}}, {last, {9}}},
                     ink.strokes),
            words_of({{"below", {7}}}, ink.strokes)};
        for (ReadLine& l : out.lines) l.input_signature = 5;
        skills_->find(out, ink.strokes, {}, false);
        return out;
    };
    const Reading parted = line("Yield:", "litres");
    ASSERT_EQ(parted.lines.size(), 5U) << "in the order of reading";
    EXPECT_EQ(parted.lines[1].text(), "Yield:");
    EXPECT_EQ(parted.lines[2].kind, RegionKind::math);
    EXPECT_EQ(parted.lines[2].words[0].text, "7+7=7");
    EXPECT_EQ(parted.lines[3].text(), "litres");
    EXPECT_EQ(parted.lines[0].region, parted.lines[1].region);
    EXPECT_NE(parted.lines[1].region, parted.lines[2].region);
    EXPECT_NE(parted.lines[2].region, parted.lines[3].region);
    EXPECT_NE(parted.lines[1].input_signature, 5U) << "or it would be taken for the whole line";
    EXPECT_EQ(line("Yield:", "kg").lines.size(), 4U) << "a unit belongs to it";
    EXPECT_EQ(line("so", "ok").lines[1].text(), "so") << "short words do not";
}

TEST_F(FormulaSkillsTest, AFractionsBarIsTakenAlongThoughItIsInNoLine) {
    DrawnSigns ink;
    ink.seven(24, 36), ink.add({{20, 40}, {32, 40}}), ink.seven(24, 50), ink.equals(36, 42);
    Reading reading;
    reading.lines = {words_of({{"7", {1}}}, ink.strokes), words_of({{"7", {3}}, {"=", {4, 5}}}, ink.strokes)};
    skills_->find(reading, ink.strokes, {}, false);
    ASSERT_EQ(reading.lines.size(), 1U);
    EXPECT_EQ(reading.lines[0].words[0].text, "\\frac{7}{7}=");
}

TEST_F(FormulaSkillsTest, WhatWasBrokenOffIsReadTheNextTime) {
    DrawnSigns ink;
    ink.sum(20, 40);
    const ReadLine math = ink.as_math();
    // Whenever it is cancelled, also in the midst of it.
    for (int after = 0; after < 40; ++after) {
        Reading reading;
        reading.lines = {math};
        CancelSource cancel;
        std::thread other([&] {
            std::this_thread::yield();
            cancel.cancel();
        });
        skills_->read(reading, ink.strokes, {}, cancel.token());
        other.join();
        EXPECT_TRUE(reading.lines[0].words.empty() || reading.lines[0].words[0].text == "7+7=");
        Reading again;
        again.lines = {math};
        skills_->read(again, ink.strokes, {});
        ASSERT_EQ(again.lines[0].words.size(), 1U);
        EXPECT_EQ(again.lines[0].words[0].text, "7+7=");
        for (Stroke& s : ink.strokes)  // ink that was not read before
            for (InkPoint& p : s.points.change()) p.at.x += 0.05;
    }
}

TEST_F(FormulaSkillsTest, ASureLineOfNumbersIsPreferred) {
    DrawnSigns ink;
    ink.sum(20, 40);
    Reading reading;
    reading.lines = {words_of({{"1", {1}}, {"+", {2, 3}}, {"1", {4}}, {"=", {5, 6}}}, ink.strokes)};
    reading.lines[0].certainty = 0.9;
    skills_->find(reading, ink.strokes, {}, false);
    ASSERT_EQ(reading.lines.size(), 1U);
    EXPECT_EQ(reading.lines[0].words[0].text, "1+1=");
    EXPECT_EQ(reading.lines[0].words[0].alternatives[0].text, "7+7=");
    EXPECT_EQ(reading.lines[0].signs[0].text, "1");
}

}  // namespace
}  // namespace fernleaf
