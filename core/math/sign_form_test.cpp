#include "math/sign_form.h"

#include <gtest/gtest.h>

#include <algorithm>

#include "ink/test_stroke.h"

namespace fernleaf {
namespace {

SignForm form_of(const std::vector<Stroke>& strokes, double usual = 5) {
    std::vector<const Stroke*> all;
    for (const Stroke& s : strokes) all.push_back(&s);
    return sign_form(all, usual);
}

double apart(const SignForm& a, const SignForm& b) {
    double out = 0;
    for (size_t i = 0; i < a.size(); ++i) out += std::abs(a[i] - b[i]);
    return out;
}

const std::vector<Point> kSeven{{10, 10}, {14, 10}, {11, 17}};

TEST(SignForm, NeitherWhereItStandsNorThePensWayMatter) {
    std::vector<Point> moved, back(kSeven.rbegin(), kSeven.rend());
    for (const Point p : kSeven) moved.push_back(p + Point{80, 33});
    const SignForm seven = form_of({stroke_along(1, kSeven)});
    EXPECT_LT(apart(seven, form_of({stroke_along(1, moved)})), 0.01);
    EXPECT_LT(apart(seven, form_of({stroke_along(1, back)})), 4);
    EXPECT_GT(apart(seven, form_of({stroke_along(1, {{10, 17}, {14, 17}, {11, 10}})})), 20);
}

TEST(SignForm, TheOrderOfStrokesDoesNotMatter) {
    const Stroke across = stroke_along(1, {{0, 5}, {6, 5}}), down = stroke_along(2, {{3, 2}, {3, 8}});
    EXPECT_LT(apart(form_of({across, down}), form_of({down, across})), 1e-4);
}

TEST(SignForm, DirectionsAreToldApart) {
    const SignForm level = form_of({stroke_along(1, {{0, 0}, {10, 0}})}),
                   upright = form_of({stroke_along(1, {{0, 0}, {0, 10}})});
    const auto sum = [](const SignForm& form, size_t direction) {
        constexpr size_t kMap = kSignGrid * kSignGrid;
        double out = 0;
        for (size_t i = 0; i < kMap; ++i) out += form[direction * kMap + i];
        return out;
    };
    EXPECT_GT(sum(level, 0), 3);
    EXPECT_LT(sum(level, 2), 0.1);
    EXPECT_GT(sum(upright, 2), 3);
    EXPECT_LT(sum(upright, 0), 0.1);
}

TEST(SignForm, TakesDotsAndTellsTheirSize) {
    const Stroke dot = stroke_along(1, {{4, 4}, {4, 4}});
    const SignForm small = form_of({dot}, 5), beside_small = form_of({dot}, 0.1);
    EXPECT_TRUE(std::ranges::all_of(small, [](float v) { return std::isfinite(v); }));
    EXPECT_GT(apart(small, beside_small), 1) << "a dot beside others is told by their size";
}

TEST(SignForm, TheUsualSizeIsThatOfMostStrokes) {
    const Stroke a = stroke_along(1, {{0, 0}, {4, 0}}), b = stroke_along(2, {{0, 0}, {0, 5}}),
                 bar = stroke_along(3, {{0, 0}, {60, 0}});
    const std::vector<const Stroke*> all{&a, &bar, &b};
    EXPECT_DOUBLE_EQ(usual_size(all), 5);
    EXPECT_GT(usual_size({}), 0);
}

}  // namespace
}  // namespace fernleaf
