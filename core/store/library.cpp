#include "store/library.h"

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <fstream>
#include <functional>
#include <iterator>
#include <map>
#include <nlohmann/json.hpp>
#include <set>

#include "base/file.h"
#include "base/now.h"
#include "base/text.h"
#include "store/codec.h"
#include "store/schema.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;
using Json = nlohmann::json;

constexpr char kDatabaseName[] = "library.db";

Box box_at(const Statement& row, int column) {
    return {row.real(column), row.real(column + 1), row.real(column + 2), row.real(column + 3)};
}

Statement& bind_box(Statement& s, const Box& box) {
    const bool none = box.empty();
    return s.bind(none ? 0.0 : box.left)
        .bind(none ? 0.0 : box.top)
        .bind(none ? 0.0 : box.right)
        .bind(none ? 0.0 : box.bottom);
}

template <typename Element>
std::string ids_of(const std::vector<Element>& elements) {
    Json ids = Json::array();
    for (const Element& e : elements) ids.push_back(e.id);
    return ids.dump();
}

std::vector<int64_t> ids_from(const std::string& json) {
    const Json ids = Json::parse(json, nullptr, false);
    return ids.is_array() ? ids.get<std::vector<int64_t>>() : std::vector<int64_t>();
}

Result<Stroke> stroke_at(const Statement& row) {
    Stroke stroke;
    stroke.id = row.integer(0);
    stroke.pen = {static_cast<uint32_t>(row.integer(1)), static_cast<float>(row.real(2)),
                  static_cast<PenKind>(row.integer(3)),  static_cast<Tip>(row.integer(4)),
                  static_cast<float>(row.real(5)),       row.integer(6) != 0};
    stroke.order = row.integer(7);
    stroke.start_ms = row.integer(8);
    auto points = decode_points(row.blob(9));
    if (!points) return points.error();
    stroke.points = *std::move(points);
    return stroke;
}

// A picture is shown as it came when what was done to it can't be read; check() tells.
Treatment treatment_or_none(const std::string& json) {
    const auto treatment = decode_treatment(json);
    return treatment ? *treatment : Treatment{};
}

Picture picture_at(const Statement& row) {
    return {row.integer(0),
            row.text(1),
            row.text(2),
            static_cast<int>(row.integer(3)),
            Box::of(row.real(4), row.real(5), row.real(6), row.real(7)),
            row.real(8),
            box_at(row, 9),
            row.integer(13) != 0,
            row.integer(14),
            treatment_or_none(row.text(15))};
}

Result<TextBlock> text_at(const Statement& row) {
    auto text = decode_text(row.text(1));
    if (text) text->id = row.integer(0);
    return text;
}

constexpr char kStrokeColumns[] = "id, colour, width, kind, tip, opacity, by_pressure, place, start, points";
constexpr char kPictureColumns[] =
    "id, file, name, frame, x, y, width, height, angle, crop_left, crop_top, crop_right, crop_bottom, locked, place, "
    "treatment";
constexpr char kTextColumns[] = "id, data";
constexpr char kCorrectionColumns[] = "strokes, box_left, box_top, box_right, box_bottom, text, kind";

Correction correction_at(const Statement& row) {
    return {ids_from(row.text(0)), box_at(row, 1), row.text(5), static_cast<Said>(row.integer(6))};
}

// What is on a page's list of ids, in the order of the list.
template <typename Element, typename At>
Status load_listed(Database& db, const char* columns, const char* table, const std::string& ids, At at,
                   std::vector<Element>& into) {
    Statement s = db.prepare(std::string("SELECT ") + columns + " FROM " + table + " WHERE id = ?");
    for (const int64_t id : ids_from(ids)) {
        if (!s.reset().bind(id).step()) continue;
        Result<Element> element = at(s);
        if (!element) return element.error();
        into.push_back(*std::move(element));
    }
    return Done{};
}

template <typename Element>
void set_live_in(Database& db, const char* table, const std::vector<Element>& elements, bool live) {
    if (elements.empty()) return;
    Statement s = db.prepare(std::string("UPDATE ") + table + " SET live = ? WHERE id = ?");
    for (const Element& e : elements) s.reset().bind(live ? 1 : 0).bind(e.id).run();
}

void set_live(Database& db, const Elements& elements, bool live) {
    set_live_in(db, "stroke", elements.strokes, live);
    set_live_in(db, "picture", elements.pictures, live);
    set_live_in(db, "text_block", elements.texts, live);
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
        .bind(n.lean)
        .bind(n.hand);
}

PageInfo page_at(const Statement& row) {
    PageInfo info;
    info.id = row.integer(0);
    info.notebook = row.integer(1);
    info.number = static_cast<int>(row.integer(2));
    info.width_mm = row.real(3);
    info.height_mm = row.real(4);
    info.paper = static_cast<Paper>(row.integer(5));
    info.spacing_mm = row.real(6);
    info.created_ms = row.integer(7);
    info.colour = static_cast<uint32_t>(row.integer(8));
    info.picture = row.text(9);
    info.endless = row.integer(10) != 0;
    return info;
}

constexpr char kPageColumns[] =
    "id, notebook, number, width, height, paper, spacing, created, colour, picture, endless";
constexpr char kNotebookColumns[] =
    "id, title, cover, language, width, height, paper, spacing, colour, picture, endless, lean, hand";

std::string next_word(std::string word) {  // the first text after all that word begins
    word.push_back(static_cast<char>(0xFF));
    return word;
}

}  // namespace

Library::~Library() {
    db_.reset();
    if (lock_ >= 0) ::close(lock_);
}

Result<std::unique_ptr<Library>> Library::open(const fs::path& directory) {
    std::unique_ptr<Library> library(new Library);
    library->directory_ = directory;
    const fs::path database = directory / kDatabaseName;
    std::error_code problem;
    if (fs::exists(directory, problem) && !fs::is_directory(directory, problem))
        return Error{directory.string() + " is a file, not a library."};
    const bool exists = fs::exists(database, problem);
    if (!exists && fs::is_directory(directory, problem) && !fs::is_empty(directory, problem) &&
        !fs::exists(directory / "lock", problem))
        return Error{directory.string() +
                     " holds other files and no library. Choose an empty folder for a new library."};
    fs::create_directories(directory / "files", problem);
    if (problem && !exists)
        return Error{"A library can't be made in " + directory.string() + ": " + problem.message() + "."};

    library->lock_ = ::open((directory / "lock").c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0644);
    if (library->lock_ < 0)
        library->why_read_only_ = "The library " + directory.string() + " can't be written to (" +
                                  std::strerror(errno) + "); it is open for reading.";
    else if (::flock(library->lock_, LOCK_EX | LOCK_NB) != 0)
        library->why_read_only_ =
            "The library " + directory.string() + " is in use by another window or program; it is open for reading.";

    const bool read_only = library->why_read_only_.has_value();
    if (read_only && !exists) return Error{*library->why_read_only_};
    auto db = Database::open(database, read_only);
    if (!db) return Error{directory.string() + ": " + db.error().message};
    library->db_ = *std::move(db);
    if (Status status = library->migrate(); !status) return Error{directory.string() + ": " + status.error().message};
    return library;
}

Status Library::migrate() {
    int64_t version = 0;
    {
        Statement s = db_->prepare("PRAGMA user_version");
        if (s.step()) version = s.integer(0);
    }
    if (db_->failed()) return db_->take_status();
    const auto newest = static_cast<int64_t>(kMigrations.size());
    if (version > newest) return Error{"This library was made by a newer Fernleaf. Update Fernleaf to open it."};
    if (version < newest && why_read_only_)
        return Error{"The library is of an older kind and can't be brought up to date: " + *why_read_only_};
    for (; version < newest; ++version) {
        Transaction transaction(*db_);
        db_->execute(kMigrations[static_cast<size_t>(version)]);
        db_->execute("PRAGMA user_version = " + std::to_string(version + 1));
        if (Status status = transaction.commit(); !status) return status;
    }
    Statement newest_element = db_->prepare(
        "SELECT max(ifnull((SELECT max(id) FROM stroke), 0), ifnull((SELECT max(id) FROM picture), 0), "
        "ifnull((SELECT max(id) FROM text_block), 0))");
    if (newest_element.step()) next_element_ = newest_element.integer(0) + 1;
    return db_->take_status();
}

Result<std::vector<Notebook>> Library::notebooks() const {
    const std::lock_guard lock(mutex_);
    std::vector<Notebook> out;
    Statement s =
        db_->prepare(std::string("SELECT ") + kNotebookColumns + " FROM notebook WHERE binned = 0 ORDER BY id");
    while (s.step())
        out.push_back({s.integer(0),
                       s.text(1),
                       static_cast<uint32_t>(s.integer(2)),
                       language_codes(s.text(3)),
                       {s.real(4), s.real(5), static_cast<Paper>(s.integer(6)), s.real(7),
                        static_cast<uint32_t>(s.integer(8)), s.text(9), s.integer(10) != 0},
                       s.real(11),
                       s.integer(12)});
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
    const std::lock_guard lock(mutex_);
    std::vector<PageSummary> out;
    Statement first = db_->prepare(
        "SELECT words FROM reading_line WHERE page = ? AND kind = 0 AND words <> '[]' ORDER BY number LIMIT 1");
    Statement any = db_->prepare(
        "SELECT EXISTS (SELECT 1 FROM stroke WHERE page = ?1 AND live = 1) OR EXISTS (SELECT 1 FROM picture WHERE page "
        "= ?1 AND live = 1) OR EXISTS (SELECT 1 FROM text_block WHERE page = ?1 AND live = 1)");
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
    const std::lock_guard lock(mutex_);
    if (why_read_only_) return Error{*why_read_only_};
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
    const std::lock_guard lock(mutex_);
    if (why_read_only_) return Error{*why_read_only_};
    if (trimmed(notebook.title).empty()) return Error{"A notebook needs a title."};
    Transaction transaction(*db_);
    Statement update = db_->prepare(
        "UPDATE notebook SET title = ?, cover = ?, language = ?, width = ?, height = ?, paper = ?, spacing = ?, colour "
        "= "
        "?, picture = ?, endless = ?, lean = ?, hand = ? WHERE id = ?");
    bind_notebook(update, notebook).bind(notebook.id).run();
    return transaction.commit();
}

Result<std::vector<PageInfo>> Library::pages(NotebookId notebook) const {
    const std::lock_guard lock(mutex_);
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
    const std::lock_guard lock(mutex_);
    if (why_read_only_) return Error{*why_read_only_};
    Transaction transaction(*db_);
    const PageId id = insert_page(notebook, info);
    if (Status status = transaction.commit(); !status) return status.error();
    return id;
}

Result<Page> Library::load_page(PageId page) const {
    const std::lock_guard lock(mutex_);
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
    Statement strokes =
        db_->prepare(std::string("SELECT ") + kStrokeColumns +
                     " FROM stroke WHERE page = ? AND live = 1 ORDER BY iif(place != 0, place, id), id");
    strokes.bind(page);
    while (strokes.step()) {
        auto stroke = stroke_at(strokes);
        if (!stroke) return stroke.error();
        out.strokes.push_back(*std::move(stroke));
    }
    Statement pictures =
        db_->prepare(std::string("SELECT ") + kPictureColumns +
                     " FROM picture WHERE page = ? AND live = 1 ORDER BY iif(place != 0, place, id), id");
    pictures.bind(page);
    while (pictures.step()) out.pictures.push_back(picture_at(pictures));
    Statement texts =
        db_->prepare(std::string("SELECT ") + kTextColumns + " FROM text_block WHERE page = ? AND live = 1");
    texts.bind(page);
    while (texts.step()) {
        auto text = text_at(texts);
        if (!text) return text.error();
        out.texts.push_back(*std::move(text));
    }
    std::ranges::sort(out.texts, [](const TextBlock& a, const TextBlock& b) { return lies_below(a, b); });
    make_room_below(out);
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

void Library::insert_elements(PageId page, Elements& elements) {
    // What is on disk already, taken off the page by an earlier edit, is left as it is.
    Statement stroke = db_->prepare(
        "INSERT OR IGNORE INTO stroke (id, page, live, colour, width, kind, tip, opacity, by_pressure, place, start, "
        "points) VALUES (?, ?, 1, ?, ?, ?, ?, ?, ?, ?, ?, ?)");
    for (Stroke& s : elements.strokes) {
        if (s.id == 0) s.id = new_element_id();
        s = quantised(std::move(s));
        stroke.reset()
            .bind(s.id)
            .bind(page)
            .bind(static_cast<int64_t>(s.pen.colour))
            .bind(static_cast<double>(s.pen.width_mm))
            .bind(static_cast<int>(s.pen.kind))
            .bind(static_cast<int>(s.pen.tip))
            .bind(static_cast<double>(s.pen.opacity))
            .bind(s.pen.by_pressure ? 1 : 0)
            .bind(s.order)
            .bind(s.start_ms)
            .bind_blob(encode_points(s.points))
            .run();
    }
    Statement picture = db_->prepare(
        "INSERT OR IGNORE INTO picture (id, page, live, file, name, frame, x, y, width, height, angle, crop_left, "
        "crop_top, crop_right, crop_bottom, locked, place, treatment) VALUES (?, ?, 1, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, "
        "?, ?, "
        "?, ?, ?)");
    for (Picture& p : elements.pictures) {
        if (p.id == 0) p.id = new_element_id();
        picture.reset()
            .bind(p.id)
            .bind(page)
            .bind(p.file)
            .bind(p.name)
            .bind(p.frame)
            .bind(p.box.left)
            .bind(p.box.top)
            .bind(p.box.width())
            .bind(p.box.height())
            .bind(p.angle)
            .bind(p.crop.left)
            .bind(p.crop.top)
            .bind(p.crop.right)
            .bind(p.crop.bottom)
            .bind(p.locked ? 1 : 0)
            .bind(p.order)
            .bind(encode_treatment(p.treatment))
            .run();
    }
    Statement text = db_->prepare("INSERT OR IGNORE INTO text_block (id, page, live, data) VALUES (?, ?, 1, ?)");
    for (TextBlock& t : elements.texts) {
        if (t.id == 0) t.id = new_element_id();
        text.reset().bind(t.id).bind(page).bind(encode_text(t)).run();
    }
}

Status Library::commit(PageId page, Edit& edit) {
    const std::lock_guard lock(mutex_);
    if (why_read_only_) return Error{*why_read_only_};
    if (const auto why = unsound(edit.added)) return Error{*why};
    Transaction transaction(*db_);
    insert_elements(page, edit.added);
    set_live(*db_, edit.added, true);
    set_live(*db_, edit.removed, false);
    if (edit.sheet) put_sheet(*db_, page, edit.sheet->after);
    if (!edit.followed.empty())
        for (const Correction& c : followed_corrections(load_corrections(page), edit.followed, edit.added.strokes))
            insert_correction(page, c);
    if (edit.flow) insert_flow(page, *edit.flow);
    std::vector<int64_t> corrections;
    for (const Correction& c : edit.said) corrections.push_back(insert_correction(page, c));
    db_->prepare("DELETE FROM edit WHERE page = ? AND undone = 1").bind(page).run();
    db_->prepare(
           "INSERT INTO edit (page, label, undone, strokes_added, strokes_removed, pictures_added, pictures_removed, "
           "texts_added, texts_removed, sheet, page_added, corrections) VALUES (?, ?, 0, ?, ?, ?, ?, ?, ?, ?, ?, ?)")
        .bind(page)
        .bind(edit.label)
        .bind(ids_of(edit.added.strokes))
        .bind(ids_of(edit.removed.strokes))
        .bind(ids_of(edit.added.pictures))
        .bind(ids_of(edit.removed.pictures))
        .bind(ids_of(edit.added.texts))
        .bind(ids_of(edit.removed.texts))
        .bind(edit.sheet ? encode_sheet_change(*edit.sheet) : std::string())
        .bind(edit.flow ? edit.flow->page : 0)
        .bind(Json(corrections).dump())
        .run();
    return transaction.commit();
}

Result<std::vector<PageId>> Library::add_filled_pages(NotebookId notebook, std::vector<FilledPage>& pages) {
    const std::lock_guard lock(mutex_);
    if (why_read_only_) return Error{*why_read_only_};
    for (const FilledPage& page : pages)
        if (const auto why = unsound(page.content)) return Error{*why};
    std::vector<PageId> ids;
    Transaction transaction(*db_);
    for (FilledPage& page : pages) {
        ids.push_back(insert_page(notebook, page.info));
        insert_elements(ids.back(), page.content);
    }
    if (Status status = transaction.commit(); !status) return status.error();
    return ids;
}

Result<std::optional<Edit>> Library::undo(PageId page) { return step(page, false); }
Result<std::optional<Edit>> Library::redo(PageId page) { return step(page, true); }

Result<std::optional<Edit>> Library::step(PageId page, bool forward) {
    const std::lock_guard lock(mutex_);
    if (why_read_only_) return Error{*why_read_only_};
    Transaction transaction(*db_);
    int64_t id = 0;
    Edit edit;
    {
        // Undo takes the newest edit, redo the oldest of those undone.
        Statement s = db_->prepare(
            std::string("SELECT id, label, strokes_added, strokes_removed, pictures_added, "
                        "pictures_removed, texts_added, texts_removed, sheet, page_added, corrections FROM edit ") +
            (forward ? "WHERE page = ? AND undone = 1 ORDER BY id LIMIT 1"
                     : "WHERE page = ? AND undone = 0 ORDER BY id DESC LIMIT 1"));
        s.bind(page);
        if (!s.step()) {
            if (Status status = db_->take_status(); !status) return status.error();
            return std::optional<Edit>();
        }
        id = s.integer(0);
        edit.label = s.text(1);
        const auto picture = [](const Statement& row) { return Result<Picture>(picture_at(row)); };
        int column = 2;
        const auto load = [&](auto* columns, const char* table, auto at, auto member) -> Status {
            for (Elements* side : {&edit.added, &edit.removed})
                if (Status status = load_listed(*db_, columns, table, s.text(column++), at, side->*member); !status)
                    return status;
            return Done{};
        };
        if (Status status = load(kStrokeColumns, "stroke", stroke_at, &Elements::strokes); !status)
            return status.error();
        if (Status status = load(kPictureColumns, "picture", picture, &Elements::pictures); !status)
            return status.error();
        if (Status status = load(kTextColumns, "text_block", text_at, &Elements::texts); !status) return status.error();
        if (!s.text(8).empty()) {
            const auto sheet = decode_sheet_change(s.text(8));
            if (!sheet) return sheet.error();
            edit.sheet = *sheet;
        }
        if (s.integer(9) != 0) edit.flow = Flow{s.integer(9)};
        const std::string said = s.text(10);
        Statement correction =
            db_->prepare(std::string("SELECT ") + kCorrectionColumns +
                         " FROM correction WHERE id IN (SELECT value FROM json_each(?)) ORDER BY id");
        correction.bind(said);
        while (correction.step()) edit.said.push_back(correction_at(correction));
        db_->prepare("UPDATE correction SET live = ? WHERE id IN (SELECT value FROM json_each(?))")
            .bind(forward ? 1 : 0)
            .bind(said)
            .run();
    }
    if (!forward) edit = edit.reversed();
    set_live(*db_, edit.added, true);
    set_live(*db_, edit.removed, false);
    if (edit.sheet) put_sheet(*db_, page, edit.sheet->after);
    if (edit.flow) put_page_away(edit.flow->page, !forward);
    db_->prepare("UPDATE edit SET undone = ? WHERE id = ?").bind(forward ? 0 : 1).bind(id).run();
    if (Status status = transaction.commit(); !status) return status.error();
    return std::optional(std::move(edit));
}

Result<Steps> Library::steps(PageId page) const {
    const std::lock_guard lock(mutex_);
    Steps steps;
    Statement undo = db_->prepare("SELECT label FROM edit WHERE page = ? AND undone = 0 ORDER BY id DESC LIMIT 1");
    if (undo.bind(page).step()) steps.undo = undo.text(0);
    Statement redo = db_->prepare("SELECT label FROM edit WHERE page = ? AND undone = 1 ORDER BY id LIMIT 1");
    if (redo.bind(page).step()) steps.redo = redo.text(0);
    if (Status status = db_->take_status(); !status) return status.error();
    return steps;
}

Result<std::vector<TextBlock>> Library::earlier_settings(PageId page, const std::vector<StrokeId>& ink) const {
    const std::lock_guard lock(mutex_);
    const std::set<StrokeId> wanted(ink.begin(), ink.end());
    std::vector<TextBlock> out;
    Statement s = db_->prepare(std::string("SELECT ") + kTextColumns +
                               " FROM text_block WHERE page = ? AND live = 0 ORDER BY id DESC");
    s.bind(page);
    while (s.step()) {
        auto text = text_at(s);
        if (!text) return text.error();
        if (std::ranges::any_of(text->ink, [&](StrokeId id) { return wanted.contains(id); }))
            out.push_back(*std::move(text));
    }
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<std::vector<Stroke>> Library::strokes(const std::vector<StrokeId>& ids) const {
    const std::lock_guard lock(mutex_);
    return strokes_locked(ids);
}

Result<std::vector<Stroke>> Library::strokes_locked(const std::vector<StrokeId>& ids) const {
    std::vector<Stroke> out;
    Status status = load_listed(*db_, kStrokeColumns, "stroke", Json(ids).dump(), stroke_at, out);
    if (status) status = db_->take_status();
    if (!status) return status.error();
    return out;
}

Result<std::string> Library::add_file(const std::string& bytes) {
    const std::lock_guard lock(mutex_);
    if (why_read_only_) return Error{*why_read_only_};
    const std::string hash = sha256(bytes);
    const fs::path path = directory_ / "files" / hash;
    std::error_code problem;
    if (!fs::exists(path, problem) || fs::file_size(path, problem) != bytes.size()) {
        // A file under its hash is always whole.
        if (Status status = write_whole(path, bytes); !status) return status.error();
    }
    Transaction transaction(*db_);
    db_->prepare("INSERT OR IGNORE INTO file (hash, bytes) VALUES (?, ?)")
        .bind(hash)
        .bind(static_cast<int64_t>(bytes.size()))
        .run();
    if (Status status = transaction.commit(); !status) return status.error();
    return hash;
}

Result<std::string> Library::file(const std::string& hash) const {
    std::ifstream in(directory_ / "files" / hash, std::ios::binary);
    if (!in) return Error{"The library's file " + hash + " is missing."};
    return std::string(std::istreambuf_iterator<char>(in), {});
}

Result<Reading> Library::reading(PageId page) const {
    const std::lock_guard lock(mutex_);
    Reading out;
    Statement s = db_->prepare(
        "SELECT region, kind, certainty, box_left, box_top, box_right, box_bottom, source, words, heading "
        "FROM reading_line WHERE page = ? ORDER BY number");
    s.bind(page);
    while (s.step()) {
        ReadLine line;
        line.region = static_cast<int>(s.integer(0));
        line.kind = static_cast<RegionKind>(s.integer(1));
        line.certainty = s.real(2);
        line.box = box_at(s, 3);
        line.source = static_cast<uint64_t>(s.integer(7));
        auto words = decode_words(s.text(8));
        if (!words) return words.error();
        line.words = *std::move(words);
        line.heading = static_cast<int>(s.integer(9));
        out.lines.push_back(std::move(line));
    }
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Status Library::save_reading(PageId page, const Reading& reading) {
    const std::lock_guard lock(mutex_);
    if (why_read_only_) return Error{*why_read_only_};
    Transaction transaction(*db_);
    db_->prepare("DELETE FROM reading_line WHERE page = ?").bind(page).run();
    Statement insert = db_->prepare(
        "INSERT INTO reading_line (page, number, region, kind, certainty, box_left, box_top, box_right, "
        "box_bottom, source, words, heading) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)");
    Statement term = db_->prepare("INSERT INTO term (word, line, position, certainty) VALUES (?, ?, ?, ?)");
    int number = 0;
    for (const ReadLine& line : reading.lines) {
        bind_box(insert.reset()
                     .bind(page)
                     .bind(number++)
                     .bind(line.region)
                     .bind(static_cast<int>(line.kind))
                     .bind(line.certainty),
                 line.box)
            .bind(static_cast<int64_t>(line.source))
            .bind(encode_words(line.words))
            .bind(line.heading)
            .run();
        const int64_t id = db_->last_id();
        for (const Term& t : terms_of(line))
            term.reset().bind(t.word).bind(id).bind(t.position).bind(t.certainty).run();
    }
    return transaction.commit();
}

Result<std::vector<Correction>> Library::corrections(PageId page) const {
    const std::lock_guard lock(mutex_);
    std::vector<Correction> out = load_corrections(page);
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

std::vector<Correction> Library::load_corrections(PageId page) const {
    std::vector<Correction> out;
    Statement s = db_->prepare(std::string("SELECT ") + kCorrectionColumns +
                               " FROM correction WHERE page = ? AND live = 1 ORDER BY id");
    s.bind(page);
    while (s.step()) out.push_back(correction_at(s));
    return out;
}

int64_t Library::insert_correction(PageId page, const Correction& correction) {
    Statement s = db_->prepare(
        "INSERT INTO correction (page, strokes, box_left, box_top, box_right, box_bottom, text, made, kind) VALUES (?, "
        "?, ?, ?, ?, ?, ?, ?, ?)");
    s.bind(page).bind(Json(correction.strokes).dump());
    bind_box(s, correction.box).bind(correction.text).bind(now_ms()).bind(static_cast<int>(correction.kind)).run();
    return db_->last_id();
}

Result<std::vector<Hit>> Library::find(const Query& query, size_t limit) const {
    const std::lock_guard lock(mutex_);
    struct Match {
        double certainty = 0;
        std::set<int64_t> positions;
    };
    // Lines that hold each phrase, then the pages that hold them all.
    std::map<int64_t, Match> lines;
    std::map<int64_t, size_t> phrases_of_page;
    Statement first = db_->prepare(
        "SELECT t.line, t.position, t.certainty, l.page FROM term t JOIN reading_line l ON l.id = t.line "
        "WHERE t.word >= ? AND t.word < ?");
    Statement follow =
        db_->prepare("SELECT max(certainty) FROM term WHERE line = ? AND position = ? AND word >= ? AND word < ?");
    for (const Phrase& phrase : query.phrases) {
        std::set<int64_t> pages;
        const auto end_of = [&](size_t i) {
            const bool prefix = i + 1 == phrase.words.size() && !phrase.whole;
            return prefix ? next_word(phrase.words[i]) : phrase.words[i] + '\x01';
        };
        first.reset().bind(phrase.words[0]).bind(end_of(0));
        while (first.step()) {
            const int64_t line = first.integer(0);
            const int64_t position = first.integer(1);
            double certainty = first.real(2);
            size_t i = 1;
            for (; i < phrase.words.size(); ++i) {
                follow.reset()
                    .bind(line)
                    .bind(position + static_cast<int64_t>(i))
                    .bind(phrase.words[i])
                    .bind(end_of(i));
                if (!follow.step() || follow.real(0) <= 0) break;
                certainty = std::min(certainty, follow.real(0));
            }
            if (i < phrase.words.size()) continue;
            pages.insert(first.integer(3));
            Match& match = lines[line];
            match.certainty = std::max(match.certainty, certainty);
            for (size_t k = 0; k < phrase.words.size(); ++k) match.positions.insert(position + static_cast<int64_t>(k));
        }
        for (const int64_t page : pages) ++phrases_of_page[page];
    }

    std::vector<Hit> hits;
    Statement s = db_->prepare(
        "SELECT l.page, n.id, n.title, p.number, l.words, p.created FROM reading_line l JOIN page p ON p.id = l.page "
        "JOIN notebook n ON n.id = p.notebook WHERE l.id = ? AND p.binned = 0 AND n.binned = 0");
    // The surest first, so that no line beyond the limit has to be unpacked.
    std::vector<std::pair<int64_t, Match>> order(lines.begin(), lines.end());
    std::ranges::stable_sort(order, std::greater{}, [](const auto& entry) { return entry.second.certainty; });
    for (const auto& [line, match] : order) {
        if (hits.size() >= limit) break;
        if (!s.reset().bind(line).step() || phrases_of_page[s.integer(0)] < query.phrases.size()) continue;
        if (query.notebook && !fold(s.text(2)).starts_with(*query.notebook)) continue;
        if ((query.before_ms && s.integer(5) >= *query.before_ms) || (query.after_ms && s.integer(5) < *query.after_ms))
            continue;
        auto words = decode_words(s.text(4));
        if (!words) return words.error();
        ReadLine read;
        read.words = *std::move(words);
        Hit hit{s.integer(0), s.integer(1),    s.text(2), static_cast<int>(s.integer(3)),
                read.text(),  match.certainty, {}};
        // Positions lead back to words: a word's terms stand from its own position on.
        std::set<size_t> found;
        int position = 0;
        for (size_t w = 0; w < read.words.size(); ++w) {
            ReadLine one;
            one.words = {read.words[w]};
            int width = 1;
            for (const Term& t : terms_of(one)) width = std::max(width, t.position + 1);
            for (int k = 0; k < width; ++k)
                if (match.positions.contains(position + k)) found.insert(w);
            position += width;
        }
        for (const size_t w : found) hit.boxes.push_back(read.words[w].box);
        hits.push_back(std::move(hit));
    }
    if (Status status = db_->take_status(); !status) return status.error();
    std::ranges::stable_sort(hits, [](const Hit& a, const Hit& b) {
        if (a.certainty != b.certainty) return a.certainty > b.certainty;
        return std::pair(a.notebook, a.page_number) < std::pair(b.notebook, b.page_number);
    });
    return hits;
}

Result<std::vector<std::string>> Library::check(const CancelToken& cancel) const {
    const std::lock_guard lock(mutex_);
    std::vector<std::string> wrong;
    {
        Statement s = db_->prepare("PRAGMA integrity_check");
        while (s.step())
            if (s.text(0) != "ok") wrong.push_back("database: " + s.text(0));
        Statement keys = db_->prepare("PRAGMA foreign_key_check");
        while (keys.step()) wrong.push_back("database: a row of " + keys.text(0) + " refers to nothing");
    }
    Statement files = db_->prepare("SELECT hash, bytes FROM file");
    while (files.step() && !cancel.cancelled()) {
        std::ifstream in(directory_ / "files" / files.text(0), std::ios::binary);
        if (!in)
            wrong.push_back("file " + files.text(0) + ": missing");
        else if (sha256(std::string(std::istreambuf_iterator<char>(in), {})) != files.text(0))
            wrong.push_back("file " + files.text(0) + ": altered");
    }
    Statement strokes = db_->prepare("SELECT id, points FROM stroke");
    while (strokes.step() && !cancel.cancelled())
        if (!decode_points(strokes.blob(1))) wrong.push_back("stroke " + strokes.text(0) + ": damaged");
    Statement pictures = db_->prepare("SELECT id, treatment FROM picture");
    while (pictures.step() && !cancel.cancelled())
        if (!decode_treatment(pictures.text(1))) wrong.push_back("picture " + pictures.text(0) + ": damaged");
    Statement texts = db_->prepare("SELECT id, data FROM text_block");
    while (texts.step() && !cancel.cancelled())
        if (!decode_text(texts.text(1))) wrong.push_back("text " + texts.text(0) + ": damaged");
    Statement lines = db_->prepare("SELECT id, words, page FROM reading_line");
    Statement terms = db_->prepare("SELECT word, position FROM term WHERE line = ?");
    while (lines.step() && !cancel.cancelled()) {
        ReadLine line;
        auto words = decode_words(lines.text(1));
        if (!words) {
            wrong.push_back("page " + lines.text(2) + ": a reading is damaged");
            continue;
        }
        line.words = *std::move(words);
        std::set<std::pair<std::string, int64_t>> meant, stored;
        for (const Term& t : terms_of(line)) meant.emplace(t.word, t.position);
        terms.reset().bind(lines.integer(0));
        while (terms.step()) stored.emplace(terms.text(0), terms.integer(1));
        if (meant != stored) wrong.push_back("page " + lines.text(2) + ": the index is out of step with the reading");
    }
    if (Status status = db_->take_status(); !status) wrong.push_back("database: " + status.error().message);
    return wrong;
}

}  // namespace fernleaf
