// What the stand-in writes: pages of InkML, stroke by stroke as they were written.
#pragma once

#include <filesystem>
#include <vector>

#include "base/result.h"
#include "capture/captured_stroke.h"

namespace fernleaf {

struct WrittenStroke {
    PageAddress address;
    std::vector<CapturedPoint> points;
    int64_t pause_ms = 0;  // between the stroke before and this one
};

// The canvases of a file go to the addresses they name; those that name none to this one and the pages after it.
// Strokes are parted where they have more points than one may have.
Result<std::vector<WrittenStroke>> written_pages(const std::filesystem::path& inkml, PageAddress first);

// "2.5.17": kind of paper, notebook and page.
Result<PageAddress> page_address(const std::string& text);

}  // namespace fernleaf
