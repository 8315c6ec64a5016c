// Every change to a page is an edit: a value that can be applied, reversed and kept.
//
//   Edit edit{"Erase", {}, {stroke}};   // nothing added, one stroke removed
//   apply(page, edit);
//   apply(page, edit.reversed());
#pragma once

#include <string>
#include <utility>
#include <vector>

#include "page/page.h"

namespace fernleaf {

// Elements keep their ids for good: removing and bringing back is a matter of being on the page or not.
struct Edit {
    std::string label;  // "Write", "Erase": what undo offers to take back
    std::vector<Stroke> added;
    std::vector<Stroke> removed;
    std::vector<Picture> pictures_added;
    std::vector<Picture> pictures_removed;
    // Strokes added that are removed ones in another place or form (old id, new id): what a person said of those holds
    // for these.
    std::vector<std::pair<StrokeId, StrokeId>> followed = {};

    Edit reversed() const { return {label, removed, added, pictures_removed, pictures_added, {}}; }
};

// Strokes brought back return to their place among the others (lies_below).
void apply(Page& page, const Edit& edit);

// The corrections of followed strokes, told of those that follow them.
std::vector<Correction> followed_corrections(const std::vector<Correction>& corrections, const Edit& edit);

}  // namespace fernleaf
