// Takes pages out of a library, in the format that the file's ending names.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/cancel.h"
#include "store/library.h"

namespace fernleaf {

// ".pdf", ".txt", ".inkml"; of one page ".png" and ".svg"; of the diagrams on the pages ".dot", ".mmd" (Mermaid),
// ".graphml", ".opml", of their tables ".csv" and of their formulas ".tex".
const std::vector<std::string>& export_endings();

// What of drawings is taken away: what stands on the page, the ink they were drawn with, or shapes drawn fair.
enum class DrawingsAs { they_are, drawn, fair };

// Writes the pages in the order given. The file appears whole or not at all. For PDF see write_pdf's needs.
Status export_pages(const Library& library, const std::vector<PageId>& pages, const std::filesystem::path& path,
                    DrawingsAs drawings = DrawingsAs::they_are, const CancelToken& cancel = {},
                    const Progress& progress = {});

}  // namespace fernleaf
