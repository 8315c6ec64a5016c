// Lines and waves drawn under writing, for emphasis.
//
//   for (const Underline& u : underlines_in(strokes)) ...   // strokes[u.stroke], under strokes[i] for i in u.over
//
// Method: an underline is a level line or wave (ink/sign) with writing standing on it along most of its length: the
// feet of the strokes above it, ranked, lie about it, and hardly any ink lies as near below it, as under a fraction's
// bar. How many words keep their emphasis, and how many get one they have not, is measured by bench/desk_bench.
#pragma once

#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

struct Underline {
    size_t stroke = 0;         // index into the strokes given
    bool wave = false;         // else straight
    std::vector<size_t> over;  // the strokes that stand on it
};

std::vector<Underline> underlines_in(const std::vector<Stroke>& strokes);

}  // namespace fernleaf
