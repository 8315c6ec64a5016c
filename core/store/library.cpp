#include "store/library.h"

#include <algorithm>
#include <utility>

#include "base/file.h"
#include "base/now.h"
#include "base/text.h"
#include "store/codec.h"
#include "store/records.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

constexpr uintmax_t kMostFileBytes = 2'000'000'000;

Statement& bind_notebook(Statement& s, const Notebook& n) {
    return s.bind(trimmed(n.title))
        .bind(static_cast<int64_t>(n.cover))
        .bind(language_list(n.languages))
        .bind(n.sheet.width_mm)
        .bind(n.sheet.height_mm)
        .bind(static_cast<int>(n.sheet.paper))
        .bind(n.sheet.spacing_mm)
        .bind(static_cast<int64_t>(n.sheet.colour))
        .bind(n.sheet.picture)
        .bind(n.sheet.endless ? 1 : 0)
        .bind(n.sheet.errands ? 1 : 0)
        .bind(n.language_weight)
        .bind(n.hand)
        .bind(static_cast<int>(n.working.angle))
        .bind(n.working.digits)
        .bind(n.working.exact ? 1 : 0)
        .bind(n.working.earlier_values ? 1 : 0)
        .bind(static_cast<int>(n.cover_pattern))
        .bind(n.cover_picture);
}

}  // namespace

Result<std::vector<Notebook>> Library::notebooks() const {
    const Turn turn(mutex_, db_);
    std::vector<Notebook> out;
    Statement s = db_->prepare(std::string("SELECT ") + kNotebookColumns +
                               " FROM notebook WHERE binned = 0 ORDER BY folder = 0, folder, place, id");
    while (s.step()) out.push_back(notebook_at(s));
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<Notebook> Library::notebook(NotebookId id) const {
    const auto all = notebooks();
    if (!all) return all.error();
    const auto found = std::ranges::find(*all, id, &Notebook::id);
    if (found == all->end()) return Error{"There is no notebook " + std::to_string(id) + " in this library."};
    return *found;
}

Result<std::vector<PageSummary>> Library::contents(NotebookId notebook) const {
    const auto infos = pages(notebook);
    if (!infos) return infos.error();
    const Turn turn(mutex_, db_);
    std::vector<PageSummary> out;
    Statement any = db_->prepare("SELECT EXISTS (SELECT 1 FROM element WHERE page = ?1 AND live = 1)");
    for (const PageInfo& info : *infos) {
        PageSummary summary{info, first_line_of(info.id), true};
        if (any.reset().bind(info.id).step()) summary.blank = any.integer(0) == 0;
        out.push_back(std::move(summary));
    }
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

NotebookId Library::insert_notebook(const Notebook& notebook) {
    Statement insert = db_->prepare(
        "INSERT INTO notebook (title, cover, language, width, height, paper, spacing, colour, picture, endless, "
        "errands, lean, hand, angle, digits, exact, earlier_values, cover_pattern, cover_picture) VALUES (?, ?, ?, ?, "
        "?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)");
    bind_notebook(insert, notebook).run();
    const NotebookId id = db_->last_id();
    set_place("notebook", "folder", id, notebook.folder, SIZE_MAX);
    return id;
}

Result<NotebookId> Library::add_notebook(const Notebook& notebook) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (trimmed(notebook.title).empty()) return Error{"A notebook needs a title."};
    Transaction transaction(*db_);
    const NotebookId id = insert_notebook(notebook);
    if (Status status = transaction.commit(); !status) return status.error();
    return id;
}

Status Library::change_notebook(const Notebook& notebook) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (trimmed(notebook.title).empty()) return Error{"A notebook needs a title."};
    Transaction transaction(*db_);
    Notebook before;
    {
        Statement s = db_->prepare(std::string("SELECT ") + kNotebookColumns + " FROM notebook WHERE id = ?");
        if (s.bind(notebook.id).step()) before = notebook_at(s);
    }
    Statement update = db_->prepare(
        "UPDATE notebook SET title = ?, cover = ?, language = ?, width = ?, height = ?, paper = ?, spacing = ?, "
        "colour = ?, picture = ?, endless = ?, errands = ?, lean = ?, hand = ?, angle = ?, digits = ?, exact = ?, "
        "earlier_values = ?, cover_pattern = ?, cover_picture = ? WHERE id = ?");
    bind_notebook(update, notebook).bind(notebook.id).run();
    if (before.languages != notebook.languages || before.language_weight != notebook.language_weight ||
        before.hand != notebook.hand)
        mark_all_unread(notebook.id);
    else if (before.working != notebook.working)
        mark_formulas_unread(notebook.id, 0);
    return transaction.commit();
}

Result<std::vector<PageInfo>> Library::pages(NotebookId notebook) const {
    const Turn turn(mutex_, db_);
    std::vector<PageInfo> out;
    Statement s = db_->prepare(std::string("SELECT ") + kPageColumns +
                               " FROM page WHERE notebook = ? AND binned = 0 ORDER BY number");
    s.bind(notebook);
    while (s.step()) out.push_back(page_at(s));
    Statement shown = db_->prepare(
        std::string("SELECT ") + kPageColumns +
        " FROM page JOIN (SELECT page AS shown, place FROM sheaf_page WHERE notebook = ?) ON shown = page.id WHERE "
        "binned = 0 AND notebook NOT IN (SELECT id FROM notebook WHERE binned <> 0) ORDER BY place");
    shown.bind(notebook);
    while (shown.step()) {
        out.push_back(page_at(shown));
        out.back().number = static_cast<int>(out.size());
    }
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

PageId Library::insert_page(NotebookId notebook, const PageInfo& info) {
    db_->prepare(
           "INSERT INTO page (notebook, number, width, height, paper, spacing, created, colour, picture, endless, "
           "errands, title) "
           "VALUES "
           "(?1, 1 + (SELECT count(*) FROM page WHERE notebook = ?1 AND binned = 0), ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, "
           "?10, ?11)")
        .bind(notebook)
        .bind(info.width_mm)
        .bind(info.height_mm)
        .bind(static_cast<int>(info.paper))
        .bind(info.spacing_mm)
        .bind(info.created_ms != 0 ? info.created_ms : now_ms())
        .bind(static_cast<int64_t>(info.colour))
        .bind(info.picture)
        .bind(info.endless ? 1 : 0)
        .bind(info.errands ? 1 : 0)
        .bind(info.title)
        .run();
    return db_->last_id();
}

Result<PageId> Library::add_page(NotebookId notebook, const PageInfo& info) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (Status may = notebook_changeable(notebook); !may) return may.error();
    Transaction transaction(*db_);
    const PageId id = insert_page(notebook, info);
    if (Status status = transaction.commit(); !status) return status.error();
    return id;
}

Result<Page> Library::load_page(PageId page) const {
    const Turn turn(mutex_, db_);
    return load_page_locked(page);
}

Result<Page> Library::load_page_locked(PageId page) const {
    Page out;
    {
        Statement s = db_->prepare(std::string("SELECT ") + kPageColumns + " FROM page WHERE id = ?");
        s.bind(page);
        if (!s.step()) {
            if (Status status = db_->take_status(); !status) return status.error();
            return Error{"There is no page " + std::to_string(page) + " in this library."};
        }
        out.info = page_at(s);
    }
    Statement s = db_->prepare("SELECT " + listed(kElementRow) + " FROM element WHERE page = ? AND live = 1");
    s.bind(page);
    while (s.step())
        if (!element_at(s, out)) ++out.damaged;
    for_each_list(out, []<typename E>(std::vector<E>& list) { std::ranges::sort(list, z_less<E, E>); });
    load_corrections(page, &out.damaged);
    make_room_below(out);
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<std::string> Library::add_file(const std::string& bytes) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    const std::string hash = sha256(bytes);
    const fs::path path = directory_ / "files" / hash;
    // A file under its hash is whole, unless the disk or somebody changed it.
    if (const auto there = read_regular(path, kMostFileBytes); !there || *there != bytes)
        if (Status status = write_whole(path, bytes); !status) return status.error();
    Transaction transaction(*db_);
    db_->prepare("INSERT OR IGNORE INTO file (hash, bytes) VALUES (?, ?)")
        .bind(hash)
        .bind(static_cast<int64_t>(bytes.size()))
        .run();
    if (Status status = transaction.commit(); !status) return status.error();
    return hash;
}

Result<std::string> Library::file(const std::string& hash) const {
    if (!is_file_hash(hash)) return Error{"The library names a file that is none of its own."};
    auto bytes = read_regular(directory_ / "files" / hash, kMostFileBytes);
    if (!bytes) return Error{"The library's file " + bytes.error().message};
    return bytes;
}

}  // namespace fernleaf
