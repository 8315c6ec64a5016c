// What a pen leaves at each point of its path: how wide, and how dark.
//
//   std::vector<NibMark> marks = nib_marks(stroke.pen, stroke.points);   // one for each point
#pragma once

#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

struct NibMark {
    double width_mm = 0;
    double darkness = 1;  // 0 to 1, besides the pen's own opacity
};

std::vector<NibMark> nib_marks(const Pen& pen, const std::vector<InkPoint>& points);

// The widest mark the pen can make, mm.
double widest_mark(const Pen& pen);

}  // namespace fernleaf
