// Notebooks, and what their pages are read with.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "document/folder.h"
#include "document/sheet.h"
#include "document/working_manner.h"

namespace fernleaf {

using NotebookId = int64_t;
using HandId = int64_t;

// What is printed on a cover. As libraries keep them: numbers never change their meaning.
enum class CoverPattern { bands = 0, leaves = 1, rain = 2, rows = 3, rings = 4, hills = 5 };
constexpr CoverPattern kLastCoverPattern = CoverPattern::hills;

struct Notebook {
    NotebookId id = 0;
    std::string title;
    uint32_t cover = 0x2E6B4F;  // 0xRRGGBB
    CoverPattern cover_pattern = CoverPattern::bands;
    std::string cover_picture = {};            // a file of the library, instead of a pattern; empty: none
    std::vector<std::string> languages{"en"};  // ISO 639-1; a word may be of any of them
    Sheet sheet;                               // what new pages are
    double language_weight = 0.6;              // how far to lean on the languages: 0 literal to 1 strong
    HandId hand = 1;                           // whose writing it is
    WorkingManner working = {};                // of formulas
    FolderId folder = kNoFolder;               // set by Library::place_notebook()
    bool archived = false;                     // finished and read only; set by Library::archive_notebook()
    bool favourite = false;                    // set by Library::favour_notebook()
};

// What a notebook's pages are to be read with.
struct Preferences {
    std::vector<std::string> languages{"en"};
    double language_weight = 0.6;
    std::vector<std::string> words;  // the person's and the notebook's own
    std::string hand;                // as the reader has learnt it; empty: not taught
    WorkingManner working = {};
};

// A person's hand: what the reader has learnt of it, in brief.
struct HandInfo {
    HandId id = 0;
    std::string name;          // empty: the hand every library begins with
    size_t examples = 0;       // kept
    size_t learnt_from = 0;    // 0: not taught
    double errors_before = 0;  // characters of a hundred, in lines held back
    double errors_after = 0;
};

// Language codes as people write them in a row, "en, de", and back ("en,de").
std::vector<std::string> language_codes(const std::string& list);
std::string language_list(const std::vector<std::string>& codes);

}  // namespace fernleaf
