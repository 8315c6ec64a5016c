// Opens the library before there is a window. One that an earlier release made is brought up to date first: should that
// take a while, a small window tells how far it is, and lets the person stop it.
#pragma once

#include <filesystem>
#include <memory>

#include "store/library.h"

namespace fernleaf {

// UI thread only; returns when the library is open or can't be opened. Errors are Library::open's.
Result<std::unique_ptr<Library>> open_library(const std::filesystem::path& directory);

}  // namespace fernleaf
