// What a person said some ink or some place in a picture means. It is laid over every later reading.
#pragma once

#include <string>
#include <utility>
#include <vector>

#include "base/geometry.h"
#include "ink/stroke.h"

namespace fernleaf {

// What ink can be said to be; as libraries keep them. shape: one shape of a drawing; sign: one sign of a formula.
enum class InkClass { text = 0, drawing = 1, math = 2, one_line = 3, table = 4, shape = 5, sign = 6 };

struct Correction {
    std::vector<StrokeId> strokes;
    Box box;                         // mm
    std::string text;                // what the word says; of a shape its name (shape.h), of a sign its LaTeX
                                     // (math/math_signs.h); empty: only the kind is said
    InkClass kind = InkClass::text;  // with an empty text: that the strokes are this; an unnamed shape is left as ink
    bool is_of_word() const { return !text.empty() && kind != InkClass::shape && kind != InkClass::sign; }
    // Whether it tells what the ink is, so that it is read by itself.
    bool is_of_kind() const { return !is_of_word() && kind != InkClass::sign; }
    friend bool operator==(const Correction&, const Correction&) = default;
};

// That all of these strokes are of a kind.
Correction said_to_be(const std::vector<Stroke>& strokes, InkClass kind);

// Strokes that take the place of others: (old id, new id).
using Replacements = std::vector<std::pair<StrokeId, StrokeId>>;

// The corrections of strokes that others replace, told of those; every stroke of a correction must be replaced by one
// of the strokes given.
std::vector<Correction> replaced_corrections(const std::vector<Correction>& corrections,
                                             const Replacements& replacements, const std::vector<Stroke>& strokes);

}  // namespace fernleaf
