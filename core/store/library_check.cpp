// What is wrong with a library, and saving what can be saved.
#include <fcntl.h>
#include <sys/syscall.h>
#include <unistd.h>

#include <algorithm>
#include <map>
#include <set>

#include "base/file.h"
#include "base/now.h"
#include "store/codec.h"
#include "store/library.h"
#include "store/migrations.h"
#include "store/records.h"

#ifndef RENAME_EXCHANGE
#define RENAME_EXCHANGE (1 << 1)
#endif

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

// Tables in an order in which nothing refers to what comes later; without the index, which is made anew.
constexpr const char* kTables[] = {
    "device",     "notebook",   "page",          "file",       "stroke",         "picture",        "text_block",
    "element",    "edit",       "reading_line",  "own_word",   "hand",           "example",        "intake",
    "correction", "stamp",      "stamp_element", "pen",        "addressed_book", "addressed_page", "capture",
    "written",    "sound",      "track",         "tag",        "page_tag",       "notebook_tag",   "folder",
    "errand",     "sheaf_page", "template",      "kept_search"};
constexpr char kSavedTitle[] = "Saved pages";

// Calls what is to be done with each damaged row of elements, edits or corrections.
template <typename At>
void each_damaged(Database& db, const Row& row, At at, const CancelToken& cancel,
                  const std::function<void(int64_t)>& found) {
    Statement s = db.prepare("SELECT " + listed(row) + " FROM " + row.table);
    while (s.step() && !cancel.cancelled())
        if (!at(s)) found(s.integer(0));
}

void each_damaged_row(Database& db, const CancelToken& cancel, const std::function<void(const Row&, int64_t)>& found) {
    const auto in = [&](const Row& row, auto at) {
        each_damaged(db, row, at, cancel, [&](int64_t id) { found(row, id); });
    };
    in(kElementRow, [](const Statement& row) {
        Elements element;
        return element_at(row, element);
    });
    in(kEditRow, edit_at);
    in(kCorrectionRow, correction_at);
}

std::vector<std::string> columns_of(Database& db, const std::string& table) {
    std::vector<std::string> out;
    Statement s = db.prepare("SELECT name FROM pragma_table_info(?)");
    s.bind(table);
    while (s.step()) out.push_back(s.text(0));
    return out;
}

std::string joined(const std::vector<std::string>& names) {
    std::string out;
    for (const std::string& name : names) out += (out.empty() ? "" : ", ") + name;
    return out;
}

// Copies rows until one can't be read; then from the other end, until the same happens there.
void save_rows(Database& old, Database& fresh, const std::string& table) {
    std::vector<std::string> columns = columns_of(old, table);
    static_cast<void>(old.take_status());
    const std::vector<std::string> known = columns_of(fresh, table);
    std::erase_if(columns, [&](const std::string& c) { return std::ranges::find(known, c) == known.end(); });
    if (columns.empty()) return;
    std::string places;
    for (size_t i = 0; i < columns.size(); ++i) places += i > 0 ? ", ?" : "?";
    const bool ordered = columns[0] == "id";
    const std::string list = joined(columns);
    std::string select = "SELECT ", insert = "INSERT OR IGNORE INTO ";
    select.append(list).append(" FROM ").append(table);
    insert.append(table).append(" (").append(list).append(") VALUES (").append(places).append(")");
    for (const char* order : {"", " ORDER BY id DESC"}) {
        if (*order && !ordered) break;
        Statement from = old.prepare(select + order);
        Statement into = fresh.prepare(insert);
        while (from.step()) {
            into.reset();
            for (int i = 0; i < static_cast<int>(columns.size()); ++i) into.bind_value(from, i);
            into.run();
            static_cast<void>(fresh.take_status());  // a row that breaks the table's rules is left out
        }
        if (!old.failed()) break;
        static_cast<void>(old.take_status());
    }
    static_cast<void>(old.take_status());
}

}  // namespace

Result<std::vector<std::string>> Library::check(const CancelToken& cancel) const {
    const Turn turn(mutex_, db_);
    std::vector<std::string> wrong;
    {
        Statement s = db_->prepare("PRAGMA integrity_check");
        while (s.step())
            if (s.text(0) != "ok") wrong.push_back("database: " + s.text(0));
        Statement keys = db_->prepare("PRAGMA foreign_key_check");
        std::map<std::string, size_t> loose;  // rows of each table that refer to nothing
        while (keys.step()) ++loose[keys.text(0)];
        for (const auto& [table, rows] : loose)
            wrong.push_back(
                "database: " +
                (rows == 1 ? "a row of " + table + " refers" : std::to_string(rows) + " rows of " + table + " refer") +
                " to nothing");
    }
    Statement files = db_->prepare("SELECT hash FROM file");
    while (files.step() && !cancel.cancelled()) {
        const std::string hash = files.text(0);
        if (!is_file_hash(hash)) {
            wrong.push_back("file \"" + hash.substr(0, 80) + "\": none of the library's own");
            continue;
        }
        const auto bytes = file(hash);
        if (!bytes)
            wrong.push_back("file " + hash + ": missing or not readable");
        else if (sha256(*bytes) != hash)
            wrong.push_back("file " + hash + ": altered");
    }
    Statement sounds = db_->prepare("SELECT id, file FROM sound");
    while (sounds.step()) {
        std::error_code missing;
        if (!is_sound_name(sounds.text(1)) || !fs::is_regular_file(directory_ / "sound" / sounds.text(1), missing))
            wrong.push_back("sound " + sounds.text(0) + ": missing or not readable");
    }
    Statement tracks = db_->prepare(std::string("SELECT ") + kTrackColumns + " FROM track");
    while (tracks.step())
        if (!track_at(tracks)) wrong.push_back("voice track " + tracks.text(0) + ": damaged");
    each_damaged_row(*db_, cancel, [&](const Row& row, int64_t id) {
        wrong.push_back(std::string(row.table) + " " + std::to_string(id) + ": damaged");
    });
    Statement stamps =
        db_->prepare("SELECT stamp, kind, z, body, sum = checksum(stamp, kind, z, body) FROM stamp_element");
    while (stamps.step() && !cancel.cancelled()) {
        Elements element;
        if (stamps.integer(4) != 1 || !decode_into(element, stamps.integer(1), 0, stamps.integer(2), stamps.blob(3)))
            wrong.push_back("stamp " + stamps.text(0) + ": damaged");
    }
    Statement lines = db_->prepare(std::string("SELECT ") + kLineColumns + ", page, id, outline FROM reading_line");
    Statement terms = db_->prepare("SELECT word, position FROM term WHERE line = ?");
    while (lines.step() && !cancel.cancelled()) {
        const auto line = line_at(lines);
        if (!line) {
            wrong.push_back("page " + lines.text(kLineColumnCount) + ": a reading is damaged");
            continue;
        }
        std::set<std::pair<std::string, int64_t>> meant, stored;
        const LineKind kind = lines.integer(kLineColumnCount + 2) != 0 ? LineKind::outline : LineKind::on_page;
        for (const Term& t : terms_of(*line, kind)) meant.emplace(t.word, t.position);
        terms.reset().bind(lines.integer(kLineColumnCount + 1));
        while (terms.step()) stored.emplace(terms.text(0), terms.integer(1));
        if (meant != stored)
            wrong.push_back("page " + lines.text(kLineColumnCount) + ": the index is out of step with the reading");
    }
    if (Status status = db_->take_status(); !status) wrong.push_back("database: " + status.error().message);
    return wrong;
}

Result<std::string> Library::repair(const fs::path& directory) {
    Library library;
    library.directory_ = directory;
    if (Status locked = library.take_lock(); !locked) return locked.error();
    const fs::path database = directory / "library.db", fresh = directory / "library.db.mended";
    std::error_code ignored;
    for (const char* ending : {"", "-wal", "-shm"}) fs::remove(fresh.string() + ending, ignored);
    auto old = Database::open(database, Database::Mode::change);
    if (!old) return Error{directory.string() + ": nothing can be saved from it. " + old.error().message};
    auto made = Database::open(fresh, Database::Mode::change);
    if (!made) return made.error();
    library.db_ = *std::move(made);
    library.db_->execute("PRAGMA foreign_keys = OFF");
    {
        Transaction transaction(*library.db_);
        library.save_from(**old);
        if (Status status = transaction.commit(); !status) return status.error();
    }
    library.db_.reset();  // its log is written into it
    *old = nullptr;

    fs::path beside;
    for (int n = 1; beside.empty() || fs::exists(beside, ignored); ++n)
        beside = directory / ("library.db.damaged-" + std::to_string(n));
    // A log that is left belongs to the old one only.
    if (fs::exists(database.string() + "-wal", ignored))
        fs::rename(database.string() + "-wal", beside.string() + "-wal", ignored);
    fs::remove(database.string() + "-shm", ignored);
    // At every moment one of the two bears the name.
    const long swapped = ::syscall(SYS_renameat2, AT_FDCWD, fresh.c_str(), AT_FDCWD, database.c_str(), RENAME_EXCHANGE);
    std::error_code problem;
    if (swapped == 0) {
        fs::rename(fresh, beside, problem);
    } else {  // a file system that can't exchange names
        fs::rename(database, beside, problem);
        if (!problem) fs::rename(fresh, database, problem);
    }
    if (problem) return Error{"The mended library can't take its place: " + problem.message() + "."};
    if (Status kept = keep_names(directory); !kept) return kept.error();
    return beside.filename().string();
}

// All that is whole in another database, into this one, which is empty: it gets the other's layout, its rows, and then
// the newest layout.
void Library::save_from(Database& old) {
    int64_t step = 0;
    {
        Statement s = old.prepare("PRAGMA user_version");
        if (s.step()) step = s.integer(0);
    }
    static_cast<void>(old.take_status());
    if (step < 1 || step > kNewestStep) step = columns_of(old, "stroke").empty() ? kNewestStep : kNewestStep - 1;
    run_steps(*db_, 0, step);
    db_->execute("DELETE FROM hand");  // the first one comes with a new library
    for (const char* table : kTables) save_rows(old, *db_, table);
    run_steps(*db_, step, kNewestStep);
    static_cast<void>(old.take_status());
    drop_damaged();
    rebuild_index();
    take_device();
    raise_ids();
    mark_all_unread(0);
}

void Library::rebuild_file_refs() {
    db_->execute("DELETE FROM file_ref");
    Statement s = db_->prepare("SELECT " + listed(kElementRow) + " FROM element WHERE kind <> ?");
    Statement insert = db_->prepare("INSERT INTO file_ref (file, element) VALUES (?, ?)");
    s.bind(static_cast<int>(ElementKind::stroke));  // of which there are many, and they name none
    while (s.step()) {
        Elements one;
        static_cast<void>(element_at(s, one));
        for_each_element(one, [&]<typename E>(const E& e) {
            for (const std::string& file : ElementTraits<E>::files(e)) insert.reset().bind(file).bind(e.id).run();
        });
    }
}

void Library::drop_damaged() {
    std::vector<std::pair<const Row*, int64_t>> bad;
    each_damaged_row(*db_, {}, [&](const Row& row, int64_t id) { bad.emplace_back(&row, id); });
    for (const auto& [row, id] : bad)
        db_->prepare(std::string("DELETE FROM ") + row->table + " WHERE id = ?").bind(id).run();
    std::vector<int64_t> lines;
    {
        Statement s = db_->prepare(std::string("SELECT ") + kLineColumns + ", id FROM reading_line");
        while (s.step())
            if (!line_at(s)) lines.push_back(s.integer(kLineColumnCount));
    }
    for (const int64_t id : lines) db_->prepare("DELETE FROM reading_line WHERE id = ?").bind(id).run();

    // What is left of pages whose own row is lost gets a page; pages without a notebook get one.
    constexpr char kHomeless[] = "SELECT page FROM element EXCEPT SELECT id FROM page";
    bool any = false;
    {
        Statement s = db_->prepare(std::string("SELECT EXISTS (") + kHomeless +
                                   ") OR EXISTS (SELECT 1 FROM page WHERE notebook NOT IN (SELECT id FROM notebook))");
        any = s.step() && s.integer(0) != 0;
    }
    if (any) {
        const Notebook usual;
        db_->prepare("INSERT INTO notebook (title, cover, language, paper, width, height) VALUES (?, ?, 'en', ?, ?, ?)")
            .bind(std::string(kSavedTitle))
            .bind(static_cast<int64_t>(usual.cover))
            .bind(static_cast<int>(usual.sheet.paper))
            .bind(usual.sheet.width_mm)
            .bind(usual.sheet.height_mm)
            .run();
        const NotebookId home = db_->last_id();
        db_->prepare("UPDATE page SET notebook = ? WHERE notebook NOT IN (SELECT id FROM notebook)").bind(home).run();
        db_->prepare(std::string("INSERT INTO page (id, notebook, number, width, height, paper, spacing, created) "
                                 "SELECT page, ?1, 1000000 + page, ?2, ?3, ?4, ?5, ?6 FROM (") +
                     kHomeless + ")")
            .bind(home)
            .bind(usual.sheet.width_mm)
            .bind(usual.sheet.height_mm)
            .bind(static_cast<int>(usual.sheet.paper))
            .bind(usual.sheet.spacing_mm)
            .bind(now_ms())
            .run();
        renumber(home);
    }
    for (const char* table : {"edit", "reading_line", "correction", "unread"})
        db_->execute(std::string("DELETE FROM ") + table + " WHERE page NOT IN (SELECT id FROM page)");
    db_->execute("DELETE FROM example WHERE hand NOT IN (SELECT id FROM hand)");
    save_named_files();
}

// A file may be there though the row that says so is lost. What needs one that is not there can't be shown.
void Library::save_named_files() {
    rebuild_file_refs();
    const auto unknown = [&](const std::string& select) {
        std::vector<std::string> out;
        Statement s = db_->prepare(select);
        while (s.step()) out.push_back(s.text(0));
        return out;
    };
    for (const std::string& hash :
         unknown("SELECT file FROM (SELECT file FROM file_ref UNION SELECT file FROM intake) WHERE file NOT IN (SELECT "
                 "hash FROM file)")) {
        if (const auto bytes = file(hash)) {
            db_->prepare("INSERT INTO file (hash, bytes) VALUES (?, ?)")
                .bind(hash)
                .bind(static_cast<int64_t>(bytes->size()))
                .run();
            continue;
        }
        db_->prepare("DELETE FROM element WHERE id IN (SELECT element FROM file_ref WHERE file = ?)").bind(hash).run();
        db_->prepare("DELETE FROM file_ref WHERE file = ?").bind(hash).run();
        db_->prepare("DELETE FROM intake WHERE file = ?").bind(hash).run();
    }
}

}  // namespace fernleaf
