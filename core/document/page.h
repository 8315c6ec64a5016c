// The document: notebooks hold pages, pages hold elements. What a page says is in transcript/.
#pragma once

#include <cstdint>
#include <string>

#include "document/elements.h"
#include "document/notebook.h"
#include "document/sheet.h"

namespace fernleaf {

using PageId = int64_t;

struct PageInfo : Sheet {
    PageId id = 0;
    NotebookId notebook = 0;
    int number = 0;  // in the notebook, counted from 1
    int64_t created_ms = 0;
    std::string title = {};  // that the person gave it; empty: its first line
    bool favourite = false;
};

struct Page : Elements {
    PageInfo info;
    size_t damaged = 0;  // elements and corrections that can't be read from the library any more
};

// An endless sheet made long enough for what is on it, with room to go on.
void make_room_below(Page& page);
void make_room_below(PageInfo& sheet, const Elements& added);  // the same, when only these are new

}  // namespace fernleaf
