// Every change to a page is an edit: a value that can be applied, reversed and kept.
//
//   Edit edit{"Erase", {}, {{stroke}}};   // nothing added, one stroke removed
//   apply(page, edit);
//   apply(page, edit.reversed());
#pragma once

#include <optional>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include "page/page.h"

namespace fernleaf {

struct SheetChange {
    Sheet before;
    Sheet after;
};

// What an edit moved to a page made for it, the next one. Taking the edit back puts that page into the bin.
struct Flow {
    PageId page = 0;  // 0: not made yet
    Elements content = {};
    std::vector<std::pair<StrokeId, StrokeId>> followed = {};  // (id on the first page, id on this one)
};

// Elements keep their ids for good: removing and bringing back is a matter of being on the page or not.
struct Edit {
    std::string label;  // "Write", "Erase": what undo offers to take back
    Elements added = {};
    Elements removed = {};
    // Strokes added that are removed ones in another place or form (old id, new id): what a person said of those holds
    // for these.
    std::vector<std::pair<StrokeId, StrokeId>> followed = {};
    std::optional<SheetChange> sheet = {};
    std::optional<Flow> flow = {};
    std::vector<Correction> said = {};    // of what is written
    std::vector<Correction> unsaid = {};  // taken back

    Edit reversed() const {
        return {label, removed, added, {}, sheet ? std::optional(SheetChange{sheet->after, sheet->before}) : sheet,
                flow,  unsaid,  said};
    }
};

// One edit that does what two do after one another; its label is the first one's. At most one of them may move
// something to a page of its own.
Edit joined(Edit first, const Edit& second);

// Elements brought back return to their place among the others (lies_below).
void apply(Page& page, const Edit& edit);

// The same edit with other ids (old, new) for what it adds.
void renumber(Edit& edit, const std::unordered_map<int64_t, int64_t>& ids);

// The corrections of strokes that others follow (old id, new id), told of those; every stroke of a correction must be
// followed by one of the strokes given.
std::vector<Correction> followed_corrections(const std::vector<Correction>& corrections,
                                             const std::vector<std::pair<StrokeId, StrokeId>>& followed,
                                             const std::vector<Stroke>& strokes);

}  // namespace fernleaf
