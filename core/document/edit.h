// Every change to a page is an edit: a value that can be applied, reversed and kept.
//
//   Edit edit{"Erase", {}, {{stroke}}};   // nothing added, one stroke removed
//   apply(page, edit);
//   apply(page, edit.reversed());
#pragma once

#include <optional>
#include <string>
#include <unordered_map>
#include <vector>

#include "document/correction.h"
#include "document/page.h"

namespace fernleaf {

struct SheetChange {
    Sheet before;
    Sheet after;
};

// JSON, as libraries keep it.
std::string encode_sheet_change(const SheetChange& change);
Result<SheetChange> decode_sheet_change(const std::string& json);

// What an edit moved to a page made for it, the next one. Taking the edit back puts that page into the bin.
struct PageOverflow {
    PageId page = 0;  // 0: not made yet
    Elements content = {};
    Replacements replacements = {};  // (id on the first page, id on this one)
};

// Elements keep their ids for good: removing and bringing back is a matter of being on the page or not.
struct Edit {
    std::string label;  // "Write", "Erase": what undo offers to take back
    Elements added = {};
    Elements removed = {};
    // Strokes added that are removed ones in another place or form: what a person said of those holds for these.
    Replacements replacements = {};
    std::optional<SheetChange> sheet = {};
    std::optional<PageOverflow> overflow = {};
    std::vector<Correction> corrections_added = {};
    std::vector<Correction> corrections_removed = {};

    Edit reversed() const {
        return {label,
                removed,
                added,
                {},
                sheet ? std::optional(SheetChange{sheet->after, sheet->before}) : sheet,
                overflow,
                corrections_removed,
                corrections_added};
    }
};

// One edit that does what two do after one another; its label is the first one's. At most one of them may move
// something to a page of its own.
Edit joined(Edit first, const Edit& second);

// Elements brought back return to their place among the others (z_less).
void apply(Page& page, const Edit& edit);

// The same edit with other ids (old, new) for what it adds.
void renumber(Edit& edit, const std::unordered_map<ElementId, ElementId>& ids);

// What makes one state of a page another; elements are told apart by their ids.
Edit difference(const Page& from, const Page& to, std::string label);

// What an edit touches, mm.
Box touched_by(const Edit& edit);

}  // namespace fernleaf
