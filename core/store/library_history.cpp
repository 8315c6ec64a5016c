// Earlier states of a page, worked out backwards from what is on it now: elements are kept when they are taken off a
// page, and every edit tells which came and which went.
#include <algorithm>
#include <unordered_set>

#include "store/library.h"
#include "store/records.h"

namespace fernleaf {

Result<std::vector<PageMoment>> Library::history(PageId page) const {
    const Turn turn(mutex_, db_);
    std::vector<PageMoment> out;
    Statement s = db_->prepare("SELECT id, label, made FROM edit WHERE page = ? AND undone = 0 ORDER BY id");
    s.bind(page);
    while (s.step()) out.push_back({s.integer(0), s.text(1), s.integer(2)});
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<Page> Library::page_after(PageId id, int64_t edit_id) const {
    const Turn turn(mutex_, db_);
    auto page = load_page_locked(id);
    if (!page) return page.error();
    const std::vector<ElementId> now = ids_of(*page);
    std::unordered_set<ElementId> there(now.begin(), now.end()), told;  // told: an edit brought it
    int64_t until_ms = INT64_MAX;
    Statement s =
        db_->prepare("SELECT " + listed(kEditRow) + " FROM edit WHERE page = ? AND undone = 0 ORDER BY id DESC");
    s.bind(id);
    while (s.step()) {
        const auto edit = edit_at(s);
        if (!edit) return Error{"An edit of this page is damaged, so its earlier states can't be shown."};
        told.insert(edit->added.begin(), edit->added.end());
        if (edit->id <= edit_id) continue;
        until_ms = std::min(until_ms, s.integer(5));
        for (const ElementId added : edit->added) there.erase(added);
        there.insert(edit->removed.begin(), edit->removed.end());
        if (edit->sheet) static_cast<Sheet&>(page->info) = edit->sheet->before;
    }
    if (Status status = db_->take_status(); !status) return status.error();
    // What a pen brought is no step of undo: it is there from when it was written.
    for (const Stroke& stroke : page->strokes)
        if (!told.contains(stroke.id) && stroke.start_ms >= until_ms) there.erase(stroke.id);
    std::vector<ElementId> gone;
    for (const ElementId element : there)
        if (std::ranges::find(now, element) == now.end()) gone.push_back(element);
    for_each_list(static_cast<Elements&>(*page),
                  [&](auto& list) { std::erase_if(list, [&](const auto& e) { return !there.contains(e.id); }); });
    insert(*page, listed_elements(gone));
    return page;
}

}  // namespace fernleaf
