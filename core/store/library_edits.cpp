// Elements and edits: what is put on pages and taken off them, and the way back.
#include <algorithm>
#include <set>

#include "base/now.h"
#include "store/codec.h"
#include "store/library.h"
#include "store/records.h"

namespace fernleaf {
namespace {

void put_sheet(Database& db, PageId page, const Sheet& s) {
    db.prepare(
          "UPDATE page SET width = ?, height = ?, paper = ?, spacing = ?, colour = ?, picture = ?, endless = ?, "
          "errands = ? WHERE "
          "id = ?")
        .bind(s.width_mm)
        .bind(s.height_mm)
        .bind(static_cast<int>(s.paper))
        .bind(s.spacing_mm)
        .bind(static_cast<int64_t>(s.colour))
        .bind(s.picture)
        .bind(s.endless ? 1 : 0)
        .bind(s.errands ? 1 : 0)
        .bind(page)
        .run();
}

}  // namespace

void Library::insert_elements(PageId page, Elements& elements) {
    Statement there = db_->prepare("SELECT 1 FROM element WHERE id = ?");
    Statement insert = db_->prepare(inserting(kElementRow)), back = db_->prepare(changing(kElementRow, "live"));
    Statement reference = db_->prepare("INSERT INTO file_ref (file, element) VALUES (?, ?)");
    for_each_element(elements, [&]<typename E>(E& e) {
        if (e.id == 0) {
            e.id = new_element_id();
        } else if (there.reset().bind(e.id).step()) {
            // On disk already, taken off the page by an earlier edit.
            back.reset().bind(1).bind(e.id).run();
            return;
        }
        e = ElementTraits<E>::as_kept(std::move(e));
        // An id of this device may come with an element; none after it is the same.
        if (device_of(e.id) == device_)
            for (ElementId next = next_element_;
                 next <= e.id && !next_element_.compare_exchange_weak(next, e.id + 1);) {
            }
        bind_row(insert.reset(), e, page, true).run();
        for (const std::string& file : ElementTraits<E>::files(e)) reference.reset().bind(file).bind(e.id).run();
    });
}

// Ids, and others for them, of elements whose id is another element's: then the lock did not hold, and another process
// gave the same ids.
std::unordered_map<ElementId, ElementId> Library::other_ids(PageId page, const Elements& elements) {
    std::vector<ElementId> taken;
    Statement s = db_->prepare("SELECT page, kind, body FROM element WHERE id = ?");
    for_each_element(elements, [&]<typename E>(const E& e) {
        using Traits = ElementTraits<E>;
        if (e.id == 0 || !s.reset().bind(e.id).step()) return;
        const bool same = s.integer(0) == page && s.integer(1) == static_cast<int64_t>(Traits::kKind) &&
                          s.blob(2) == Traits::encode(Traits::as_kept(e));
        if (!same) taken.push_back(e.id);
    });
    std::unordered_map<ElementId, ElementId> out;
    if (!taken.empty()) raise_ids();
    for (const ElementId id : taken) out[id] = new_element_id();
    return out;
}

void Library::set_live(const Elements& elements, bool live) {
    Statement s = db_->prepare(changing(kElementRow, "live"));
    for (const ElementId id : ids_of(elements)) s.reset().bind(live ? 1 : 0).bind(id).run();
}

// Those with these ids, in their order, on a page or not. Damaged ones are left out.
Elements Library::listed_elements(const std::vector<ElementId>& ids) const {
    Elements out;
    Statement s = db_->prepare("SELECT " + listed(kElementRow) + " FROM element WHERE id = ?");
    for (const ElementId id : ids)
        if (s.reset().bind(id).step()) static_cast<void>(element_at(s, out));
    return out;
}

// An error when it is in the archive.
Status Library::notebook_changeable(NotebookId notebook) const {
    Statement s = db_->prepare("SELECT 1 FROM notebook WHERE id = ? AND archived <> 0");
    if (s.bind(notebook).step()) return Error{"This notebook is archived. Take it out of the archive to change it."};
    return Done{};
}

Status Library::changeable(PageId page) const {
    Statement s = db_->prepare("SELECT notebook FROM page WHERE id = ?");
    return s.bind(page).step() ? notebook_changeable(s.integer(0)) : Status(Done{});
}

Status Library::commit(PageId page, Edit& edit, bool* renewed) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (Status may = changeable(page); !may) return may;
    if (const auto why = validation_error(edit.added)) return Error{*why};
    Transaction transaction(*db_);
    auto others = other_ids(page, edit.added);
    if (edit.overflow) others.merge(other_ids(edit.overflow->page, edit.overflow->content));
    if (!others.empty()) fernleaf::renumber(edit, others);
    if (renewed) *renewed = !others.empty();
    insert_elements(page, edit.added);
    count_written(page, edit.added.strokes, edit.removed.strokes);
    set_live(edit.removed, false);
    if (edit.sheet) put_sheet(*db_, page, edit.sheet->after);
    if (!edit.replacements.empty())
        for (const Correction& c : replaced_corrections(load_corrections(page), edit.replacements, edit.added.strokes))
            insert_correction(page, c);
    if (edit.overflow) insert_overflow(page, *edit.overflow);
    std::vector<int64_t> corrections;
    for (const Correction& c : edit.corrections_added) corrections.push_back(insert_correction(page, c));
    db_->prepare("DELETE FROM edit WHERE page = ? AND undone = 1").bind(page).run();
    Statement insert = db_->prepare(inserting(kEditRow));
    insert.bind_none().bind(page).bind(edit.label).bind(0).bind(new_element_id()).bind(now_ms());
    insert.bind(operations_of(edit, corrections)).run();
    mark_unread(page);
    return transaction.commit();
}

Result<std::vector<PageId>> Library::add_filled_pages(NotebookId notebook, std::vector<FilledPage>& pages) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    for (const FilledPage& page : pages)
        if (const auto why = validation_error(page.content)) return Error{*why};
    if (Status may = notebook_changeable(notebook); !may) return may.error();
    std::vector<PageId> ids;
    Transaction transaction(*db_);
    for (FilledPage& page : pages) {
        ids.push_back(insert_page(notebook, page.info));
        // They are new, whatever ids they bear.
        Edit added{{}, std::move(page.content)};
        if (const auto others = other_ids(ids.back(), added.added); !others.empty()) fernleaf::renumber(added, others);
        page.content = std::move(added.added);
        insert_elements(ids.back(), page.content);
        count_written(ids.back(), page.content.strokes);
        mark_unread(ids.back());
    }
    if (Status status = transaction.commit(); !status) return status.error();
    return ids;
}

Result<std::optional<Edit>> Library::undo(PageId page) { return step(page, false); }
Result<std::optional<Edit>> Library::redo(PageId page) { return step(page, true); }

Result<std::optional<Edit>> Library::step(PageId page, bool forward) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (Status may = changeable(page); !may) return may.error();
    Transaction transaction(*db_);
    Edit edit;
    EditRow row;
    {
        // Undo takes the newest edit, redo the oldest of those undone.
        Statement s = db_->prepare("SELECT " + listed(kEditRow) + " FROM edit " +
                                   (forward ? "WHERE page = ? AND undone = 1 ORDER BY id LIMIT 1"
                                            : "WHERE page = ? AND undone = 0 ORDER BY id DESC LIMIT 1"));
        if (!s.bind(page).step()) {
            if (Status status = db_->take_status(); !status) return status.error();
            return std::optional<Edit>();
        }
        auto kept = edit_at(s);
        if (!kept)
            return Error{
                "The last step is damaged in the library and can't be undone. To repair the library, close Fernleaf "
                "and run fernleaf-cli check --repair --library " +
                directory_.string() + "."};
        row = *std::move(kept);
    }
    edit.label = row.label;
    edit.added = listed_elements(row.added);
    edit.removed = listed_elements(row.removed);
    edit.sheet = row.sheet;
    if (row.page_added != 0) edit.overflow = PageOverflow{row.page_added};
    Statement corrected = db_->prepare("SELECT " + listed(kCorrectionRow) + " FROM correction WHERE id = ?");
    for (const int64_t id : row.corrections)
        if (corrected.reset().bind(id).step())
            if (auto correction = correction_at(corrected)) edit.corrections_added.push_back(*std::move(correction));
    Statement live = db_->prepare(changing(kCorrectionRow, "live"));
    for (const int64_t id : row.corrections) live.reset().bind(forward ? 1 : 0).bind(id).run();
    if (!forward) edit = edit.reversed();
    set_live(edit.added, true);
    set_live(edit.removed, false);
    if (edit.sheet) put_sheet(*db_, page, edit.sheet->after);
    if (edit.overflow) put_page_away(edit.overflow->page, !forward);
    db_->prepare(changing(kEditRow, "undone")).bind(forward ? 0 : 1).bind(row.id).run();
    mark_unread(page);
    if (Status status = transaction.commit(); !status) return status.error();
    return std::optional(std::move(edit));
}

Result<UndoState> Library::undo_state(PageId page) const {
    const Turn turn(mutex_, db_);
    UndoState steps;
    Statement undo = db_->prepare("SELECT label FROM edit WHERE page = ? AND undone = 0 ORDER BY id DESC LIMIT 1");
    if (undo.bind(page).step()) steps.undo = undo.text(0);
    Statement redo = db_->prepare("SELECT label FROM edit WHERE page = ? AND undone = 1 ORDER BY id LIMIT 1");
    if (redo.bind(page).step()) steps.redo = redo.text(0);
    if (Status status = db_->take_status(); !status) return status.error();
    return steps;
}

Result<std::vector<TextBlock>> Library::former_text_blocks(PageId page, const std::vector<StrokeId>& ink) const {
    const Turn turn(mutex_, db_);
    const std::set<StrokeId> wanted(ink.begin(), ink.end());
    std::vector<TextBlock> out;
    Statement s = db_->prepare("SELECT " + listed(kElementRow) +
                               " FROM element WHERE page = ? AND live = 0 AND kind = ? ORDER BY id & ? DESC");
    s.bind(page).bind(static_cast<int>(ElementKind::text)).bind(kMostCounted);
    Elements former;
    while (s.step()) static_cast<void>(element_at(s, former));
    for (TextBlock& text : former.texts)
        if (std::ranges::any_of(text.ink, [&](StrokeId id) { return wanted.contains(id); }))
            out.push_back(std::move(text));
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<std::vector<Stroke>> Library::strokes(const std::vector<StrokeId>& ids) const {
    const Turn turn(mutex_, db_);
    Elements found = listed_elements(ids);
    if (Status status = db_->take_status(); !status) return status.error();
    return std::move(found.strokes);
}

}  // namespace fernleaf
