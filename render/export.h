// Takes pages out of a library, in the format that the file's ending names.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "base/cancel.h"
#include "store/library.h"

namespace fernleaf {

// ".pdf", ".txt", ".inkml"; and of the diagrams on the pages ".dot", ".mmd" (Mermaid) and ".graphml".
const std::vector<std::string>& export_endings();

// Writes the pages in the order given. The file appears whole or not at all. For PDF see write_pdf's needs.
Status export_pages(const Library& library, const std::vector<PageId>& pages, const std::filesystem::path& path,
                    const CancelToken& cancel = {}, const Progress& progress = {});

}  // namespace fernleaf
