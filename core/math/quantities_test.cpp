#include "math/quantities.h"

#include <gtest/gtest.h>

#include "math/math_text.h"
#include "math/page_values.h"
#include "math/parse_math.h"
#include "math/working_out.h"

namespace fernleaf {
namespace {

std::string unit_of(const std::string& formula) {
    const auto known = measured(with_units(*parse_math(formula), {}));
    return known ? known->unit : "! " + known.error().message;
}

// What the last of some lines comes to.
std::string worked(const std::vector<std::string>& lines) {
    PageValues values;
    for (size_t i = 0; i + 1 < lines.size(); ++i) values.take(*parse_math(lines[i]));
    return work_out(*parse_math(lines.back()), {{}, values.by_name()}).text();
}

TEST(Quantities, KeepTheUnitThatWasWrittenFirst) {
    EXPECT_EQ(unit_of("3 m + 20 cm"), "m");
    EXPECT_EQ(unit_of("20 cm + 3 m"), "cm");
    EXPECT_EQ(unit_of("2 m * 30 cm"), "m²");
    EXPECT_EQ(unit_of("10 km / 2 h"), "km/h");
    EXPECT_EQ(unit_of("90 km/h * 20 min"), "km");
    EXPECT_EQ(unit_of("9.81 \\frac{m}{s^2}"), "m/s²");
    EXPECT_EQ(unit_of("3 kg * 2.40 €/kg"), "€");
    EXPECT_EQ(unit_of("6 / 2 min"), "/min");
    EXPECT_EQ(unit_of("300 cm / 2 m"), "");
    EXPECT_EQ(unit_of("\\sqrt{16 m^2}"), "m");
    EXPECT_EQ(unit_of("20 °C - 4 °C"), "°C");
    EXPECT_EQ(unit_of("20 ^\\circ C"), "°C");
    EXPECT_EQ(unit_of("2 \\mathrm{kWh}"), "kWh");
    EXPECT_EQ(unit_of("2 kW * 3 h"), "kW h");
}

TEST(Quantities, GetTheNameOfWhatTheyComeTo) {
    EXPECT_EQ(unit_of("70 kg * 9.81 m/s^2"), "N");
    EXPECT_EQ(unit_of("230 V * 2 A"), "W");
    EXPECT_EQ(unit_of("3 N * 2 m"), "N m") << "a torque is no energy";
    EXPECT_EQ(unit_of("2 g * 3 m/s^2"), "g m/s²") << "not by the units of the SI alone";
}

TEST(Quantities, TellWhatDoesNotFit) {
    EXPECT_EQ(unit_of("3 m + 2 kg"), "! m and kg can't be added");
    EXPECT_EQ(unit_of("3 cm + 2"), "! cm and a plain number can't be added");
    EXPECT_EQ(unit_of("\\sin (3 cm)"), "! what sin is taken of must be a plain number, not cm");
    EXPECT_EQ(unit_of("2^{3 cm}"), "! an exponent must be a plain number, not cm");
    EXPECT_EQ(unit_of("\\sqrt{3 cm}"), "! there is no such root of cm");
}

TEST(Quantities, AreOnlyWhereAllLettersAreUnitsBehindNumbers) {
    for (const char* letters : {"2 a b + 3 c", "m + s", "3 x m", "3 m^2 + 2 m", "3 m + 2 s", "a x^2", "2 m = 6 + m"}) {
        const MathTree tree = *parse_math(letters);
        EXPECT_EQ(with_units(tree, {}), tree) << letters;
    }
    EXPECT_TRUE(holds(with_units(*parse_math("3 m + 2 m"), {}), MathKind::unit));
    const MathTree tree = *parse_math("3 m + 2 m");
    EXPECT_EQ(with_units(tree, {{"m", math_number("5")}}), tree) << "m has a value";
}

TEST(Quantities, CanBeLettersAgain) {
    EXPECT_EQ(without_units(with_units(*parse_math("3 cm + 2 m"), {})), *parse_math("3 cm + 2 m"));
    EXPECT_EQ(math_text(with_units(*parse_math("3 cm^2"), {})), "3 cm^2");
    EXPECT_EQ(math_latex(with_units(*parse_math("3 cm^2"), {})), "3\\,\\mathrm{cm}^{2}");
}

TEST(Quantities, AreWorkedOut) {
    EXPECT_EQ(worked({"3 m + 20 cm ="}), "3.2 m");
    EXPECT_EQ(worked({"1 m / 3"}), "1/3 m ≈ 0.333333 m");
    EXPECT_EQ(worked({"90 km/h = 25 m/s"}), "true");
    EXPECT_EQ(worked({"3 m + 20 cm = 3.4 m"}), "false: 3.2 m");
    EXPECT_EQ(worked({"2 h > 100 min"}), "true");
    EXPECT_EQ(worked({"3 m + 2 kg ="}), "m and kg can't be added");
    EXPECT_EQ(worked({"12.50 € + 80 ct ="}), "13.3 €");
    EXPECT_EQ(worked({"30 min + 1 h"}), "90 min");
    EXPECT_EQ(worked({"1 h 30 min + 45 min"}), "2.25 h");
    EXPECT_EQ(worked({"5 ft 6 in"}), "5.5 ft");
    EXPECT_EQ(worked({"2 m 30 s"}), "60 m s") << "multiplied";
    EXPECT_EQ(worked({"1 m / (3 cm - 3 cm)"}), "undefined: division by zero");
    EXPECT_EQ(worked({"12 * 8 = 96 l"}), "true") << "many write the unit behind the result only";
    EXPECT_EQ(worked({"12 * 8 = 95 l"}), "false: 96 l");
    EXPECT_EQ(worked({"1 * 2 = 4 cm / 2"}), "a plain number and cm can't be compared") << "no result with its unit";
    EXPECT_EQ(worked({"V = 2 m * 3 m = 6 m^2"}), "true");
    EXPECT_EQ(worked({"V = 2 m * 3 m = 5 m^2"}), "false: 6 m²");
    EXPECT_EQ(worked({"2 m = 6"}), "m = 3") << "an equation as any other";
}

TEST(Quantities, ValuesCarryThemDownThePage) {
    EXPECT_EQ(worked({"r = 20 cm", "h = 1.5 m", "V = r^2 h"}), "V = 60000 cm³");
    // The mass m and the unit m, the acceleration g and grams.
    EXPECT_EQ(worked({"m = 5 kg", "g = 9.81 m/s^2", "h = 2 m", "E = m g h"}), "E = 98.1 J");
    EXPECT_EQ(worked({"s = 5 t", "t = 3", "s ="}), "15") << "t is a number, no tonne";
    EXPECT_EQ(worked({"t = 3", "s = 5 t", "s ="}), "15");
    EXPECT_EQ(worked({"V = 2 m * 30 cm = 0.6 m^2", "V * 2 m ="}), "1.2 m³");
    EXPECT_EQ(worked({"t = 2 h", "v = 10 km / t"}), "v = 5 km/h");
}

}  // namespace
}  // namespace fernleaf
