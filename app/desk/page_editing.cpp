#include "desk/page_editing.h"

#include <algorithm>
#include <unordered_map>

#include "desk/text_of.h"
#include "drawing/links.h"
#include "drawing/words_within.h"
#include "render/text_look.h"

namespace fernleaf {
namespace {

constexpr double kDividerMarginMm = 12;  // from its ends to the page's edges
constexpr size_t kNewColumns = 3, kNewRows = 4;
constexpr double kNewRowMm = 9;

// How far down the page something stands, mm.
double foot_of(const Page& page) { return page.empty() ? 0 : std::max(0.0, drawn_box(page).bottom); }

}  // namespace

PageEditing::PageEditing(Library& library, Worker& disk, PageDocument& document, ReadingScheduler& readings,
                         CommitQueue& queue, Messages& messages, QObject* parent)
    : QObject(parent),
      library_(library),
      disk_(disk),
      document_(document),
      readings_(readings),
      queue_(queue),
      messages_(messages) {
    connect(&queue_, &CommitQueue::refused, this, &PageEditing::take_back);
    connect(&queue_, &CommitQueue::renewed, this, [this](PageId page) {
        if (document_.is_open(page)) emit page_wanted(page);
    });
    connect(&queue_, &CommitQueue::overflowed, this, [this](PageId from, const PageOverflow& overflow) {
        if (document_.is_open(from)) document_.count_added_page();
        messages_.tell(tr("What no longer fits is on the next page."));
        emit page_overflowed(overflow.page);
    });
    connect(&queue_, &CommitQueue::all_saved, this, [this] { messages_.tell(tr("All changes are saved.")); });
}

bool PageEditing::may_change() {
    const auto why = library_.why_read_only();
    if (why) messages_.tell_problem(QString::fromStdString(*why));
    return !why;
}

bool PageEditing::may_change_page() {
    if (!may_change()) return false;
    const bool archived = document_.page() && document_.notebook().archived;
    if (archived) messages_.tell_problem(tr("This notebook is archived. Take it out of the archive to change it."));
    return !archived;
}

StrokeId PageEditing::write(Stroke stroke) {
    if (!document_.page() || stroke.points.empty() || !may_change_page()) return 0;
    const StrokeId id = stroke.id = new_id();
    commit({"Write", {{stroke}}});
    emit written(stroke);
    return id;
}

void PageEditing::change(Edit edit) {
    if (!document_.page() || !may_change_page()) return;
    fit_words(edit, *document_.page(), lay_out, [this] { return new_id(); });
    hold_links(edit, *document_.page(), readings_.reading(), [this] { return new_id(); });
    readings_.add_corrections(replaced_corrections(readings_.corrections(), edit.replacements, edit.added.strokes));
    commit(std::move(edit));
}

void PageEditing::commit(Edit edit) {
    // What could never be kept is not shown either; all else that fails later is the disk's doing, and is tried again.
    if (const auto why = validation_error(edit.added)) return messages_.tell_problem(QString::fromStdString(*why));
    show(edit);
    document_.set_undo_state({edit.label, {}});
    queue_.push(document_.page()->info.id, std::move(edit));
}

void PageEditing::show(const Edit& edit) {
    document_.apply(edit);
    readings_.follow(edit);
}

// A change that can never be kept is not shown as if it were; what came before and after it stays.
void PageEditing::take_back(PageId page, const Edit& edit, const Error& why) {
    if (document_.is_open(page)) {
        show(edit.reversed());
        disk_.ask(
            this, [this, page] { return library_.undo_state(page); },
            [this, page](const Result<UndoState>& state) {
                if (state && document_.is_open(page)) document_.set_undo_state(*state);
            });
    }
    messages_.tell_problem(tr("The last change could not be saved and was undone. %1").arg(text_of(why)));
}

void PageEditing::change_and_tell(Edit edit, const QString& did) {
    const int before = document_.edition();
    change(std::move(edit));
    if (document_.edition() == before) return;
    messages_.tell_undoable(did, [this, made = document_.edition()] {
        if (document_.edition() == made)
            undo();
        else
            messages_.tell(tr("You have made other changes since. Undo takes them back one at a time."));
    });
}

void PageEditing::bring(const std::vector<Stroke>& strokes) {
    Edit edit{"Capture", {{strokes}}};
    // The page may have been loaded with them.
    std::erase_if(edit.added.strokes, [&](const Stroke& s) {
        return std::ranges::find(document_.page()->strokes, s.id, &Stroke::id) != document_.page()->strokes.end();
    });
    if (!edit.added.empty()) show(edit);
}

void PageEditing::clear_page() {
    const Page* page = document_.page();
    if (page && !page->strokes.empty()) change({"Clear the page", {}, {page->strokes}});
}

void PageEditing::change_sheet(const Sheet& sheet) {
    const Page* page = document_.page();
    if (!page || !may_change_page() || sheet == static_cast<const Sheet&>(page->info)) return;
    Edit edit{"Change the paper"};
    edit.sheet = SheetChange{page->info, sheet};
    change(std::move(edit));
}

void PageEditing::add(Elements elements, const char* label) { change_and_choose({label, std::move(elements)}); }

void PageEditing::change_and_choose(Edit edit) {
    const std::vector<ElementId> ids = ids_of(edit.added);
    change(std::move(edit));
    emit added(ids);
}

void PageEditing::put(Result<Elements> elements, Point middle, PageId page, const char* label,
                      std::optional<InkClass> kind) {
    if (!document_.is_open(page)) return;
    if (!elements)
        return messages_.tell_problem(tr("What was copied can't be put here: %1").arg(text_of(elements.error())));
    const Box box = drawn_box(*elements);
    if (box.empty()) return messages_.tell(tr("There is nothing to paste."));
    Elements put = transformed(*std::move(elements), Affine::shift(middle - box.centre()));
    for_each_element(put, [&]<typename E>(E& e) {
        e.id = new_id();
        // What it was made from is on the page it was copied from.
        if (std::vector<ElementId>* ink = ElementTraits<E>::made_from(e)) ink->clear();
        if constexpr (FromInk<E>) e.transform_since_set = {};
    });
    renew_groups(put, [this] { return new_id(); });
    std::unordered_map<int64_t, int64_t> keys;
    for (FairShape& s : put.shapes) {
        if (s.key != 0) s.key = keys[s.key] = s.id;
    }
    // Copies are linked with one another, not with what they were copied from.
    for (FairShape& s : put.shapes)
        for (LinkEnd* end : {&s.from, &s.to})
            if (const auto copy = keys.find(end->figure); copy != keys.end())
                end->figure = copy->second;
            else
                *end = {};
    for (TextBlock& t : put.texts) lay_out(t);
    Edit edit{label, std::move(put)};
    if (kind && !edit.added.strokes.empty()) edit.corrections_added = {said_to_be(edit.added.strokes, *kind)};
    change_and_choose(std::move(edit));
}

void PageEditing::add_table() {
    const Page* page = document_.page();
    if (!page || !may_change_page()) return;
    const Sheet& sheet = page->info;
    FairTable table;
    table.id = new_id();
    table.columns_mm.assign(kNewColumns, std::max(kLeastCellMm, (sheet.width_mm - 2 * kDividerMarginMm) / kNewColumns));
    table.rows_mm.assign(kNewRows, kNewRowMm);
    table.head = true;
    const double lowest = sheet.endless
                              ? foot_of(*page) + sheet.spacing_mm
                              : std::min(foot_of(*page) + sheet.spacing_mm, sheet.height_mm - kNewRows * kNewRowMm);
    table.at = {kDividerMarginMm, std::max(0.0, lowest)};
    add({.tables = {table}}, "Insert a table");
}

void PageEditing::add_divider() {
    const Page* page = document_.page();
    if (!page || !may_change_page()) return;
    const Sheet& sheet = page->info;
    const double foot = foot_of(*page);
    Divider rule;
    rule.id = new_id();
    rule.length_mm = std::max(kLeastDividerMm, sheet.width_mm - 2 * kDividerMarginMm);
    rule.middle = {sheet.width_mm / 2, std::min(foot + sheet.spacing_mm, sheet.height_mm - sheet.spacing_mm)};
    add({{}, {}, {}, {rule}}, "Insert a divider");
}

void PageEditing::step(bool forward) {
    if (!document_.page()) return;
    if (queue_.has_unsaved())
        return messages_.tell_problem(
            tr("Nothing can be undone until the last changes are saved. Free some disk space."));
    struct Stepped {
        std::optional<Edit> edit;
        UndoState state;
    };
    const PageId id = document_.page()->info.id;
    disk_.ask(
        this,
        [this, id, forward]() -> Result<Stepped> {
            auto edit = forward ? library_.redo(id) : library_.undo(id);
            if (!edit) return edit.error();
            const auto state = library_.undo_state(id);
            if (!state) return state.error();
            return Stepped{*std::move(edit), *state};
        },
        [this, id](Result<Stepped>& stepped) {
            if (!stepped) return messages_.tell_problem(stepped.error());
            if (!document_.is_open(id) || !stepped->edit) return;
            show(*stepped->edit);
            document_.set_undo_state(stepped->state);
            if (stepped->edit->overflow) emit page_wanted(id);  // how many pages there are has changed
        });
}

}  // namespace fernleaf
