// Which strokes of a drawing belong together: a figure in one stroke or by its sides, a shaft with its head.
//
//   for (const ShapeGroup& group : grouped(pointers, memory)) ...   // what is in none is writing, or nothing known
//
// Method: what is a figure by itself stays one. The other strokes whose ends are near one another are tried together;
// each group costs one and what its ink lies off its shape, a stroke in none costs more than a group, and of all ways
// to take every stroke at most once the cheapest is sought (a beam search over strokes; in the spirit of Bresler, Průša
// & Hlaváč 2016, who solve the same choice as a max-sum problem). docs/drawings.md tells how often it is right.
#pragma once

#include <vector>

#include "drawing/shape_memory.h"

namespace fernleaf {

struct ShapeGroup {
    std::vector<size_t> strokes;  // indices into those given, ascending
    ShapeReading reading;         // with at least one candidate
};

// More strokes than this are hatching or a picture, in which no figures are looked for.
constexpr size_t kMostDrawnStrokes = 600;

constexpr double kSmallestGroupMm = 4;

// strokes: valid. No group for what is smaller than smallest_mm, such as dots and letters.
std::vector<ShapeGroup> grouped(const std::vector<const Stroke*>& strokes, ShapeMemory& memory,
                                double smallest_mm = kSmallestGroupMm);

}  // namespace fernleaf
