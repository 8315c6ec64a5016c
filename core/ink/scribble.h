// Scribbling out: a zigzag drawn over ink in one go, to have it gone.
//
//   std::vector<StrokeId> out = scribbled_out(stroke, page.strokes);   // empty: it is writing like any other
//
// Method: along its main axis (principal component) a scribble runs forth and back at least kTraverses times over most
// of its length, which no letter does; and it covers ink: a stroke is scribbled out when most of it lies within the
// scribble's convex hull. Hatching that fills an empty place or a drawn outline covers no stroke that far, and stays
// ink. How often it fires on ordinary writing is measured by bench/desk_bench.
#pragma once

#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

// The strokes that the newest one scribbles out, itself not among them. Strokes of a highlighter neither scribble nor
// are scribbled out.
std::vector<StrokeId> scribbled_out(const Stroke& newest, const std::vector<Stroke>& strokes);

// Whether a stroke has the form of a scribble, whatever lies under it.
bool is_scribble(const Stroke& stroke);

}  // namespace fernleaf
