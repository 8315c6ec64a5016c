// Formulas for tests, in straight strokes, and what reads them.
#pragma once

#include <gtest/gtest.h>

#include <memory>
#include <vector>

#include "ink/test_stroke.h"
#include "math/formula_weights.h"
#include "reading/models_directory.h"
#include "transcript/reading.h"

namespace fernleaf {

// Signs of straight strokes, 6 mm high, from the left end of their baseline.
class DrawnSigns {
public:
    void seven(double x, double y, double size = 6) {
        add({{x, y - size}, {x + 0.6 * size, y - size}, {x + 0.2 * size, y}});
    }
    void plus(double x, double y) {
        add({{x, y - 2.5}, {x + 4, y - 2.5}});
        add({{x + 2, y - 4.5}, {x + 2, y - 0.5}});
    }
    void equals(double x, double y) {
        add({{x, y - 3.2}, {x + 4, y - 3.2}});
        add({{x, y - 1.7}, {x + 4, y - 1.7}});
    }
    void add(const std::vector<Point>& corners) {
        strokes.push_back(stroke_along(static_cast<StrokeId>(strokes.size() + 1), corners));
    }
    // 7 + 7 =, from the left end of its baseline.
    void sum(double x, double y) { seven(x, y), plus(x + 6, y), seven(x + 12, y), equals(x + 18, y); }
    // All of it called math.
    ReadLine as_math() const {
        ReadLine out;
        out.kind = RegionKind::math;
        for (const Stroke& s : strokes) out.ink.push_back(s.id), out.box.include(s.box());
        return out;
    }
    std::vector<Stroke> strokes;
};

class WithFormulaWeights : public testing::Test {
protected:
    void SetUp() override {
        auto weights = load_formula_weights(models_directory());
        ASSERT_TRUE(weights) << weights.error().message;
        weights_ = *weights;
    }
    std::shared_ptr<const FormulaWeights> weights_;
};

}  // namespace fernleaf
