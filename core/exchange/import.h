// Brings files into a library: InkML and UNIPEN become ink, the sheets found in pictures and the pages of PDFs become
// pages with that picture, graphs and tables become fair drawings (whose words the caller lays out, for that needs
// fonts: render/text_look.h).
//
//   auto source = read_source("walk.inkml", PictureUse::sheets);
//   auto pages = add_source(library, notebook, *std::move(source));
//
// A file arrives whole or not at all, and is known by its content, not by its name.
#pragma once

#include <algorithm>
#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "base/cancel.h"
#include "base/result.h"
#include "capture/captured_stroke.h"
#include "paper/upright.h"
#include "store/library.h"

namespace fernleaf {

// Pages as they stand in a file, before they are in a library: their pictures name no file yet, only its frame.
struct SourceFile {
    struct Pixels {
        int width = 0, height = 0;
    };
    std::vector<FilledPage> pages;
    std::vector<Pixels> pixels;                              // of the picture that each page was found in; none for ink
    std::vector<Faults> faults;                              // of the sheets in it, likewise
    std::vector<std::optional<PageAddress>> addresses = {};  // of pages of addressed paper; empty where none is
    std::string captured_as = {};                            // tells this file's captures from all others
    std::string picture_bytes;  // of the file the pages' pictures are frames of; empty for ink

    // Whether all of it goes to the notebooks of its addresses, and no other is needed.
    bool all_addressed() const {
        return !addresses.empty() && std::ranges::all_of(addresses, [](const auto& a) { return a.has_value(); });
    }
};

// What pictures in a file are: of sheets of paper, each a page of its own, or pictures to be shown as they are.
enum class PictureUse { sheets, as_they_are };

constexpr std::uintmax_t kLargestSourceBytes = 512'000'000;

// What a file holds. Fails with one sentence, which names the file. upright: asked for each sheet; none: sheets stay as
// they lie.
Result<SourceFile> read_source(const std::filesystem::path& path, PictureUse use, const CancelToken& cancel = {},
                               const Progress& progress = {}, const FindUpright& upright = {});

// Has the pages of a PDF drawn with so many dots an inch, kLeastDpi to kMostDpi. Other files stay as they are.
void set_resolution(SourceFile& source, int dpi);

// Adds pages at a notebook's end; ink on addressed paper goes onto the pages of its addresses, as if a pen had brought
// it. A file whose captures are in the library already is an error.
Result<std::vector<PageId>> add_source(Library& library, NotebookId notebook, SourceFile source);

}  // namespace fernleaf
