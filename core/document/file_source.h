// Where the files come from that elements name.
#pragma once

#include <functional>
#include <string>

#include "base/result.h"

namespace fernleaf {

// Gives the bytes of a file by its hash.
using FileSource = std::function<Result<std::string>(const std::string& hash)>;

}  // namespace fernleaf
