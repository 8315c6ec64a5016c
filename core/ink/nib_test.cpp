#include "ink/nib.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

Pen pen(PenKind kind, Tip tip = Tip::round) { return {0, 1, kind, tip}; }

std::vector<InkPoint> path(double mm_per_ms, float pressure, float tilt = 0) {
    std::vector<InkPoint> points;
    for (uint32_t t = 0; t <= 200; t += 10) points.push_back({{mm_per_ms * t, 0}, pressure, tilt, 0, t});
    return points;
}

double end_width(const Pen& p, const std::vector<InkPoint>& points) { return nib_marks(p, points).back().width_mm; }

TEST(Nib, ABallpointIsSteadierThanAFountainPen) {
    for (const PenKind kind : {PenKind::ballpoint, PenKind::fountain})
        EXPECT_GT(end_width(pen(kind), path(0.04, 0.9F)), end_width(pen(kind), path(0.04, 0.1F)));
    const auto ratio = [](PenKind kind) {
        return end_width(pen(kind), path(0.04, 0.9F)) / end_width(pen(kind), path(0.04, 0.1F));
    };
    EXPECT_LT(ratio(PenKind::ballpoint), 1.4);
    EXPECT_GT(ratio(PenKind::fountain), 2);
}

TEST(Nib, MiddlePressureAtCalmSpeedGivesThePensWidth) {
    for (const PenKind kind : {PenKind::ballpoint, PenKind::fountain, PenKind::pencil, PenKind::highlighter})
        EXPECT_NEAR(end_width(pen(kind), path(0.04, 0.5F)), 1, 1e-6);
}

TEST(Nib, HasteThinsAFountainPenAndNoOther) {
    EXPECT_LT(end_width(pen(PenKind::fountain), path(0.3, 0.5F)), 0.75);
    EXPECT_EQ(end_width(pen(PenKind::ballpoint), path(0.3, 0.5F)),
              end_width(pen(PenKind::ballpoint), path(0.02, 0.5F)));
}

TEST(Nib, WithoutTimesSpeedSaysNothing) {
    std::vector<InkPoint> points = path(0.3, 0.5F);
    for (InkPoint& p : points) p.time_ms = 0;
    EXPECT_NEAR(end_width(pen(PenKind::fountain), points), 1, 1e-6);
}

TEST(Nib, APencilLeaningIsBroaderAndPressedDarker) {
    EXPECT_GT(end_width(pen(PenKind::pencil), path(0.04, 0.5F, 60)), 2);
    EXPECT_GT(nib_marks(pen(PenKind::pencil), path(0.04, 1)).back().darkness,
              2 * nib_marks(pen(PenKind::pencil), path(0.04, 0.1F)).back().darkness);
}

TEST(Nib, PressureCanBeTurnedOff) {
    for (const PenKind kind : {PenKind::ballpoint, PenKind::fountain, PenKind::pencil}) {
        Pen p = pen(kind);
        p.by_pressure = false;
        EXPECT_EQ(end_width(p, path(0.04, 0.1F)), end_width(p, path(0.04, 0.9F)));
    }
}

TEST(Nib, AChiselIsNarrowAlongItsEdge) {
    const Pen chisel = pen(PenKind::highlighter, Tip::chisel);
    const std::vector<InkPoint> rising{{{0, 10}}, {{10, 0}}}, falling{{{0, 0}}, {{10, 10}}};
    EXPECT_NEAR(end_width(chisel, falling), 1, 1e-6);
    EXPECT_LT(end_width(chisel, rising), 0.3);
}

TEST(Nib, NoMarkIsWiderThanTheWidest) {
    for (const PenKind kind : {PenKind::ballpoint, PenKind::fountain, PenKind::pencil, PenKind::highlighter})
        for (const float pressure : {0.0F, 0.5F, 1.0F})
            for (const float tilt : {0.0F, 90.0F})
                for (const NibMark& mark : nib_marks(pen(kind), path(0.001, pressure, tilt)))
                    EXPECT_LE(mark.width_mm, widest_mark(pen(kind)) + 1e-9);
}

}  // namespace
}  // namespace fernleaf
