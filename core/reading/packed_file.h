// Files compressed with gzip, as the reader's data comes.
#pragma once

#include <filesystem>
#include <string>

#include "base/result.h"

namespace fernleaf {

// The unpacked contents; a file that is not compressed is taken as it is. Fails when the file is missing, cut off, or
// unpacks to more than 200 MB.
Result<std::string> read_packed(const std::filesystem::path& path);

}  // namespace fernleaf
