// Finds what of a page's ink is drawn: figures and the links between them, among words.
//
//   const DrawnInk drawn = drawn_ink(strokes);
//   read_ink(drawn.rest(strokes), ...);             // words, without the ink of figures
//
// Strokes larger than letters that are near a shape are grouped (shape_grouping.h), with what may be the head of a
// line. Figures are drawn; lines are if they lead from one figure to another, or are too large or tangled to be written
// (core/ink/grouping.h): underlines and dashes stay with the words.
#pragma once

#include "drawing/shape_grouping.h"

namespace fernleaf {

struct DrawnInk {
    std::vector<ShapeGroup> groups;  // strokes: indices into those given
    std::vector<bool> drawn;         // for each stroke, whether it is in a group

    std::vector<Stroke> rest(const std::vector<Stroke>& strokes) const;
    // The groups as a reading keeps them, each with the likeliest of what it may be.
    std::vector<ReadShape> shapes(const std::vector<Stroke>& strokes) const;
};

// all_drawn: a person said that everything is a drawing, whatever it looks like. known: shapes that are not among the
// strokes, such as those drawn fair: lines may lead to them. memory: of earlier calls, which saves fitting again.
DrawnInk drawn_ink(const std::vector<Stroke>& strokes, bool all_drawn = false, const std::vector<Shape>& known = {},
                   ShapeMemory* memory = nullptr);

// What is written, parted by the figures that enclose it, for a label is read by itself: what stands in none first,
// then what stands in each; in the smallest of several.
std::vector<std::vector<Stroke>> parted_by_figures(const std::vector<Stroke>& writing,
                                                   const std::vector<Shape>& figures);

}  // namespace fernleaf
