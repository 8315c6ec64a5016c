// Files that are written whole or not at all.
#pragma once

#include <filesystem>
#include <string_view>

#include "base/result.h"

namespace fernleaf {

// Writes beside the target and renames, so that whatever stood there before stays until the new content is safe on
// disk.
Status write_whole(const std::filesystem::path& path, std::string_view bytes);

}  // namespace fernleaf
