// How elements keep what has become of them since they were made from ink.
#pragma once

#include "base/json.h"
#include "ink/selecting.h"

namespace fernleaf {

inline Json json_of(const Affine& a) { return {a.xx, a.xy, a.dx, a.yx, a.yy, a.dy}; }
inline Affine affine_from(const Json& j) { return {j.at(0), j.at(1), j.at(2), j.at(3), j.at(4), j.at(5)}; }

}  // namespace fernleaf
