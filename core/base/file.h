// Files that are written whole or not at all.
#pragma once

#include <cstdint>
#include <filesystem>
#include <string>
#include <string_view>

#include "base/result.h"

namespace fernleaf {

// Writes beside the target and renames, so that whatever stood there before stays until the new content is safe on
// disk; its name is on disk, too, when this returns.
Status write_whole(const std::filesystem::path& path, std::string_view bytes);

// Has the names in a directory on disk: what was made, renamed or removed there.
Status keep_names(const std::filesystem::path& directory);

// What a regular file holds. Nothing else is opened: neither a link's target, nor a pipe, which could wait for ever.
// most_bytes: a larger one is an error.
Result<std::string> read_regular(const std::filesystem::path& path, uintmax_t most_bytes);

}  // namespace fernleaf
