#include "drawing/shape_memory.h"

#include <gtest/gtest.h>

#include "drawing/drawn_ink.h"
#include "drawing/test_ink.h"

namespace fernleaf {
namespace {

TEST(ShapeMemory, TheSameInkIsFittedOnceAndOtherInkAnew) {
    ShapeMemory memory;
    const Stroke box = drawn({{10, 10}, {50, 10}, {50, 26}, {10, 26}, {10, 10.5}});
    const ShapeReading first = memory.read({&box});
    EXPECT_EQ(first.candidates, read_shape({&box}).candidates);
    Stroke copy = box;
    copy.id = 7, copy.pen.colour = 0xFF0000;
    EXPECT_EQ(&memory.read({&copy}), &memory.read({&box})) << "what it is drawn with does not matter";
    EXPECT_EQ(memory.size(), 1U);
    copy.points.change().back().at.x += 0.01;
    memory.read({&copy});
    EXPECT_EQ(memory.size(), 2U) << "it is other ink";
    const Stroke bar = drawn({{30, 27}, {30, 59}});
    memory.read({&bar, &box}), memory.read({&bar}), memory.read({&box});
    EXPECT_EQ(memory.size(), 4U);
}

TEST(ShapeMemory, ADrawingReadAgainWithOneStrokeMoreIsWhatItIsWithoutMemory) {
    std::vector<Stroke> strokes{drawn({{10, 10}, {50, 10}, {50, 26}, {10, 26}, {10, 10.5}}),
                                drawn({{10, 60}, {50, 60}, {50, 76}, {10, 76}, {10, 60.5}}),
                                drawn({{30, 27}, {30, 59}})};
    ShapeMemory memory;
    drawn_ink(strokes, false, {}, &memory);
    const size_t known = memory.size();
    strokes.push_back(drawn({{27, 54}, {30, 59}, {33, 54}}));
    const auto with = drawn_ink(strokes, false, {}, &memory).shapes(strokes);
    EXPECT_EQ(with, drawn_ink(strokes).shapes(strokes));
    ASSERT_EQ(with.size(), 3U);
    EXPECT_LE(memory.size(), known + 4) << "only what the new stroke is part of was fitted";
}

}  // namespace
}  // namespace fernleaf
