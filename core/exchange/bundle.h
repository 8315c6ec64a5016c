// A notebook as one open file, to be kept or passed on, and brought into a library again without loss: a zip archive
// (docs/formats.md), sealed with a passphrase where that is wished.
//
//   Status written = write_bundle(library, notebook, "Frost watch.fernleaf");
//   auto brought = add_bundle(other_library, "Frost watch.fernleaf");
//
// What a bundle says is not trusted: names in it lead nowhere, and sizes are bounded.
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/cancel.h"
#include "store/library.h"

namespace fernleaf {

struct BroughtBundle {
    NotebookId notebook = 0;
    std::vector<PageId> pages;  // to be read
};

// Whether the file's content says that it is one, sealed or not. Reads its beginning only.
bool is_bundle(const std::filesystem::path& path);
bool is_sealed_bundle(const std::filesystem::path& path);

// All pages of a notebook, those it only shows too, their pictures, and the voice tracks heard while they were written.
// The file appears whole or not at all.
Status write_bundle(const Library& library, NotebookId notebook, const std::filesystem::path& path,
                    const std::optional<std::string>& passphrase = {}, const CancelToken& cancel = {},
                    const Progress& progress = {});

// As a new notebook; title: instead of its own. A bundle that is damaged anywhere, or is cancelled, leaves nothing
// behind but what the bin's next emptying takes.
Result<BroughtBundle> add_bundle(Library& library, const std::filesystem::path& path, const std::string& title = {},
                                 const std::optional<std::string>& passphrase = {}, const CancelToken& cancel = {},
                                 const Progress& progress = {});

}  // namespace fernleaf
