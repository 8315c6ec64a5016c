#include "store/library.h"

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <functional>
#include <random>
#include <set>
#include <utility>

#include "base/file.h"
#include "base/now.h"
#include "base/text.h"
#include "store/codec.h"
#include "store/migrations.h"
#include "store/records.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

constexpr char kDatabaseName[] = "library.db", kLockName[] = "lock";
constexpr int64_t kMostIds = int64_t{1} << (kCounterBits - 1);  // of one device; a damaged row may name any
constexpr uintmax_t kMostFileBytes = 2'000'000'000;

// What there is in a directory: a library, room for a new one, or why neither.
struct Found {
    bool library = false;
    std::optional<Error> problem = {};
};

Found look_at(const fs::path& directory) {
    const auto no = [](const std::string& why) { return Found{false, Error{why}}; };
    std::error_code problem;
    const fs::file_status status = fs::status(directory, problem);
    if (status.type() == fs::file_type::not_found) return {};
    if (problem) return no(directory.string() + " can't be looked into: " + problem.message() + ".");
    if (!fs::is_directory(status)) return no(directory.string() + " is a file, not a library.");
    bool others = false, files = false;
    auto entry = fs::directory_iterator(directory, problem);
    if (problem)
        return no(directory.string() + " can't be looked into: " + problem.message() +
                  ". Change its permissions, or choose another folder.");
    for (; entry != fs::directory_iterator(); entry.increment(problem)) {
        if (problem) return no(directory.string() + " can't be looked into: " + problem.message() + ".");
        const std::string name = entry->path().filename().string();
        if (name == "files")
            files = fs::is_directory(entry->path(), problem) && !fs::is_empty(entry->path(), problem);
        else if (!name.starts_with(kDatabaseName) && name != kLockName)
            others = true;
    }
    const fs::path database = directory / kDatabaseName;
    const bool there = fs::exists(database, problem);
    if (problem) return no(database.string() + " can't be looked at: " + problem.message() + ".");
    const auto size = there && fs::is_regular_file(database, problem) ? fs::file_size(database, problem) : 0;
    if (size > 0) return {true};
    if (files)
        return no(directory.string() + " holds a library's files, but its database library.db is " +
                  (there ? "empty" : "missing") + ". Put it back from a copy; nothing was changed.");
    if (others && !there)
        return no(directory.string() + " holds other files and no library. Choose an empty folder for a new library.");
    return {};
}

// Where this library lies, told from everywhere else it may be copied to: a copy is another device.
std::string place_of(const fs::path& directory) {
    std::string machine;
    if (const auto id = read_regular("/etc/machine-id", 200)) machine = *id;
    std::error_code problem;
    const fs::path real = fs::canonical(directory, problem);
    return sha256(machine + "\n" + (problem ? directory : real).string());
}

void put_sheet(Database& db, PageId page, const Sheet& s) {
    db.prepare(
          "UPDATE page SET width = ?, height = ?, paper = ?, spacing = ?, colour = ?, picture = ?, endless = ? WHERE "
          "id = ?")
        .bind(s.width_mm)
        .bind(s.height_mm)
        .bind(static_cast<int>(s.paper))
        .bind(s.spacing_mm)
        .bind(static_cast<int64_t>(s.colour))
        .bind(s.picture)
        .bind(s.endless ? 1 : 0)
        .bind(page)
        .run();
}

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
        .bind(n.language_weight)
        .bind(n.hand);
}

}  // namespace

Library::~Library() {
    db_.reset();
    for (const int lock : locks_) ::close(lock);
}

Result<std::unique_ptr<Library>> Library::open(const fs::path& directory) {
    std::unique_ptr<Library> library(new Library);
    library->directory_ = directory;
    const Found found = look_at(directory);
    if (found.problem) return *found.problem;
    std::error_code problem;
    if (!found.library) fs::create_directories(directory / "files", problem);
    if (problem) return Error{"A library can't be made in " + directory.string() + ": " + problem.message() + "."};

    const Status locked = library->take_lock();
    if (!locked) {
        if (!found.library) return locked.error();
        library->why_read_only_ = locked.error().message;
    }
    const auto mode = locked                      ? Database::Mode::change
                      : library->held_by_another_ ? Database::Mode::read
                                                  : Database::Mode::as_it_lies;
    Status opened = library->open_database(mode);
    if (!opened) return Error{directory.string() + ": " + opened.error().message};
    return library;
}

// The lock is held on the directory itself, so that it holds whatever happens to a name in it; and on a file of it, for
// releases that know only that, and for file systems whose directories can't be locked.
Status Library::take_lock() {
    std::vector<int> held;
    const auto let_go = [&] {
        for (const int fd : held) ::close(fd);
    };
    const auto in_use = [&] {
        let_go();
        held_by_another_ = true;
        return Error{"The library " + directory_.string() +
                     " is in use by another window or program; it is open for reading."};
    };
    if (const int fd = ::open(directory_.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC); fd >= 0) {
        held.push_back(fd);
        if (::flock(fd, LOCK_EX | LOCK_NB) != 0 && errno == EWOULDBLOCK) return in_use();
    }
    const int fd = ::open((directory_ / kLockName).c_str(), O_RDWR | O_CREAT | O_CLOEXEC | O_NOFOLLOW, 0644);
    if (fd < 0) {
        const std::string reason = std::strerror(errno);
        let_go();
        return Error{"The library " + directory_.string() + " can't be written to (" + reason +
                     "); it is open for reading."};
    }
    held.push_back(fd);
    if (::flock(fd, LOCK_EX | LOCK_NB) != 0) return in_use();
    locks_ = std::move(held);
    held_by_another_ = false;
    return Done{};
}

Status Library::open_database(Database::Mode mode) {
    auto db = Database::open(directory_ / kDatabaseName, mode);
    if (!db) return db.error();
    db_ = *std::move(db);
    if (mode == Database::Mode::change && !db_->may_write())
        why_read_only_ = "The library " + directory_.string() +
                         " can't be written to (its database allows no writing); it is open for reading.";
    return migrate();
}

std::optional<std::string> Library::why_read_only() const {
    const std::lock_guard lock(state_mutex_);
    return why_read_only_;
}

bool Library::could_write_now() const {
    {
        const std::lock_guard lock(state_mutex_);
        if (!why_read_only_ || !held_by_another_) return false;
    }
    const int fd = ::open((directory_ / kLockName).c_str(), O_RDWR | O_CLOEXEC | O_NOFOLLOW);
    const int folder = ::open(directory_.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    const auto free = [](int lock) { return lock < 0 || ::flock(lock, LOCK_EX | LOCK_NB) == 0; };
    const bool both = free(folder) && free(fd);
    if (fd >= 0) ::close(fd);
    if (folder >= 0) ::close(folder);
    return both;
}

Status Library::begin_writing() {
    const std::lock_guard turn(mutex_);
    const std::lock_guard lock(state_mutex_);
    if (!why_read_only_) return Done{};
    if (Status locked = take_lock(); !locked) return locked;
    auto db = Database::open(directory_ / kDatabaseName, Database::Mode::change);
    if (!db) {  // it stays as it is, and can be tried again
        for (const int held : std::exchange(locks_, {})) ::close(held);
        held_by_another_ = true;
        return db.error();
    }
    db_ = *std::move(db);
    why_read_only_.reset();
    return migrate();
}

Status Library::migrate() {
    int64_t version = 0;
    {
        Statement s = db_->prepare("PRAGMA user_version");
        if (s.step()) version = s.integer(0);
    }
    if (db_->failed()) return db_->take_status();
    if (version > kNewestStep) return Error{"This library was made by a newer Fernleaf. Update Fernleaf to open it."};
    if (version < 0) return Error{"The library's database is damaged: it names no version there ever was."};
    if (version < kNewestStep && why_read_only_) {
        if (held_by_another_)
            return Error{"The library is of an older kind and can't be brought up to date: " + *why_read_only_};
        // A medium that can't be written to: a copy of its database is brought up to date and read.
        auto copy = Database::open(directory_ / kDatabaseName, Database::Mode::copy);
        if (!copy) return copy.error();
        db_ = *std::move(copy);
    }
    if (version < kNewestStep) {
        db_->execute("PRAGMA foreign_keys = OFF");
        Transaction transaction(*db_);  // all steps or none
        run_steps(*db_, version, kNewestStep);
        if (version > 0 && version < kNewFolding) rebuild_index();
        if (Status status = transaction.commit(); !status) return status;
        db_->execute("PRAGMA foreign_keys = ON");
    }
    if (!why_read_only_) take_device();
    raise_ids();
    return db_->take_status();
}

// The number by which this place's ids are told from others'. A new library's first is 0. What is written after a copy
// was taken must lie above what came with it, so its counter begins above all others.
void Library::take_device() {
    const std::string place = place_of(directory_);
    {
        Statement known = db_->prepare("SELECT number, first FROM device WHERE place = ?");
        if (known.bind(place).step()) {
            device_ = std::clamp<int64_t>(known.integer(0), 0, kMostDevices - 1);
            next_element_ = element_id(device_, std::clamp<int64_t>(known.integer(1), 1, kMostIds));
            return;
        }
    }
    int64_t highest = 0;
    bool fresh = true;
    {
        Statement s = db_->prepare(
            "SELECT max(id & ?1), (SELECT count(*) FROM device) FROM (SELECT id FROM element UNION ALL SELECT id FROM "
            "correction UNION ALL SELECT uid FROM edit) WHERE id & ?1 < ?2");
        if (s.bind(kMostCounted).bind(kMostIds).step()) highest = s.integer(0), fresh = s.integer(1) == 0;
    }
    fresh = fresh && highest == 0;
    std::random_device random;
    std::uniform_int_distribution<int64_t> number(1, kMostDevices - 1);
    Statement insert = db_->prepare("INSERT INTO device (number, place, first) VALUES (?, ?, ?)");
    device_ = fresh ? 0 : number(random);
    insert.bind(device_).bind(place).bind(highest + 1).run();
    // Where it can't be kept, as on a full disk, this run has the number for itself all the same.
    static_cast<void>(db_->take_status());
    next_element_ = element_id(device_, highest + 1);
}

// Above all that were ever given here.
void Library::raise_ids() {
    Statement given = db_->prepare(
        "SELECT max(ifnull((SELECT max(id) FROM element WHERE id BETWEEN ?1 AND ?2), 0), ifnull((SELECT max(id) FROM "
        "correction WHERE id BETWEEN ?1 AND ?2), 0), ifnull((SELECT max(uid) FROM edit WHERE uid BETWEEN ?1 AND ?2), "
        "0))");
    given.bind(element_id(device_, 1)).bind(element_id(device_, kMostIds));
    if (given.step()) next_element_ = std::max(next_element_.load(), given.integer(0) + 1);
    Statement marks = db_->prepare("SELECT ifnull(max(mark), 0) FROM unread");
    // The time in it makes marks of one run differ from those of another that are gone by now.
    if (marks.step()) next_mark_ = std::max({next_mark_, marks.integer(0) + 1, now_ms()});
}

Result<std::vector<Notebook>> Library::notebooks() const {
    const Turn turn(mutex_, db_);
    std::vector<Notebook> out;
    Statement s =
        db_->prepare(std::string("SELECT ") + kNotebookColumns + " FROM notebook WHERE binned = 0 ORDER BY id");
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
    Statement first = db_->prepare(
        "SELECT words FROM reading_line WHERE page = ? AND kind = 0 AND words <> '[]' ORDER BY number LIMIT 1");
    Statement any = db_->prepare("SELECT EXISTS (SELECT 1 FROM element WHERE page = ?1 AND live = 1)");
    for (const PageInfo& info : *infos) {
        PageSummary summary{info, {}, true};
        if (first.reset().bind(info.id).step()) {
            ReadLine line;
            if (auto words = decode_words(first.text(0))) line.words = *std::move(words);
            summary.first_line = line.text();
        }
        if (any.reset().bind(info.id).step()) summary.blank = any.integer(0) == 0;
        out.push_back(std::move(summary));
    }
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<NotebookId> Library::add_notebook(const Notebook& notebook) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (trimmed(notebook.title).empty()) return Error{"A notebook needs a title."};
    Transaction transaction(*db_);
    Statement insert = db_->prepare(
        "INSERT INTO notebook (title, cover, language, width, height, paper, spacing, colour, picture, endless, lean, "
        "hand) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)");
    bind_notebook(insert, notebook).run();
    const NotebookId id = db_->last_id();
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
        "UPDATE notebook SET title = ?, cover = ?, language = ?, width = ?, height = ?, paper = ?, spacing = ?, colour "
        "= "
        "?, picture = ?, endless = ?, lean = ?, hand = ? WHERE id = ?");
    bind_notebook(update, notebook).bind(notebook.id).run();
    if (before.languages != notebook.languages || before.language_weight != notebook.language_weight ||
        before.hand != notebook.hand)
        mark_all_unread(notebook.id);
    return transaction.commit();
}

Result<std::vector<PageInfo>> Library::pages(NotebookId notebook) const {
    const Turn turn(mutex_, db_);
    std::vector<PageInfo> out;
    Statement s = db_->prepare(std::string("SELECT ") + kPageColumns +
                               " FROM page WHERE notebook = ? AND binned = 0 ORDER BY number");
    s.bind(notebook);
    while (s.step()) out.push_back(page_at(s));
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

PageId Library::insert_page(NotebookId notebook, const PageInfo& info) {
    db_->prepare(
           "INSERT INTO page (notebook, number, width, height, paper, spacing, created, colour, picture, endless) "
           "VALUES "
           "(?1, 1 + (SELECT count(*) FROM page WHERE notebook = ?1 AND binned = 0), ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9)")
        .bind(notebook)
        .bind(info.width_mm)
        .bind(info.height_mm)
        .bind(static_cast<int>(info.paper))
        .bind(info.spacing_mm)
        .bind(info.created_ms != 0 ? info.created_ms : now_ms())
        .bind(static_cast<int64_t>(info.colour))
        .bind(info.picture)
        .bind(info.endless ? 1 : 0)
        .run();
    return db_->last_id();
}

Result<PageId> Library::add_page(NotebookId notebook, const PageInfo& info) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
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

Status Library::commit(PageId page, Edit& edit, bool* renewed) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (const auto why = validation_error(edit.added)) return Error{*why};
    Transaction transaction(*db_);
    auto others = other_ids(page, edit.added);
    if (edit.overflow) others.merge(other_ids(edit.overflow->page, edit.overflow->content));
    if (!others.empty()) fernleaf::renumber(edit, others);
    if (renewed) *renewed = !others.empty();
    insert_elements(page, edit.added);
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
    std::vector<PageId> ids;
    Transaction transaction(*db_);
    for (FilledPage& page : pages) {
        ids.push_back(insert_page(notebook, page.info));
        // They are new, whatever ids they bear.
        Edit added{{}, std::move(page.content)};
        if (const auto others = other_ids(ids.back(), added.added); !others.empty()) fernleaf::renumber(added, others);
        page.content = std::move(added.added);
        insert_elements(ids.back(), page.content);
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
