// Pages as PDF: ink as vector outlines, pictures as they are, and the reading as invisible text at the words' places,
// so that the file can be searched and its text copied in any viewer.
#pragma once

#include <filesystem>
#include <vector>

#include "base/cancel.h"
#include "base/result.h"
#include "document/file_source.h"
#include "document/page.h"
#include "transcript/reading.h"

namespace fernleaf {

struct PageWithReading {
    Page page;
    Reading reading;
};

// Needs a QGuiApplication (the offscreen platform will do) and load_fonts(). Safe on a worker thread. The file appears
// whole or not at all; a cancelled export is an error and leaves no file.
Status write_pdf(const std::filesystem::path& path, const std::vector<PageWithReading>& pages, const FileSource& files,
                 const std::string& title, const CancelToken& cancel = {}, const Progress& progress = {});

}  // namespace fernleaf
