#include "math/page_values.h"

#include <gtest/gtest.h>

#include "math/parse_math.h"

namespace fernleaf {
namespace {

ReadLine formula(const char* latex, double y) {
    ReadLine line;
    line.kind = RegionKind::math;
    line.box = Box::of(10, y, 40, 6);
    line.words = {{latex, 1, line.box, {}, {}}};
    return line;
}

TEST(PageValues, TheLastOfANameCountsAndThoseAboveAreKnown) {
    PageValues values;
    for (const char* text : {"a = 3", "b = 2a", "a = 5", "c = c + 1", "x^2 = 4"}) values.take(*parse_math(text));
    EXPECT_EQ(values.numbers(AngleUnit::radian), (std::map<std::string, double>{{"a", 5}, {"b", 6}}));
}

TEST(PageValues, LinesThatDoubleEachOtherStayBounded) {
    PageValues values;
    values.take(*parse_math("a_0 = 2 + x"));
    for (int i = 1; i < 60; ++i)
        values.take(*parse_math("a_{" + std::to_string(i) + "} = a_{" + std::to_string(i - 1) + "} a_{" +
                                std::to_string(i - 1) + "}"));
    size_t named = 0;
    for (const auto& [name, value] : values.by_name()) named += is_sound(value);
    EXPECT_EQ(named, values.by_name().size());
    EXPECT_LT(named, 60u);
}

TEST(PageValues, PlotsKnowWhatStandsAboveTheirLowerSide) {
    Reading reading;
    reading.lines = {formula("a = 3", 10), formula("a = 4", 200)};
    std::vector<Plot> plots(1);
    plots[0].box = Box::of(10, 30, 80, 50);
    give_values(plots, reading);
    EXPECT_EQ(plots[0].values, (std::map<std::string, double>{{"a", 3}}));
    plots[0].box = Box::of(10, 230, 80, 50);
    give_values(plots, reading);
    EXPECT_EQ(plots[0].values, (std::map<std::string, double>{{"a", 4}}));
}

}  // namespace
}  // namespace fernleaf
