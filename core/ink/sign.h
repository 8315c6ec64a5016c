// The forms of single strokes that signs are made of: lines, waves, carets, arcs, corners, rings.
//
//   if (is_level(stroke)) ...                       // a straight line along the writing
//   if (const auto caret = caret_of(stroke)) ...    // caret->apex
//
// Method: each form is a handful of measures of the path resampled at equal steps (chord, length, sagitta, reversals),
// as in Rubine (1991), "Specifying gestures by example", but with fixed bounds instead of trained ones: the signs are
// standardised, and what counts is what they are not. How often writing has these forms by chance is measured, together
// with where they must stand to mean something, by bench/desk_bench.
#pragma once

#include <optional>

#include "ink/stroke.h"

namespace fernleaf {

// Straight, and within 15 degrees of the horizontal.
bool is_level(const Stroke& stroke);

// Waves or zigzags along a line within 20 degrees of the horizontal, two full ones at least.
bool is_wave(const Stroke& stroke);

// Straight, and within 25 degrees of the vertical.
bool is_upright(const Stroke& stroke);

struct Caret {
    Point apex;  // its top
    Point left, right;
};
// Two straight legs that meet at the top.
std::optional<Caret> caret_of(const Stroke& stroke);

struct Arc {
    Point left, right;
    bool over = true;  // it bulges upwards
};
// A shallow bow, at least roughly level, without a corner.
std::optional<Arc> arc_of(const Stroke& stroke);

struct Corner {
    Point at;
    Point foot;   // the end of the upright leg, below
    Point right;  // the end of the level leg
};
// An upright leg whose top runs on to the right, in one stroke from either end.
std::optional<Corner> corner_of(const Stroke& stroke);

// A closed line about something.
bool is_ring(const Stroke& stroke);

}  // namespace fernleaf
