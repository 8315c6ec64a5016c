// Folders hold notebooks and other folders.
#pragma once

#include <cstdint>
#include <string>

namespace fernleaf {

using FolderId = int64_t;

constexpr FolderId kNoFolder = 0;  // where notebooks are that are in none

struct Folder {
    FolderId id = 0;
    std::string title;
    FolderId parent = kNoFolder;
    friend bool operator==(const Folder&, const Folder&) = default;
};

}  // namespace fernleaf
