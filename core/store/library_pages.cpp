// Pages in their notebooks: order, copies, the bin and the way back.
#include <algorithm>
#include <functional>
#include <unordered_map>
#include <utility>

#include "base/now.h"
#include "document/elements.h"
#include "store/codec.h"
#include "store/library.h"
#include "store/records.h"

namespace fernleaf {

std::string Library::first_line_of(PageId page) const {
    Statement s = db_->prepare("SELECT first_line FROM page WHERE id = ?");
    return s.bind(page).step() ? s.text(0) : std::string();
}

// Numbers run from 1 without gaps; what is in the bin keeps the number it had.
void Library::renumber(NotebookId notebook) {
    std::vector<PageId> order;
    {
        Statement s = db_->prepare("SELECT id FROM page WHERE notebook = ? AND binned = 0 ORDER BY number, id");
        s.bind(notebook);
        while (s.step()) order.push_back(s.integer(0));
    }
    Statement set = db_->prepare("UPDATE page SET number = ? WHERE id = ?");
    for (size_t i = 0; i < order.size(); ++i) set.reset().bind(static_cast<int64_t>(i + 1)).bind(order[i]).run();
}

void Library::set_number(PageId page, NotebookId notebook, int number) {
    db_->prepare("UPDATE page SET number = number + 1 WHERE notebook = ? AND binned = 0 AND number >= ? AND id <> ?")
        .bind(notebook)
        .bind(number)
        .bind(page)
        .run();
    db_->prepare("UPDATE page SET notebook = ?, number = ? WHERE id = ?").bind(notebook).bind(number).bind(page).run();
}

Result<std::vector<PageId>> Library::show_in(NotebookId sheaf, const std::vector<PageId>& pages) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (Status may = notebook_changeable(sheaf); !may) return may.error();
    Transaction transaction(*db_);
    Statement add = db_->prepare(
        "INSERT OR IGNORE INTO sheaf_page (notebook, page, place) SELECT ?1, id, (SELECT 1 + ifnull(max(place), 0) "
        "FROM "
        "sheaf_page WHERE notebook = ?1) FROM page WHERE id = ?2 AND notebook <> ?1 AND binned = 0");
    std::vector<PageId> out;
    for (const PageId page : pages) {
        add.reset().bind(sheaf).bind(page).run();
        if (db_->changes() > 0) out.push_back(page);
    }
    if (Status status = transaction.commit(); !status) return status.error();
    return out;
}

Status Library::show_no_more(NotebookId sheaf, const std::vector<PageId>& pages) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (Status may = notebook_changeable(sheaf); !may) return may;
    Transaction transaction(*db_);
    Statement remove = db_->prepare("DELETE FROM sheaf_page WHERE notebook = ? AND page = ?");
    for (const PageId page : pages) remove.reset().bind(sheaf).bind(page).run();
    return transaction.commit();
}

// Of a page that a notebook only shows. False: it does not.
bool Library::place_in_sheaf(PageId page, NotebookId sheaf, int number) {
    Statement own = db_->prepare("SELECT count(*) FROM page WHERE notebook = ? AND binned = 0");
    const auto before = static_cast<size_t>(own.bind(sheaf).step() ? own.integer(0) : 0);
    std::vector<PageId> order;
    Statement shown = db_->prepare("SELECT page FROM sheaf_page WHERE notebook = ? ORDER BY place");
    shown.bind(sheaf);
    while (shown.step()) order.push_back(shown.integer(0));
    if (std::erase(order, page) == 0) return false;
    const auto wanted = static_cast<size_t>(std::max(number, 1)) - 1;
    const size_t at = std::min(order.size(), wanted > before ? wanted - before : 0);
    order.insert(order.begin() + static_cast<std::ptrdiff_t>(at), page);
    Statement place = db_->prepare("UPDATE sheaf_page SET place = ? WHERE notebook = ? AND page = ?");
    for (size_t i = 0; i < order.size(); ++i)
        place.reset().bind(static_cast<int64_t>(i) + 1).bind(sheaf).bind(order[i]).run();
    return true;
}

Status Library::move_page(PageId page, NotebookId notebook, int number) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (Status may = notebook_changeable(notebook); !may) return may;
    Transaction transaction(*db_);
    if (place_in_sheaf(page, notebook, number)) return transaction.commit();
    if (Status may = changeable(page); !may) return may;
    Statement from = db_->prepare("SELECT notebook FROM page WHERE id = ? AND binned = 0");
    if (!from.bind(page).step()) return Error{"That page is not in its notebook any more."};
    const NotebookId was = from.integer(0);
    // Out of the row first, so that the number means a place among the others.
    db_->prepare("UPDATE page SET binned = 1 WHERE id = ?").bind(page).run();
    renumber(was);
    set_number(page, notebook, number);
    db_->prepare("UPDATE page SET binned = 0 WHERE id = ?").bind(page).run();
    renumber(notebook);
    if (was != notebook) mark_unread(page);  // it is read in other languages now
    return transaction.commit();
}

Result<PageId> Library::copy_page(PageId page, NotebookId notebook, int number) {
    auto copy = take_copy(page);
    if (!copy) return copy.error();
    return add_copy(*std::move(copy), notebook, number);
}

Result<PageCopy> Library::take_copy(PageId page) const {
    const Turn turn(mutex_, db_);
    auto loaded = load_page_locked(page);
    if (!loaded) return loaded.error();
    PageCopy out{*std::move(loaded), {}, load_corrections(page), {}};
    std::vector<ElementId> sources;
    for_each_element(out.page, [&]<typename E>(E& e) {
        if (const std::vector<ElementId>* ink = ElementTraits<E>::made_from(e))
            sources.insert(sources.end(), ink->begin(), ink->end());
    });
    out.ink = listed_elements(sources);
    Statement tags = db_->prepare("SELECT t.name FROM tag t JOIN page_tag m ON m.tag = t.id WHERE m.page = ?");
    tags.bind(page);
    while (tags.step()) out.tags.push_back(tags.text(0));
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<PageId> Library::add_copy(PageCopy copy, NotebookId notebook, int number) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (Status may = notebook_changeable(notebook); !may) return may.error();
    for (const Elements* elements : {static_cast<const Elements*>(&copy.page), &std::as_const(copy.ink)})
        if (const auto why = validation_error(*elements)) return Error{*why};
    // The copies have ids of their own; what was said of the ink, and where type came from, is told of them.
    std::unordered_map<StrokeId, StrokeId> next;
    for (Elements* elements : {static_cast<Elements*>(&copy.page), &copy.ink})
        for (const auto& [before, after] : renew(*elements, [this] { return new_element_id(); })) next[before] = after;
    for_each_element(copy.page, [&]<typename E>(E& e) {
        if (std::vector<ElementId>* source = ElementTraits<E>::made_from(e))
            for (ElementId& s : *source) s = next[s];
    });
    Transaction transaction(*db_);
    const PageId id = insert_page(notebook, copy.page.info);
    Statement tag = db_->prepare("INSERT OR IGNORE INTO page_tag (page, tag) VALUES (?, ?)");
    for (const std::string& name : copy.tags) tag.reset().bind(id).bind(insert_tag(name)).run();
    insert_elements(id, copy.page);
    count_written(id, copy.page.strokes);
    insert_elements(id, copy.ink);
    set_live(copy.ink, false);
    mark_unread(id);
    for (Correction& c : copy.corrections) {
        if (!std::ranges::all_of(c.strokes, [&](StrokeId s) { return next.contains(s); })) continue;
        for (StrokeId& s : c.strokes) s = next[s];
        insert_correction(id, c);
    }
    set_number(id, notebook, number);
    renumber(notebook);
    if (Status status = transaction.commit(); !status) return status.error();
    return id;
}

void Library::put_page_away(PageId page, bool away) {
    Statement s = db_->prepare("SELECT notebook, number FROM page WHERE id = ? AND (binned = 0) = ?");
    if (!s.bind(page).bind(away ? 1 : 0).step()) return;  // somebody did so already
    const NotebookId notebook = s.integer(0);
    if (!away) set_number(page, notebook, static_cast<int>(s.integer(1)));
    db_->prepare("UPDATE page SET binned = ? WHERE id = ?").bind(away ? now_ms() : 0).bind(page).run();
    renumber(notebook);
}

void Library::insert_overflow(PageId page, PageOverflow& overflow) {
    PageInfo info;
    {
        auto from = load_page_locked(page);
        if (!from) return db_->keep(from.error());
        info = from->info;
    }
    info.created_ms = 0;
    overflow.page = insert_page(info.notebook, info);
    set_number(overflow.page, info.notebook, info.number + 1);
    renumber(info.notebook);
    insert_elements(overflow.page, overflow.content);
    count_written(overflow.page, overflow.content.strokes);
    mark_unread(overflow.page);
    for (const Correction& c :
         replaced_corrections(load_corrections(page), overflow.replacements, overflow.content.strokes))
        insert_correction(overflow.page, c);
}

Status Library::bin_page(PageId page) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (Status may = changeable(page); !may) return may;
    Transaction transaction(*db_);
    put_page_away(page, true);
    return transaction.commit();
}

Result<std::optional<PageId>> Library::next_unsure(PageId after, double certainty) const {
    const Turn turn(mutex_, db_);
    Statement pages = db_->prepare(
        "SELECT p.id FROM page p JOIN page here ON here.id = ?1 WHERE p.notebook = here.notebook AND p.binned = 0 "
        "ORDER BY p.number <= here.number, p.number");
    Statement lines = db_->prepare("SELECT words FROM reading_line WHERE page = ? AND kind = 0");
    pages.bind(after);
    while (pages.step()) {
        lines.reset().bind(pages.integer(0));
        while (lines.step()) {
            const auto words = decode_words(lines.text(0));
            if (!words) continue;
            const auto unsure = [&](const ReadWord& w) { return !w.corrected && w.certainty < certainty; };
            if (std::ranges::any_of(*words, unsure)) return std::optional(pages.integer(0));
        }
    }
    if (Status status = db_->take_status(); !status) return status.error();
    return std::optional<PageId>();
}

Status Library::bin_notebook(NotebookId notebook) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("UPDATE notebook SET binned = ? WHERE id = ? AND binned = 0").bind(now_ms()).bind(notebook).run();
    return transaction.commit();
}

Result<std::vector<Binned>> Library::bin() const {
    const Turn turn(mutex_, db_);
    std::vector<Binned> out;
    Statement pages = db_->prepare(
        "SELECT p.notebook, p.id, n.title, p.number, p.binned FROM page p JOIN notebook n ON n.id = p.notebook "
        "WHERE p.binned <> 0");
    while (pages.step())
        out.push_back({pages.integer(0), pages.integer(1), pages.text(2), static_cast<int>(pages.integer(3)), 1,
                       first_line_of(pages.integer(1)), pages.integer(4)});
    Statement notebooks = db_->prepare(
        "SELECT id, title, binned, (SELECT count(*) FROM page p WHERE p.notebook = n.id AND p.binned = 0) FROM "
        "notebook "
        "n WHERE binned <> 0");
    while (notebooks.step())
        out.push_back({notebooks.integer(0),
                       0,
                       notebooks.text(1),
                       0,
                       static_cast<size_t>(notebooks.integer(3)),
                       {},
                       notebooks.integer(2)});
    Statement tracks = db_->prepare("SELECT id, name, binned FROM track WHERE binned <> 0");
    while (tracks.step()) {
        Binned track;
        track.track = tracks.integer(0), track.title = tracks.text(1), track.when_ms = tracks.integer(2);
        out.push_back(std::move(track));
    }
    if (Status status = db_->take_status(); !status) return status.error();
    std::ranges::stable_sort(out, std::greater{}, &Binned::when_ms);
    return out;
}

Status Library::restore_page(PageId page) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    put_page_away(page, false);
    db_->prepare("UPDATE notebook SET binned = 0 WHERE id = (SELECT notebook FROM page WHERE id = ?)").bind(page).run();
    return transaction.commit();
}

Status Library::restore_notebook(NotebookId notebook) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("UPDATE notebook SET binned = 0 WHERE id = ?").bind(notebook).run();
    return transaction.commit();
}

Status Library::empty_bin(int64_t binned_before) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    const std::string long_ago = "binned <> 0 AND binned < " + std::to_string(binned_before);
    const std::string notebooks = "(SELECT id FROM notebook WHERE " + long_ago + ")";
    const std::string gone = "(SELECT id FROM page WHERE (" + long_ago + ") OR notebook IN " + notebooks + ")";
    for (const char* table : {"element", "edit", "reading_line", "correction", "written"})
        db_->execute(std::string("DELETE FROM ") + table + " WHERE page IN " + gone);
    db_->execute("DELETE FROM page WHERE id IN " + gone);
    db_->execute("DELETE FROM own_word WHERE notebook IN " + notebooks);
    db_->execute("DELETE FROM notebook WHERE " + long_ago);
    db_->execute("DELETE FROM capture WHERE element NOT IN (SELECT id FROM element)");
    const std::vector<std::string> sounds = forget_tracks(binned_before);
    db_->execute("DELETE FROM addressed_page WHERE page NOT IN (SELECT id FROM page)");
    db_->execute("DELETE FROM addressed_book WHERE notebook NOT IN (SELECT id FROM notebook)");
    std::vector<std::string> files;
    {
        Statement s = db_->prepare(
            "SELECT hash FROM file WHERE hash NOT IN (SELECT file FROM file_ref) AND hash NOT IN (SELECT file FROM "
            "intake) AND hash NOT IN (SELECT picture FROM page) AND hash NOT IN (SELECT picture FROM notebook) AND "
            "hash "
            "NOT IN (SELECT cover_picture FROM notebook) AND NOT EXISTS (SELECT 1 FROM template WHERE instr(page, "
            // Undo may want it, too.
            "hash)) AND NOT EXISTS (SELECT 1 FROM edit WHERE instr(operations, '\"sheet\"') AND instr(operations, "
            "hash))");
        while (s.step()) files.push_back(s.text(0));
    }
    Statement forget = db_->prepare("DELETE FROM file WHERE hash = ?");
    for (const std::string& hash : files) forget.reset().bind(hash).run();
    if (Status status = transaction.commit(); !status) return status;
    // After the commit: a file too many does no harm, one too few would. Names that are not of the library's making may
    // lead anywhere: what they lead to stays.
    for (const std::string& hash : files) {
        std::error_code ignored;
        if (is_file_hash(hash)) std::filesystem::remove(directory_ / "files" / hash, ignored);
    }
    for (const std::string& name : sounds) {
        std::error_code ignored;
        if (is_sound_name(name)) std::filesystem::remove(directory_ / "sound" / name, ignored);
    }
    return Done{};
}

}  // namespace fernleaf
