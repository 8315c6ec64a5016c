#include "capture/other_notebook.h"

#include <gtest/gtest.h>

#include <cmath>

namespace fernleaf {
namespace {

// Lines of waves as high as writing, so many mm apart, from a height on.
std::vector<Stroke> lines(double top, double apart, int count, double slope = 0) {
    std::vector<Stroke> out;
    for (int line = 0; line < count; ++line) {
        Stroke s;
        for (int i = 0; i < 400; ++i) {
            const double x = 15 + i * 0.3;
            s.points.push_back({{x, top + line * apart + slope * x + 1.5 * std::sin(x * 2)}});
        }
        out.push_back(std::move(s));
    }
    return out;
}

TEST(OtherNotebook, WhatIsAddedBetweenLinesIsOfTheSame) {
    EXPECT_EQ(other_notebook(lines(20, 10, 12), lines(25, 10, 6), false), OtherNotebook::no);
    EXPECT_EQ(other_notebook(lines(20, 7, 10), lines(95, 7, 10), false), OtherNotebook::no);
}

TEST(OtherNotebook, LinesAcrossEarlierOnesAreAskedAboutAndSureOnAFirstPageAfterTheLast) {
    EXPECT_EQ(other_notebook(lines(20, 7, 20), lines(20.8, 7, 10, 0.004), false), OtherNotebook::perhaps);
    EXPECT_EQ(other_notebook(lines(20, 7, 20), lines(20.8, 7, 10, 0.004), true), OtherNotebook::yes);
}

TEST(OtherNotebook, LittleInkTellsNothing) {
    EXPECT_EQ(other_notebook(lines(20, 7, 20), {}, true), OtherNotebook::no);
    Stroke mark;
    mark.points = {{{20, 20}}, {{30, 30}}};
    EXPECT_EQ(other_notebook(lines(20, 7, 20), {mark}, true), OtherNotebook::no);
}

}  // namespace
}  // namespace fernleaf
