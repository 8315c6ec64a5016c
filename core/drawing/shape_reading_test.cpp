#include "drawing/shape_reading.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "drawing/test_ink.h"

namespace fernleaf {
namespace {

ShapeKind kind_of(const std::vector<Stroke>& strokes) {
    const ShapeReading reading = read_shape(pointers(strokes));
    EXPECT_FALSE(reading.candidates.empty());
    return reading.candidates.empty() ? ShapeKind::line : reading.best().shape.kind;
}

const std::vector<Point> kBox{{10, 10}, {50, 11}, {49, 34}, {11, 33}, {10.5, 11}};

TEST(ShapeReading, ARectangleIsOneInOneStrokeOrFourInAnyDirection) {
    EXPECT_EQ(kind_of({drawn(kBox)}), ShapeKind::rectangle);
    EXPECT_EQ(kind_of({drawn({kBox[1], kBox[0]}), drawn({kBox[1], kBox[2]}), drawn({kBox[3], kBox[4]}),
                       drawn({kBox[3], kBox[2]})}),
              ShapeKind::rectangle);
    const ShapeReading reading = read_shape(pointers({drawn(kBox)}));
    ASSERT_EQ(reading.best().shape.points.size(), 4U);
    EXPECT_LT(distance(reading.best().shape.points[0], {10.5, 10.5}), 1);
    EXPECT_LT(distance(reading.best().shape.points[2], {49.5, 33.5}), 1);
    EXPECT_GT(reading.best().certainty, 0.5);
}

TEST(ShapeReading, WhatElseAFigureMayBeIsAmongItsCandidates) {
    const ShapeReading reading = read_shape(pointers({drawn(kBox)}));
    double sum = 0;
    for (size_t i = 0; i < reading.candidates.size(); ++i) {
        sum += reading.candidates[i].certainty;
        for (size_t j = 0; j < i; ++j) EXPECT_NE(reading.candidates[i].shape.kind, reading.candidates[j].shape.kind);
    }
    EXPECT_NEAR(sum, 1, 1e-9);
    EXPECT_GE(reading.candidates.size(), 4U);
}

TEST(ShapeReading, FiguresWithCornersAreToldByThem) {
    EXPECT_EQ(kind_of({drawn({{10, 10}, {40, 10.5}, {39.5, 40}, {10, 39.5}, {10, 11}})}), ShapeKind::square);
    EXPECT_EQ(kind_of({drawn({{30, 10}, {50, 40}, {10, 40}, {29, 11}})}), ShapeKind::triangle);
    EXPECT_EQ(kind_of({drawn({{30, 10}, {55, 25}, {30, 40}, {5, 25}, {29, 11}})}), ShapeKind::diamond);
    EXPECT_EQ(kind_of({drawn({{20, 10}, {60, 10}, {48, 34}, {8, 34}, {19, 11}})}), ShapeKind::parallelogram);
    EXPECT_EQ(kind_of({drawn({{20, 10}, {44, 10}, {60, 36}, {4, 36}, {19, 11}})}), ShapeKind::trapezoid);
}

TEST(ShapeReading, RoundFiguresAreToldByTheirAxes) {
    std::vector<Point> circle, ellipse;
    for (int i = 0; i <= 40; ++i) {
        const double t = 2 * std::numbers::pi * i / 40;
        circle.push_back({50 + 15 * std::cos(t), 50 + 14.6 * std::sin(t)});
        ellipse.push_back(turned(Point{50 + 22 * std::cos(t), 50 + 11 * std::sin(t)}, 30, {50, 50}));
    }
    EXPECT_EQ(kind_of({drawn(circle)}), ShapeKind::circle);
    EXPECT_EQ(kind_of({drawn(ellipse)}), ShapeKind::ellipse);
    EXPECT_NEAR(angle_of(read_shape(pointers({drawn(ellipse)})).best().shape), 30, 2);
    circle.insert(circle.end(), circle.begin() + 1, circle.begin() + 30);
    EXPECT_EQ(kind_of({drawn(circle)}), ShapeKind::circle) << "gone over once more";
}

TEST(ShapeReading, ArrowsHaveTheirHeadApartOrInOneStroke) {
    EXPECT_EQ(kind_of({drawn({{10, 10}, {50, 20}}), drawn({{45, 15}, {50, 20}, {44, 22}})}), ShapeKind::arrow);
    EXPECT_EQ(kind_of({drawn({{10, 10}, {50, 20}, {45, 15}, {50, 20}, {44, 22}})}), ShapeKind::arrow);
    EXPECT_EQ(kind_of({drawn({{10, 20}, {50, 20}}), drawn({{45, 16}, {50, 20}, {45, 24}}), drawn({{15, 16}, {10, 20}}),
                       drawn({{10, 20}, {15, 24}})}),
              ShapeKind::double_arrow);
    // It points to where its head is, whichever way its shaft was drawn.
    const ShapeReading back =
        read_shape(pointers({drawn({{50, 20}, {10, 10}}), drawn({{45, 15}, {50, 20}, {44, 22}})}));
    EXPECT_LT(distance(back.best().shape.points.back(), {50, 20}), 2);
}

TEST(ShapeReading, LinesBendOrTurn) {
    EXPECT_EQ(kind_of({drawn({{10, 10}, {60, 12}})}), ShapeKind::line);
    EXPECT_EQ(kind_of({drawn({{10, 30}, {25, 10}, {40, 30}, {55, 10}})}), ShapeKind::polyline);
    std::vector<Point> arc, wave;
    for (int i = 0; i <= 30; ++i) {
        arc.push_back({50 + 20 * std::cos(0.1 * i), 50 + 20 * std::sin(0.1 * i)});
        wave.push_back({10 + 2.0 * i, 40 + 9 * std::sin(0.3 * i)});
    }
    EXPECT_EQ(kind_of({drawn(arc)}), ShapeKind::arc);
    EXPECT_EQ(kind_of({drawn(wave)}), ShapeKind::curve);
}

TEST(ShapeReading, StarsMayCrossThemselves) {
    std::vector<Point> star;
    for (int i = 0; i <= 5; ++i) {
        const double t = 2 * std::numbers::pi * (2 * i % 5) / 5 - std::numbers::pi / 2;
        star.push_back({50 + 20 * std::cos(t), 50 + 20 * std::sin(t)});
    }
    EXPECT_EQ(kind_of({drawn(star)}), ShapeKind::star);
}

TEST(ShapeReading, OddInkEndsNothing) {
    EXPECT_TRUE(read_shape({}).candidates.empty());
    const Stroke dot = drawn({{10, 10}});
    EXPECT_TRUE(read_shape({&dot}).candidates.empty());
    const Stroke still = drawn({{10, 10}, {10, 10}});
    EXPECT_TRUE(read_shape({&still}).candidates.empty());
    // A spiral of a hundred thousand points, and hatching.
    Stroke spiral;
    for (int i = 0; i < 100000; ++i) {
        const double t = 0.001 * i;
        spiral.points.push_back({{100 + t * std::cos(t), 100 + t * std::sin(t)}, 0.5F, 0, 0, static_cast<uint32_t>(i)});
    }
    EXPECT_FALSE(read_shape({&spiral}).candidates.empty());
    std::vector<Stroke> hatching;
    for (int i = 0; i < 300; ++i) hatching.push_back(drawn({{10 + 0.2 * i, 10}, {20 + 0.2 * i, 40}}));
    for (const ShapeCandidate& c : read_shape(pointers(hatching)).candidates) EXPECT_TRUE(std::isfinite(c.error));
}

}  // namespace
}  // namespace fernleaf
