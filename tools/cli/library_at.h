// Libraries that commands work on.
#pragma once

#include <filesystem>
#include <memory>

#include "base/file.h"
#include "store/library.h"
#include "store/sealing.h"

namespace fernleaf {

// A library that is there already; commands that only look must not make one.
inline Result<std::unique_ptr<Library>> existing_library(const std::filesystem::path& directory) {
    std::error_code ignored;
    if (!std::filesystem::exists(directory, ignored) || std::filesystem::is_empty(directory, ignored))
        return Error{"There is no library in " + directory.string() + "."};
    return Library::open(directory);
}

inline Result<Notebook> notebook_titled(const Library& library, const std::string& title) {
    const auto notebooks = library.notebooks();
    if (!notebooks) return notebooks.error();
    for (const Notebook& n : *notebooks)
        if (n.title == title) return n;
    return Error{"There is no notebook \"" + title + "\" in this library."};
}

// Those with the numbers of a list such as "1-3,7"; of an empty one all.
inline Result<std::vector<PageId>> pages_numbered(const Library& library, const Notebook& notebook,
                                                  const std::vector<int>& numbers) {
    const auto infos = library.pages(notebook.id);
    if (!infos) return infos.error();
    std::vector<PageId> pages;
    if (numbers.empty())
        for (const PageInfo& info : *infos) pages.push_back(info.id);
    for (const int number : numbers) {
        if (number > static_cast<int>(infos->size()))
            return Error{"\"" + notebook.title + "\" has no page " + std::to_string(number) + "; it has " +
                         std::to_string(infos->size()) + "."};
        pages.push_back((*infos)[static_cast<size_t>(number - 1)].id);
    }
    return pages;
}

// The first line of a file; nothing for an empty path.
inline Result<std::optional<std::string>> passphrase_in(const std::filesystem::path& file) {
    if (file.empty()) return std::optional<std::string>();
    auto bytes = read_regular(file, 2 * kLongestPassphrase);
    if (!bytes) return bytes.error();
    std::string line = bytes->substr(0, bytes->find('\n'));
    if (line.ends_with('\r')) line.pop_back();
    if (line.empty()) return Error{file.string() + " holds no passphrase in its first line."};
    return std::optional(line);
}

}  // namespace fernleaf
