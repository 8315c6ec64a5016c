// Libraries that commands work on.
#pragma once

#include <filesystem>
#include <memory>

#include "store/library.h"

namespace fernleaf {

// A library that is there already; commands that only look must not make one.
inline Result<std::unique_ptr<Library>> existing_library(const std::filesystem::path& directory) {
    std::error_code ignored;
    if (!std::filesystem::exists(directory, ignored) || std::filesystem::is_empty(directory, ignored))
        return Error{"There is no library in " + directory.string() + "."};
    return Library::open(directory);
}

}  // namespace fernleaf
