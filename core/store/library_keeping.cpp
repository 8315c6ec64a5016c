// Order in the library: tags, folders, the archive, titles and favourites.
#include <algorithm>
#include <array>

#include "base/now.h"
#include "base/text.h"
#include "store/library.h"
#include "store/records.h"

namespace fernleaf {
namespace {

constexpr char kNoTag[] = "That tag no longer exists.";
constexpr char kNoFolderThere[] = "That folder no longer exists.";
constexpr char kWithin[] = "A folder can't be put into itself.";
constexpr size_t kDeepestFolder = 32;

constexpr char kTagColumns[] =
    "t.id, t.name, t.colour, (SELECT count(*) FROM page p JOIN notebook n ON n.id = p.notebook WHERE p.binned = 0 AND "
    "n.binned = 0 AND (EXISTS (SELECT 1 FROM page_tag m WHERE m.page = p.id AND m.tag = t.id) OR EXISTS (SELECT 1 FROM "
    "notebook_tag m WHERE m.notebook = p.notebook AND m.tag = t.id)))";

std::vector<Tag> tags_at(Statement& rows) {
    std::vector<Tag> out;
    while (rows.step())
        out.push_back({rows.integer(0), rows.text(1), static_cast<uint32_t>(rows.integer(2)) & 0xFFFFFF,
                       static_cast<size_t>(rows.integer(3))});
    std::ranges::sort(out, {}, [](const Tag& tag) { return fold(tag.name); });
    return out;
}

// One name, as a tag or a folder may bear it.
Result<std::string> one_name(const std::string& typed) {
    const auto names = tag_names(typed);
    if (names.size() != 1) return Error{"Write one name, up to 60 letters long, without commas."};
    return names[0];
}

}  // namespace

Result<std::vector<Tag>> Library::tags() const {
    const Turn turn(mutex_, db_);
    Statement s = db_->prepare(std::string("SELECT ") + kTagColumns + " FROM tag t");
    std::vector<Tag> out = tags_at(s);
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<std::vector<Tag>> Library::tags_of(PageId page) const {
    const Turn turn(mutex_, db_);
    Statement s = db_->prepare(std::string("SELECT ") + kTagColumns +
                               " FROM tag t JOIN page_tag on_page ON on_page.tag = t.id WHERE on_page.page = ?");
    std::vector<Tag> out = tags_at(s.bind(page));
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<std::vector<Tag>> Library::tags_of_notebook(NotebookId notebook) const {
    const Turn turn(mutex_, db_);
    Statement s = db_->prepare(std::string("SELECT ") + kTagColumns +
                               " FROM tag t JOIN notebook_tag on_it ON on_it.tag = t.id WHERE on_it.notebook = ?");
    std::vector<Tag> out = tags_at(s.bind(notebook));
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<std::vector<TagId>> Library::tags_named(const std::vector<std::string>& names) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    std::vector<TagId> out;
    for (const std::string& typed : names) {
        const auto name = one_name(typed);
        if (!name) return name.error();
        out.push_back(insert_tag(*name));
    }
    if (Status status = transaction.commit(); !status) return status.error();
    return out;
}

TagId Library::insert_tag(const std::string& name) {
    const std::string folded = fold(name);
    Statement known = db_->prepare("SELECT id FROM tag WHERE folded = ?");
    if (known.bind(folded).step()) return known.integer(0);
    size_t before = 0;
    {
        Statement s = db_->prepare("SELECT count(*) FROM tag");
        if (s.step()) before = static_cast<size_t>(s.integer(0));
    }
    const auto colours = tag_colours();
    db_->prepare("INSERT INTO tag (name, folded, colour) VALUES (?, ?, ?)")
        .bind(name)
        .bind(folded)
        .bind(static_cast<int64_t>(colours[before % colours.size()]))
        .run();
    return db_->last_id();
}

Result<std::vector<TagMark>> Library::set_tags(const std::vector<TagMark>& marks, bool on) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    std::vector<TagMark> changed;
    const auto change = [&](const char* sql, int64_t where, const TagMark& mark) {
        db_->prepare(sql).bind(where).bind(mark.tag).run();
        if (db_->changes() > 0) changed.push_back(mark);
    };
    for (const TagMark& mark : marks) {
        if (mark.page != 0)
            change(on ? "INSERT OR IGNORE INTO page_tag (page, tag) VALUES (?, ?)"
                      : "DELETE FROM page_tag WHERE page = ? AND tag = ?",
                   mark.page, mark);
        else
            change(on ? "INSERT OR IGNORE INTO notebook_tag (notebook, tag) VALUES (?, ?)"
                      : "DELETE FROM notebook_tag WHERE notebook = ? AND tag = ?",
                   mark.notebook, mark);
    }
    if (Status status = transaction.commit(); !status) return status.error();
    return changed;
}

Result<TagId> Library::rename_tag(TagId tag, const std::string& typed) {
    const auto name = one_name(typed);
    if (!name) return name.error();
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    TagId other = 0;
    {
        Statement s = db_->prepare("SELECT id FROM tag WHERE folded = ? AND id <> ?");
        if (s.bind(fold(*name)).bind(tag).step()) other = s.integer(0);
    }
    if (other != 0) {
        for (const char* table : {"page_tag", "notebook_tag"})
            db_->prepare(std::string("UPDATE OR IGNORE ") + table + " SET tag = ? WHERE tag = ?")
                .bind(other)
                .bind(tag)
                .run();
        db_->prepare("DELETE FROM tag WHERE id = ?").bind(tag).run();
    } else {
        db_->prepare("UPDATE tag SET name = ?, folded = ? WHERE id = ?").bind(*name).bind(fold(*name)).bind(tag).run();
        if (db_->changes() == 0) return Error{kNoTag};
    }
    if (Status status = transaction.commit(); !status) return status.error();
    return other != 0 ? other : tag;
}

Status Library::colour_tag(TagId tag, uint32_t colour) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("UPDATE tag SET colour = ? WHERE id = ?").bind(static_cast<int64_t>(colour)).bind(tag).run();
    return transaction.commit();
}

Status Library::remove_tag(TagId tag) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("DELETE FROM tag WHERE id = ?").bind(tag).run();
    return transaction.commit();
}

Result<std::vector<Folder>> Library::folders() const {
    const Turn turn(mutex_, db_);
    std::vector<Folder> out;
    Statement s = db_->prepare("SELECT id, title, parent FROM folder ORDER BY place, id");
    while (s.step()) out.push_back({s.integer(0), s.text(1), s.integer(2)});
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<FolderId> Library::add_folder(const std::string& title, FolderId parent) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (trimmed(title).empty()) return Error{"A folder needs a title."};
    Transaction transaction(*db_);
    if (const auto depth = depth_of(parent); !depth || *depth >= kDeepestFolder) return Error{kNoFolderThere};
    db_->prepare(
           "INSERT INTO folder (title, parent, place) VALUES (?1, ?2, 1 + (SELECT coalesce(max(place), 0) FROM folder "
           "WHERE parent = ?2))")
        .bind(trimmed(title))
        .bind(parent)
        .run();
    const FolderId id = db_->last_id();
    if (Status status = transaction.commit(); !status) return status.error();
    return id;
}

// How many folders it is in; nothing when it is not there, or within itself.
std::optional<size_t> Library::depth_of(FolderId folder) const {
    Statement s = db_->prepare("SELECT parent FROM folder WHERE id = ?");
    size_t depth = 0;
    for (; folder != kNoFolder; ++depth) {
        if (depth > kDeepestFolder || !s.reset().bind(folder).step()) return std::nullopt;
        folder = s.integer(0);
    }
    return depth;
}

Status Library::rename_folder(FolderId folder, const std::string& title) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (trimmed(title).empty()) return Error{"A folder needs a title."};
    Transaction transaction(*db_);
    db_->prepare("UPDATE folder SET title = ? WHERE id = ?").bind(trimmed(title)).bind(folder).run();
    return transaction.commit();
}

// Puts one row of a table at a place (from 0) among those that are in the same folder.
void Library::set_place(const char* table, const char* folder_column, int64_t id, FolderId folder, size_t place) {
    std::vector<int64_t> order;
    {
        Statement s = db_->prepare(std::string("SELECT id FROM ") + table + " WHERE " + folder_column +
                                   " = ? AND id <> ? ORDER BY place, id");
        s.bind(folder).bind(id);
        while (s.step()) order.push_back(s.integer(0));
    }
    order.insert(order.begin() + static_cast<std::ptrdiff_t>(std::min(place, order.size())), id);
    db_->prepare(std::string("UPDATE ") + table + " SET " + folder_column + " = ? WHERE id = ?")
        .bind(folder)
        .bind(id)
        .run();
    Statement set = db_->prepare(std::string("UPDATE ") + table + " SET place = ? WHERE id = ?");
    for (size_t i = 0; i < order.size(); ++i) set.reset().bind(static_cast<int64_t>(i + 1)).bind(order[i]).run();
}

Status Library::place_folder(FolderId folder, FolderId parent, size_t place) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    if (!depth_of(folder) || folder == kNoFolder || !depth_of(parent)) return Error{kNoFolderThere};
    Statement above = db_->prepare("SELECT parent FROM folder WHERE id = ?");
    for (FolderId at = parent; at != kNoFolder;) {
        if (at == folder) return Error{kWithin};
        if (!above.reset().bind(at).step()) break;
        at = above.integer(0);
    }
    above.reset();
    set_place("folder", "parent", folder, parent, place);
    // What it holds may now be too deep.
    Statement all = db_->prepare("SELECT id FROM folder");
    while (all.step())
        if (!depth_of(all.integer(0))) return Error{"Folders can't be nested that deeply."};
    all.reset();
    return transaction.commit();
}

Status Library::remove_folder(FolderId folder) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    FolderId parent = kNoFolder;
    {
        Statement s = db_->prepare("SELECT parent FROM folder WHERE id = ?");
        if (!s.bind(folder).step()) return Error{kNoFolderThere};
        parent = s.integer(0);
    }
    db_->prepare("UPDATE folder SET parent = ? WHERE parent = ?").bind(parent).bind(folder).run();
    db_->prepare("UPDATE notebook SET folder = ? WHERE folder = ?").bind(parent).bind(folder).run();
    db_->prepare("DELETE FROM folder WHERE id = ?").bind(folder).run();
    return transaction.commit();
}

Status Library::place_notebook(NotebookId notebook, FolderId folder, size_t place) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    if (!depth_of(folder)) return Error{kNoFolderThere};
    set_place("notebook", "folder", notebook, folder, place);
    return transaction.commit();
}

Status Library::archive_notebook(NotebookId notebook, bool archived) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("UPDATE notebook SET archived = ? WHERE id = ?").bind(archived ? now_ms() : 0).bind(notebook).run();
    if (archived)
        db_->prepare("UPDATE addressed_book SET archived = ? WHERE notebook = ? AND archived = 0")
            .bind(now_ms())
            .bind(notebook)
            .run();
    else
        db_->prepare(
               "UPDATE addressed_book SET archived = 0 WHERE id = (SELECT max(id) FROM addressed_book WHERE notebook = "
               "?1) AND NOT EXISTS (SELECT 1 FROM addressed_book other WHERE other.paper = addressed_book.paper AND "
               "other.number = addressed_book.number AND other.archived = 0)")
            .bind(notebook)
            .run();
    return transaction.commit();
}

Status Library::favour_notebook(NotebookId notebook, bool favourite) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("UPDATE notebook SET favourite = ? WHERE id = ?").bind(favourite ? 1 : 0).bind(notebook).run();
    return transaction.commit();
}

Status Library::favour_page(PageId page, bool favourite) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("UPDATE page SET favourite = ? WHERE id = ?").bind(favourite ? 1 : 0).bind(page).run();
    return transaction.commit();
}

Status Library::name_page(PageId page, const std::string& title) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("UPDATE page SET title = ? WHERE id = ?").bind(trimmed(title)).bind(page).run();
    return transaction.commit();
}

namespace {

// Of pages p in notebooks n, neither in the bin.
constexpr char kPlaces[] =
    "SELECT p.id, n.id, n.title, p.number, p.title, p.favourite, coalesce((SELECT max(last) FROM written w WHERE "
    "w.page "
    "= p.id), p.created), p.first_line FROM page p JOIN notebook n ON n.id = p.notebook WHERE p.binned = 0 AND "
    "n.binned "
    "= 0";
constexpr char kInOrder[] = " ORDER BY n.folder = 0, n.folder, n.place, n.id, p.number";

std::vector<PagePlace> places_in(Statement& s) {
    std::vector<PagePlace> out;
    while (s.step()) {
        PagePlace place{s.integer(0), s.integer(1),      s.text(2),   static_cast<int>(s.integer(3)),
                        s.text(4),    s.integer(5) != 0, s.integer(6)};
        if (place.title.empty()) place.title = s.text(7);
        out.push_back(std::move(place));
    }
    return out;
}

}  // namespace

Result<std::vector<PagePlace>> Library::places() const {
    const Turn turn(mutex_, db_);
    Statement s = db_->prepare(std::string(kPlaces) + kInOrder);
    std::vector<PagePlace> out = places_in(s);
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<std::vector<PagePlace>> Library::linked_from(PageId page) const {
    const Turn turn(mutex_, db_);
    // As cards keep it: the page is the last of what they say.
    Statement s = db_->prepare(std::string(kPlaces) +
                               " AND p.id IN (SELECT page FROM element WHERE kind = 8 AND live = 1 AND instr(CAST(body "
                               "AS TEXT), ?) > 0)" +
                               kInOrder);
    s.bind("\"page\":" + std::to_string(page) + "}");
    std::vector<PagePlace> out = places_in(s);
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<std::vector<OpenErrand>> Library::open_errands() const {
    const Turn turn(mutex_, db_);
    std::vector<OpenErrand> out;
    Statement s = db_->prepare(
        "SELECT e.page, e.errand FROM errand e JOIN page p ON p.id = e.page JOIN notebook n ON n.id = p.notebook WHERE "
        "e.done = 0 AND p.binned = 0 AND n.binned = 0 ORDER BY e.noticed, e.errand");
    while (s.step())
        if (s.integer(1) >= 0 && s.integer(1) < kErrands)
            out.push_back({s.integer(0), static_cast<Errand>(s.integer(1))});
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Status Library::note_ticked(PageId page, const ReadLine& line, bool ticked) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("UPDATE reading_line SET ticked = ? WHERE page = ? AND ticked >= 0 AND box_left = ? AND box_top = ?")
        .bind(ticked ? 1 : 0)
        .bind(page)
        .bind(line.box.left)
        .bind(line.box.top)
        .run();
    return transaction.commit();
}

Status Library::set_errand_done(const OpenErrand& errand, bool done) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("UPDATE errand SET done = ? WHERE page = ? AND errand = ?")
        .bind(done ? now_ms() : 0)
        .bind(errand.page)
        .bind(static_cast<int>(errand.errand))
        .run();
    return transaction.commit();
}

Result<std::vector<Todo>> Library::todos(bool done_too) const {
    const Turn turn(mutex_, db_);
    struct Placed {
        std::array<int64_t, 6> place{};  // of folder, notebook, page and line
        Todo todo;
    };
    std::vector<Placed> found;
    // In this order: what has a box is little, pages are many.
    const auto where = [](const std::string& from) {
        return ", p.id, n.id, n.title, p.number, n.place, n.folder FROM " + from +
               " CROSS JOIN page p ON p.id = t.page CROSS JOIN notebook n ON n.id = p.notebook WHERE p.binned = 0 AND "
               "n.binned = 0 AND ";
    };
    const auto placed = [&](const Statement& s, int column, int64_t line) {
        Placed out;
        out.todo.page = s.integer(column), out.todo.notebook = s.integer(column + 1);
        out.todo.notebook_title = s.text(column + 2);
        out.todo.page_number = static_cast<int>(s.integer(column + 3));
        const FolderId folder = s.integer(column + 5);
        out.place = {folder == kNoFolder ? 1 : 0, folder, s.integer(column + 4), out.todo.notebook,
                     out.todo.page_number,        line};
        return out;
    };
    Statement lines = db_->prepare(std::string("SELECT ") + kLineColumns + ", t.number" + where("reading_line t") +
                                   "t.ticked >= 0 AND t.ticked <= ?");
    lines.bind(done_too ? 1 : 0);
    while (lines.step())
        if (auto line = line_at(lines)) {
            found.push_back(placed(lines, kLineColumnCount + 1, lines.integer(kLineColumnCount)));
            found.back().todo.line = *std::move(line);
        }
    Statement errands =
        db_->prepare("SELECT t.errand, t.done" + where("errand t") + "t.errand IN (?, ?) AND (t.done = 0 OR ?)");
    errands.bind(static_cast<int>(Errand::send)).bind(static_cast<int>(Errand::todo)).bind(done_too ? 1 : 0);
    while (errands.step()) {
        Placed errand = placed(errands, 2, -1);
        errand.todo.errand = static_cast<Errand>(errands.integer(0));
        errand.todo.line.ticked = errands.integer(1) != 0;
        found.push_back(std::move(errand));
    }
    if (Status status = db_->take_status(); !status) return status.error();
    std::ranges::stable_sort(found, {}, &Placed::place);
    std::vector<Todo> out;
    for (Placed& one : found) out.push_back(std::move(one.todo));
    return out;
}

}  // namespace fernleaf
