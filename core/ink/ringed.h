// Letters with a ring drawn around them.
//
//   for (const Ringed& r : ringed_in(strokes)) ...   // strokes[r.ring] around strokes[i] for i in r.inside
//
// Method: a ring (ink/sign) hardly larger than a written line that holds one to three strokes whole, fills most of
// itself with them, and cuts no other ink.
#pragma once

#include <vector>

#include "ink/stroke.h"

namespace fernleaf {

struct Ringed {
    size_t ring = 0;             // index into the strokes given
    std::vector<size_t> inside;  // from left to right
};

std::vector<Ringed> ringed_in(const std::vector<Stroke>& strokes);

}  // namespace fernleaf
