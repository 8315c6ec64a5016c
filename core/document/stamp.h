// A kept piece, to be placed again on any page.
#pragma once

#include <cstdint>
#include <string>

#include "document/elements.h"

namespace fernleaf {

using StampId = int64_t;

struct Stamp {
    StampId id = 0;  // 0: not kept yet
    std::string name;
    Elements content = {};  // without ids, anywhere
};

}  // namespace fernleaf
