#include "store/migrations.h"

#include <array>
#include <bit>
#include <nlohmann/json.hpp>
#include <string>

#include "base/local_day.h"

namespace fernleaf {
namespace {

using Json = nlohmann::json;

// Lengths are mm, times ms since 1970 (UTC), colours 0xRRGGBB. `live` tells whether an element is on its page now;
// elements taken off stay, so that undo has no end.
constexpr std::array kSteps = {
    // 1: notebooks, pages, ink, pictures, undo
    R"(
    CREATE TABLE notebook (id INTEGER PRIMARY KEY, title TEXT NOT NULL, cover INTEGER NOT NULL, language TEXT NOT NULL,
                           paper INTEGER NOT NULL, width REAL NOT NULL, height REAL NOT NULL);
    CREATE TABLE page (id INTEGER PRIMARY KEY, notebook INTEGER NOT NULL REFERENCES notebook, number INTEGER NOT NULL,
                       width REAL NOT NULL, height REAL NOT NULL, paper INTEGER NOT NULL, spacing REAL NOT NULL,
                       created INTEGER NOT NULL);
    CREATE INDEX page_by_notebook ON page (notebook, number);
    CREATE TABLE stroke (id INTEGER PRIMARY KEY, page INTEGER NOT NULL REFERENCES page, live INTEGER NOT NULL,
                         colour INTEGER NOT NULL, width REAL NOT NULL, start INTEGER NOT NULL, points BLOB NOT NULL);
    CREATE INDEX stroke_by_page ON stroke (page, live);
    CREATE TABLE picture (id INTEGER PRIMARY KEY, page INTEGER NOT NULL REFERENCES page, live INTEGER NOT NULL,
                          file TEXT NOT NULL REFERENCES file (hash), name TEXT NOT NULL, frame INTEGER NOT NULL,
                          x REAL NOT NULL, y REAL NOT NULL, width REAL NOT NULL, height REAL NOT NULL);
    CREATE INDEX picture_by_page ON picture (page, live);
    CREATE TABLE file (hash TEXT PRIMARY KEY, bytes INTEGER NOT NULL);
    CREATE TABLE edit (id INTEGER PRIMARY KEY, page INTEGER NOT NULL REFERENCES page, label TEXT NOT NULL,
                       undone INTEGER NOT NULL, strokes_added TEXT NOT NULL, strokes_removed TEXT NOT NULL,
                       pictures_added TEXT NOT NULL, pictures_removed TEXT NOT NULL);
    CREATE INDEX edit_by_page ON edit (page, undone, id);
    )",
    // 2: readings, what people corrected, and the index
    R"(
    CREATE TABLE reading_line (id INTEGER PRIMARY KEY, page INTEGER NOT NULL REFERENCES page, number INTEGER NOT NULL,
                               region INTEGER NOT NULL, kind INTEGER NOT NULL, certainty REAL NOT NULL,
                               box_left REAL NOT NULL, box_top REAL NOT NULL, box_right REAL NOT NULL,
                               box_bottom REAL NOT NULL, source INTEGER NOT NULL, words TEXT NOT NULL);
    CREATE INDEX reading_line_by_page ON reading_line (page, number);
    CREATE TABLE term (word TEXT NOT NULL, line INTEGER NOT NULL REFERENCES reading_line ON DELETE CASCADE,
                       position INTEGER NOT NULL, certainty REAL NOT NULL, PRIMARY KEY (word, line, position)) WITHOUT ROWID;
    CREATE INDEX term_by_line ON term (line, position);
    CREATE TABLE correction (id INTEGER PRIMARY KEY, page INTEGER NOT NULL REFERENCES page, strokes TEXT NOT NULL,
                             box_left REAL NOT NULL, box_top REAL NOT NULL, box_right REAL NOT NULL,
                             box_bottom REAL NOT NULL, text TEXT NOT NULL, made INTEGER NOT NULL);
    CREATE INDEX correction_by_page ON correction (page, id);
    )",
    // 3: word lists (notebook 0: the person's own), hands and what they are taught with
    R"(
    CREATE TABLE own_word (notebook INTEGER NOT NULL, word TEXT NOT NULL, PRIMARY KEY (notebook, word)) WITHOUT ROWID;
    CREATE TABLE hand (id INTEGER PRIMARY KEY, name TEXT NOT NULL, taught BLOB, examples INTEGER NOT NULL DEFAULT 0,
                       errors_before REAL NOT NULL DEFAULT 0, errors_after REAL NOT NULL DEFAULT 0);
    INSERT INTO hand (id, name) VALUES (1, '');
    CREATE TABLE example (id INTEGER PRIMARY KEY, hand INTEGER NOT NULL REFERENCES hand ON DELETE CASCADE,
                          width INTEGER NOT NULL, pixels BLOB NOT NULL, text TEXT NOT NULL, made INTEGER NOT NULL);
    CREATE INDEX example_by_hand ON example (hand, id);
    ALTER TABLE notebook ADD COLUMN lean REAL NOT NULL DEFAULT 0.6;
    ALTER TABLE notebook ADD COLUMN hand INTEGER NOT NULL DEFAULT 1;
    )",
    // 4: kinds of pens, and the order in which strokes lie upon one another
    R"(
    ALTER TABLE stroke ADD COLUMN kind INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE stroke ADD COLUMN tip INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE stroke ADD COLUMN opacity REAL NOT NULL DEFAULT 1;
    ALTER TABLE stroke ADD COLUMN by_pressure INTEGER NOT NULL DEFAULT 1;
    ALTER TABLE stroke ADD COLUMN place INTEGER NOT NULL DEFAULT 0;
    )",
    // 5: kinds of paper (ruled paper had a margin line until now), typed text, pictures turned and cropped, the bin
    // (`binned`: when, or 0)
    R"(
    UPDATE page SET paper = 4 WHERE paper = 1;
    UPDATE notebook SET paper = 4 WHERE paper = 1;
    ALTER TABLE page ADD COLUMN colour INTEGER NOT NULL DEFAULT 16513265;
    ALTER TABLE page ADD COLUMN picture TEXT NOT NULL DEFAULT '';
    ALTER TABLE page ADD COLUMN endless INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE page ADD COLUMN binned INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE notebook ADD COLUMN spacing REAL NOT NULL DEFAULT 8;
    ALTER TABLE notebook ADD COLUMN colour INTEGER NOT NULL DEFAULT 16513265;
    ALTER TABLE notebook ADD COLUMN picture TEXT NOT NULL DEFAULT '';
    ALTER TABLE notebook ADD COLUMN endless INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE notebook ADD COLUMN binned INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE picture ADD COLUMN angle REAL NOT NULL DEFAULT 0;
    ALTER TABLE picture ADD COLUMN crop_left REAL NOT NULL DEFAULT 0;
    ALTER TABLE picture ADD COLUMN crop_top REAL NOT NULL DEFAULT 0;
    ALTER TABLE picture ADD COLUMN crop_right REAL NOT NULL DEFAULT 1;
    ALTER TABLE picture ADD COLUMN crop_bottom REAL NOT NULL DEFAULT 1;
    ALTER TABLE picture ADD COLUMN locked INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE picture ADD COLUMN place INTEGER NOT NULL DEFAULT 0;
    CREATE TABLE text_block (id INTEGER PRIMARY KEY, page INTEGER NOT NULL REFERENCES page, live INTEGER NOT NULL,
                             data TEXT NOT NULL);
    CREATE INDEX text_block_by_page ON text_block (page, live);
    ALTER TABLE edit ADD COLUMN texts_added TEXT NOT NULL DEFAULT '[]';
    ALTER TABLE edit ADD COLUMN texts_removed TEXT NOT NULL DEFAULT '[]';
    ALTER TABLE edit ADD COLUMN sheet TEXT NOT NULL DEFAULT '';
    ALTER TABLE edit ADD COLUMN page_added INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE correction ADD COLUMN kind INTEGER NOT NULL DEFAULT 0;
    )",
    // 6: corrections are steps of undo; lines marked as headings
    R"(
    ALTER TABLE correction ADD COLUMN live INTEGER NOT NULL DEFAULT 1;
    ALTER TABLE edit ADD COLUMN corrections TEXT NOT NULL DEFAULT '[]';
    ALTER TABLE reading_line ADD COLUMN heading INTEGER NOT NULL DEFAULT 0;
    )",
    // 7: what is done to photographs of paper; those that wait to be filed
    R"(
    ALTER TABLE picture ADD COLUMN treatment TEXT NOT NULL DEFAULT '';
    CREATE TABLE intake (id INTEGER PRIMARY KEY, place INTEGER NOT NULL, file TEXT NOT NULL REFERENCES file (hash),
                         name TEXT NOT NULL, frame INTEGER NOT NULL, treatment TEXT NOT NULL, looked_at INTEGER NOT NULL,
                         width REAL NOT NULL, height REAL NOT NULL, faults INTEGER NOT NULL, added INTEGER NOT NULL);
    )",
    // 8: a checksum a row (checksum(), a function of store/database); pages of which something is still to be read
    // (`mark`: another for every change; `tries`: readings begun that came to no end); why an entry of the tray could
    // not be looked at. The index is made anew with it: words are folded otherwise.
    R"(
    ALTER TABLE stroke ADD COLUMN sum INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE picture ADD COLUMN sum INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE text_block ADD COLUMN sum INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE edit ADD COLUMN sum INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE correction ADD COLUMN sum INTEGER NOT NULL DEFAULT 0;
    UPDATE stroke SET sum = checksum(page, live, colour, width, kind, tip, opacity, by_pressure, place, start, points);
    UPDATE picture SET sum = checksum(page, live, file, name, frame, x, y, width, height, angle, crop_left, crop_top,
                                      crop_right, crop_bottom, locked, place, treatment);
    UPDATE text_block SET sum = checksum(page, live, data);
    UPDATE edit SET sum = checksum(page, label, undone, strokes_added, strokes_removed, pictures_added,
                                   pictures_removed, texts_added, texts_removed, sheet, page_added, corrections);
    UPDATE correction SET sum = checksum(page, live, strokes, box_left, box_top, box_right, box_bottom, text, made,
                                         kind);
    CREATE TABLE unread (page INTEGER PRIMARY KEY REFERENCES page ON DELETE CASCADE, mark INTEGER NOT NULL,
                         tries INTEGER NOT NULL DEFAULT 0);
    INSERT INTO unread (page, mark) SELECT id, id FROM page;
    ALTER TABLE intake ADD COLUMN failure TEXT NOT NULL DEFAULT '';
    )",
    // 9: one table for elements of every kind, with what each is in its body; edits as lists of operations, with an id
    // that no other device gives (uid) and a time; which elements need which files; the devices that wrote here, and
    // where their counters began. What is in the old tables is brought over by bring_elements_together().
    R"(
    CREATE TABLE device (number INTEGER PRIMARY KEY, place TEXT NOT NULL UNIQUE, first INTEGER NOT NULL);
    CREATE TABLE element (id INTEGER PRIMARY KEY, page INTEGER NOT NULL REFERENCES page, live INTEGER NOT NULL,
                          kind INTEGER NOT NULL, z INTEGER NOT NULL, body BLOB NOT NULL, sum INTEGER NOT NULL);
    CREATE TABLE file_ref (file TEXT NOT NULL REFERENCES file (hash), element INTEGER NOT NULL REFERENCES element ON DELETE CASCADE,
                           PRIMARY KEY (file, element)) WITHOUT ROWID;
    CREATE INDEX file_ref_by_element ON file_ref (element);
    ALTER TABLE edit RENAME TO former_edit;
    DROP INDEX edit_by_page;
    CREATE TABLE edit (id INTEGER PRIMARY KEY, page INTEGER NOT NULL REFERENCES page, label TEXT NOT NULL,
                       undone INTEGER NOT NULL, uid INTEGER NOT NULL, made INTEGER NOT NULL, operations TEXT NOT NULL,
                       sum INTEGER NOT NULL);
    )",
    // What drawings were understood as.
    "ALTER TABLE reading_line ADD COLUMN shapes TEXT NOT NULL DEFAULT '[]'",
    // Tables, and which lines stand in their cells.
    "ALTER TABLE reading_line ADD COLUMN in_table TEXT NOT NULL DEFAULT ''",
    // Kept pieces; their elements are as pages' are, but without ids.
    R"(
    CREATE TABLE stamp (id INTEGER PRIMARY KEY, name TEXT NOT NULL, made INTEGER NOT NULL);
    CREATE TABLE stamp_element (id INTEGER PRIMARY KEY, stamp INTEGER NOT NULL REFERENCES stamp ON DELETE CASCADE,
                                kind INTEGER NOT NULL, z INTEGER NOT NULL, body BLOB NOT NULL, sum INTEGER NOT NULL);
    CREATE INDEX stamp_element_by_stamp ON stamp_element (stamp);
    )",
    // Of what is no text, strokes that are shown as they are; and lines that are in the index alone: outlines of
    // drawings, for which these are read anew.
    R"(
    ALTER TABLE reading_line ADD COLUMN as_drawn TEXT NOT NULL DEFAULT '[]';
    ALTER TABLE reading_line ADD COLUMN outline INTEGER NOT NULL DEFAULT 0;
    INSERT OR IGNORE INTO unread (page, mark) SELECT DISTINCT page, page FROM reading_line WHERE kind = 1;
    )",
    // Of formulas, which are read now, the signs and what they come to; and how they are worked out.
    R"(
    ALTER TABLE reading_line ADD COLUMN signs TEXT NOT NULL DEFAULT '[]';
    ALTER TABLE reading_line ADD COLUMN result TEXT NOT NULL DEFAULT '';
    ALTER TABLE notebook ADD COLUMN angle INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE notebook ADD COLUMN digits INTEGER NOT NULL DEFAULT 6;
    ALTER TABLE notebook ADD COLUMN exact INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE notebook ADD COLUMN earlier_values INTEGER NOT NULL DEFAULT 0;
    INSERT OR IGNORE INTO unread (page, mark) SELECT DISTINCT page, page FROM reading_line WHERE kind = 3;
    )",
    // Pens, with the number up to which their strokes are kept; notebooks of addressed paper (of one address only one
    // is not archived) and which of our pages theirs are; and every stroke captured, with the element it became.
    R"(
    CREATE TABLE pen (serial TEXT PRIMARY KEY, name TEXT NOT NULL, passkey BLOB, kept INTEGER NOT NULL DEFAULT 0,
                      clock_set INTEGER NOT NULL DEFAULT 0, seen INTEGER NOT NULL DEFAULT 0,
                      battery INTEGER NOT NULL DEFAULT 0, used INTEGER NOT NULL DEFAULT 0,
                      room INTEGER NOT NULL DEFAULT 0);
    CREATE TABLE addressed_book (id INTEGER PRIMARY KEY, paper INTEGER NOT NULL, number INTEGER NOT NULL,
                                 notebook INTEGER NOT NULL, begun INTEGER NOT NULL,
                                 archived INTEGER NOT NULL DEFAULT 0);
    CREATE UNIQUE INDEX addressed_book_in_use ON addressed_book (paper, number) WHERE archived = 0;
    CREATE TABLE addressed_page (book INTEGER NOT NULL, number INTEGER NOT NULL, page INTEGER NOT NULL,
                                 PRIMARY KEY (book, number)) WITHOUT ROWID;
    CREATE INDEX addressed_page_by_page ON addressed_page (page);
    CREATE TABLE capture (pen TEXT NOT NULL, number INTEGER NOT NULL, element INTEGER NOT NULL, book INTEGER NOT NULL,
                          page INTEGER NOT NULL, start INTEGER NOT NULL, PRIMARY KEY (pen, number)) WITHOUT ROWID;
    CREATE INDEX capture_by_page ON capture (book, page, start);
    CREATE INDEX capture_by_element ON capture (element);
    )",
    // How much was written on each page on each day (base/local_day.h), by which pen; of what is there it is counted by
    // count_what_was_written().
    R"(
    CREATE TABLE written (page INTEGER NOT NULL, day INTEGER NOT NULL, pen TEXT NOT NULL, strokes INTEGER NOT NULL,
                          first INTEGER NOT NULL, last INTEGER NOT NULL, PRIMARY KEY (page, day, pen)) WITHOUT ROWID;
    CREATE INDEX written_by_day ON written (day);
    )",
    // Voice tracks: sound files by their names in sound/, how loud they are, and what tracks take of them, as JSON.
    R"(
    CREATE TABLE sound (id INTEGER PRIMARY KEY, file TEXT NOT NULL UNIQUE, levels BLOB NOT NULL);
    CREATE TABLE track (id INTEGER PRIMARY KEY, name TEXT NOT NULL, pieces TEXT NOT NULL, bookmarks TEXT NOT NULL,
                        began INTEGER NOT NULL, binned INTEGER NOT NULL DEFAULT 0);
    ALTER TABLE pen ADD COLUMN memory INTEGER NOT NULL DEFAULT 0;
    )",
    // Tags, folders, the archive (`archived`: when, or 0), titles and favourites, and the first line of words of
    // each page, filled by keep_first_lines(); errands of addressed paper, and which were ticked (`done`: when they
    // were
    // taken care of, or 0); which lines have a box to tick (1: it is ticked, 0: not, -1: none), for which pages are
    // read
    // anew.
    R"(
    CREATE TABLE tag (id INTEGER PRIMARY KEY, name TEXT NOT NULL, folded TEXT NOT NULL UNIQUE, colour INTEGER NOT NULL);
    CREATE TABLE page_tag (page INTEGER NOT NULL REFERENCES page ON DELETE CASCADE,
                           tag INTEGER NOT NULL REFERENCES tag ON DELETE CASCADE, PRIMARY KEY (page, tag)) WITHOUT ROWID;
    CREATE INDEX page_tag_by_tag ON page_tag (tag);
    CREATE TABLE notebook_tag (notebook INTEGER NOT NULL REFERENCES notebook ON DELETE CASCADE,
                               tag INTEGER NOT NULL REFERENCES tag ON DELETE CASCADE,
                               PRIMARY KEY (notebook, tag)) WITHOUT ROWID;
    CREATE INDEX notebook_tag_by_tag ON notebook_tag (tag);
    CREATE TABLE folder (id INTEGER PRIMARY KEY, title TEXT NOT NULL, parent INTEGER NOT NULL, place INTEGER NOT NULL);
    ALTER TABLE notebook ADD COLUMN folder INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE notebook ADD COLUMN place INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE notebook ADD COLUMN archived INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE notebook ADD COLUMN favourite INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE page ADD COLUMN title TEXT NOT NULL DEFAULT '';
    ALTER TABLE page ADD COLUMN favourite INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE page ADD COLUMN first_line TEXT NOT NULL DEFAULT '';
    ALTER TABLE page ADD COLUMN errands INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE notebook ADD COLUMN errands INTEGER NOT NULL DEFAULT 0;
    CREATE TABLE errand (page INTEGER NOT NULL REFERENCES page ON DELETE CASCADE, errand INTEGER NOT NULL,
                         noticed INTEGER NOT NULL, done INTEGER NOT NULL DEFAULT 0,
                         PRIMARY KEY (page, errand)) WITHOUT ROWID;
    ALTER TABLE reading_line ADD COLUMN ticked INTEGER NOT NULL DEFAULT -1;
    UPDATE notebook SET place = id;
    UPDATE notebook SET errands = 1 WHERE id IN (SELECT notebook FROM addressed_book);
    UPDATE page SET errands = 1 WHERE id IN (SELECT page FROM addressed_page);
    INSERT OR IGNORE INTO unread (page, mark) SELECT DISTINCT page, page FROM reading_line WHERE instr(words, '☐') OR
        instr(words, '☑');
    INSERT OR IGNORE INTO unread (page, mark) SELECT DISTINCT page, page FROM element WHERE kind = 2 AND live = 1 AND
        (instr(CAST(body AS TEXT), '"list":3') OR instr(CAST(body AS TEXT), '"list":4'));
    CREATE INDEX reading_line_by_kind ON reading_line (kind, page) WHERE kind <> 0;
    CREATE INDEX reading_line_to_tick ON reading_line (ticked, page) WHERE ticked >= 0;
    )",
    // Sheaves: pages that a notebook shows behind its own, in the order of `place`.
    R"(
    CREATE TABLE sheaf_page (notebook INTEGER NOT NULL REFERENCES notebook ON DELETE CASCADE,
                             page INTEGER NOT NULL REFERENCES page ON DELETE CASCADE, place INTEGER NOT NULL,
                             PRIMARY KEY (notebook, page)) WITHOUT ROWID;
    CREATE INDEX sheaf_page_by_page ON sheaf_page (page);
    )",
    // Templates, each a page as page_file.h writes it; what covers are printed with; searches that were kept.
    R"(
    CREATE TABLE template (id INTEGER PRIMARY KEY, name TEXT NOT NULL, page TEXT NOT NULL);
    ALTER TABLE notebook ADD COLUMN cover_pattern INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE notebook ADD COLUMN cover_picture TEXT NOT NULL DEFAULT '';
    CREATE TABLE kept_search (query TEXT NOT NULL PRIMARY KEY, made INTEGER NOT NULL) WITHOUT ROWID;
    )",
    // Cards, among which those that lead to a page are looked for.
    R"(
    CREATE INDEX element_cards ON element (page) WHERE kind = 8 AND live = 1;
    )",
};
static_assert(kSteps.size() == kNewestStep);

// Bodies as step 9 writes them, whatever later releases do.

void put(std::string& out, uint64_t value) {
    for (; value >= 0x80; value >>= 7) out.push_back(static_cast<char>(value | 0x80));
    out.push_back(static_cast<char>(value));
}

void put_float(std::string& out, float value) {
    const auto bits = std::bit_cast<uint32_t>(value);
    for (int shift = 0; shift < 32; shift += 8) out.push_back(static_cast<char>(bits >> shift));
}

std::string text_of(const Json& j) { return j.dump(-1, ' ', false, Json::error_handler_t::replace); }

// Of: kind, tip, by_pressure, colour, width, opacity, start, points, from a column on.
std::string stroke_body(const Statement& row, int column) {
    std::string out;
    out.push_back(1);
    out.push_back(static_cast<char>(row.integer(column)));
    out.push_back(static_cast<char>(row.integer(column + 1)));
    out.push_back(row.integer(column + 2) != 0 ? 1 : 0);
    put(out, static_cast<uint64_t>(row.integer(column + 3)) & 0xFFFFFF);
    put_float(out, static_cast<float>(row.real(column + 4)));
    put_float(out, static_cast<float>(row.real(column + 5)));
    const int64_t start = row.integer(column + 6);
    put(out, static_cast<uint64_t>(start) << 1 ^ static_cast<uint64_t>(start >> 63));
    return out + row.blob(column + 7);
}

// Of: file, name, frame, x, y, width, height, angle, crop (4), locked, treatment.
std::string picture_body(const Statement& row, int column) {
    const auto real = [&](int i) { return row.real(column + i); };
    const double x = real(3), y = real(4);
    return text_of({{"file", row.text(column)},
                    {"name", row.text(column + 1)},
                    {"frame", row.integer(column + 2)},
                    {"box", {x, y, x + real(5), y + real(6)}},
                    {"angle", real(7)},
                    {"crop", {real(8), real(9), real(10), real(11)}},
                    {"locked", row.integer(column + 12) != 0},
                    {"treatment", row.text(column + 13)}});
}

// A block of text has its place within: it is kept beside the body from now on.
std::pair<std::string, int64_t> text_body(const std::string& data) {
    Json j = Json::parse(data, nullptr, false);
    if (!j.is_object()) return {data, 0};  // damaged, and told so when it is read
    int64_t z = 0;
    if (const auto order = j.find("order"); order != j.end()) {
        if (order->is_number_integer()) z = order->get<int64_t>();
        j.erase(order);
    }
    return {text_of(j), z};
}

// Rows of a table: id, page, live, kind, z, body and whether the row was as it was written.
class ElementWriter {
public:
    explicit ElementWriter(Database& db)
        : insert_(db.prepare("INSERT INTO element (id, page, live, kind, z, body, sum) VALUES (?1, ?2, ?3, ?4, ?5, ?6, "
                             "checksum(?2, ?3, ?4, ?5, ?6) + ?7)")) {}
    void write(const Statement& row, int kind, int64_t z, const std::string& body, bool whole) {
        insert_.reset().bind(row.integer(0)).bind(row.integer(1)).bind(row.integer(2)).bind(kind).bind(z);
        insert_.bind_blob(body).bind(whole ? 0 : 1).run();
    }

private:
    Statement insert_;
};

// A list of ids as JSON, or null when it is damaged.
Json ids_of(const std::string& list) {
    Json ids = Json::parse(list, nullptr, false);
    return ids.is_array() ? ids : Json();
}

std::string operations_of(const Statement& row, int column, bool& whole) {
    auto operations = Json::array();
    const auto add = [&](const char* name, const Json& ids) {
        if (ids.is_null()) whole = false;
        if (!ids.empty()) operations.push_back({name, ids});
    };
    for (const bool added : {true, false}) {
        auto all = Json::array();
        for (int kind = 0; kind < 3; ++kind) {
            const Json ids = ids_of(row.text(column + 2 * kind + (added ? 0 : 1)));
            if (ids.is_null()) whole = false;
            for (const Json& id : ids) all.push_back(id);
        }
        add(added ? "add" : "remove", all);
    }
    if (const std::string sheet = row.text(column + 6); !sheet.empty()) {
        Json change = Json::parse(sheet, nullptr, false);
        if (change.is_discarded())
            whole = false;
        else
            operations.push_back({"sheet", change});
    }
    if (row.integer(column + 7) != 0) operations.push_back({"page", row.integer(column + 7)});
    add("correct", ids_of(row.text(column + 8)));
    return text_of(operations);
}

// Tells progress by the rows that are done, of all that there are.
class RowCount {
public:
    RowCount(Database& db, const Progress& progress) : progress_(progress) {
        Statement s = db.prepare(
            "SELECT (SELECT count(*) FROM stroke) + (SELECT count(*) FROM picture) + (SELECT count(*) FROM text_block) "
            "+ "
            "(SELECT count(*) FROM former_edit)");
        if (s.step()) rows_ = s.integer(0);
    }
    void one_more() {
        constexpr int64_t kBetween = 1000;
        if (++done_ % kBetween == 0 && progress_) progress_(static_cast<double>(done_) / static_cast<double>(rows_));
    }

private:
    const Progress& progress_;
    int64_t rows_ = 0, done_ = 0;
};

void bring_elements_together(Database& db, const Progress& progress) {
    RowCount rows(db, progress);
    ElementWriter element(db);
    Statement strokes = db.prepare(
        "SELECT id, page, live, place, sum = checksum(page, live, colour, width, kind, tip, opacity, by_pressure, "
        "place, "
        "start, points), kind, tip, by_pressure, colour, width, opacity, start, points FROM stroke");
    while (strokes.step()) {
        rows.one_more();
        const bool known =
            strokes.integer(5) >= 0 && strokes.integer(5) < 256 && strokes.integer(6) >= 0 && strokes.integer(6) < 256;
        element.write(strokes, 0, strokes.integer(3), stroke_body(strokes, 5), known && strokes.integer(4) == 1);
    }
    Statement pictures = db.prepare(
        "SELECT id, page, live, place, sum = checksum(page, live, file, name, frame, x, y, width, height, angle, "
        "crop_left, crop_top, crop_right, crop_bottom, locked, place, treatment), file, name, frame, x, y, width, "
        "height, angle, crop_left, crop_top, crop_right, crop_bottom, locked, treatment FROM picture");
    Statement reference = db.prepare("INSERT OR IGNORE INTO file_ref (file, element) VALUES (?, ?)");
    while (pictures.step()) {
        rows.one_more();
        element.write(pictures, 1, pictures.integer(3), picture_body(pictures, 5), pictures.integer(4) == 1);
        reference.reset().bind(pictures.text(5)).bind(pictures.integer(0)).run();
    }
    Statement texts = db.prepare("SELECT id, page, live, data, sum = checksum(page, live, data) FROM text_block");
    while (texts.step()) {
        rows.one_more();
        const auto [body, z] = text_body(texts.text(3));
        element.write(texts, 2, z, body, texts.integer(4) == 1);
    }
    Statement edits = db.prepare(
        "SELECT id, page, label, undone, sum = checksum(page, label, undone, strokes_added, strokes_removed, "
        "pictures_added, pictures_removed, texts_added, texts_removed, sheet, page_added, corrections), strokes_added, "
        "strokes_removed, pictures_added, pictures_removed, texts_added, texts_removed, sheet, page_added, corrections "
        "FROM former_edit");
    Statement edit = db.prepare(
        "INSERT INTO edit (id, page, label, undone, uid, made, operations, sum) VALUES (?1, ?2, ?3, ?4, ?1, 0, ?5, "
        "checksum(?2, ?3, ?4, ?1, 0, ?5) + ?6)");
    while (edits.step()) {
        rows.one_more();
        bool whole = edits.integer(4) == 1;
        const std::string operations = operations_of(edits, 5, whole);
        edit.reset().bind(edits.integer(0)).bind(edits.integer(1)).bind(edits.text(2)).bind(edits.integer(3));
        edit.bind(operations).bind(whole ? 0 : 1).run();
    }
}

// When a stroke was begun, as its body tells it; 0 where it does not.
int64_t start_of(const std::string& body) {
    size_t at = 4;  // version, kind, tip, by_pressure
    const auto number = [&] {
        uint64_t out = 0;
        for (int shift = 0; at < body.size() && shift < 64; shift += 7) {
            const auto byte = static_cast<unsigned char>(body[at++]);
            out |= static_cast<uint64_t>(byte & 0x7F) << shift;
            if (byte < 0x80) break;
        }
        return out;
    };
    number();                 // the colour
    at += 2 * sizeof(float);  // width and opacity
    const uint64_t start = number();
    return at <= body.size() ? static_cast<int64_t>(start >> 1) ^ -static_cast<int64_t>(start & 1) : 0;
}

void count_what_was_written(Database& db, const Progress& progress) {
    int64_t all = 0, done = 0;
    {
        Statement s = db.prepare("SELECT count(*) FROM element WHERE kind = 0");
        if (s.step()) all = s.integer(0);
    }
    Statement add = db.prepare(
        "INSERT INTO written (page, day, pen, strokes, first, last) VALUES (?1, ?2, '', 1, ?3, ?3) ON CONFLICT (page, "
        "day, pen) DO UPDATE SET strokes = strokes + 1, first = min(first, ?3), last = max(last, ?3)");
    Statement strokes = db.prepare("SELECT page, body FROM element WHERE kind = 0 AND live = 1");
    while (strokes.step()) {
        constexpr int64_t kBetween = 5000;
        if (++done % kBetween == 0 && progress) progress(static_cast<double>(done) / static_cast<double>(all));
        const int64_t start = start_of(strokes.blob(1));
        if (start > 0) add.reset().bind(strokes.integer(0)).bind(local_day(start)).bind(start).run();
    }
}

void keep_first_lines(Database& db) {
    Statement keep = db.prepare("UPDATE page SET first_line = ? WHERE id = ?");
    // Rows come in this order, and only the first of a page is taken.
    Statement lines = db.prepare(
        "SELECT page, words FROM reading_line WHERE kind = 0 AND outline = 0 AND words <> '[]' ORDER BY page, number");
    int64_t before = 0;
    while (lines.step()) {
        if (lines.integer(0) == before) continue;
        before = lines.integer(0);
        const Json words = Json::parse(lines.text(1), nullptr, false);
        std::string text;
        if (words.is_array())
            for (const Json& word : words)
                if (word.is_object() && word.contains("text") && word["text"].is_string())
                    text += (text.empty() ? "" : " ") + word["text"].get<std::string>();
        keep.reset().bind(text).bind(before).run();
    }
}

// Statements that read the old tables must be gone by now.
void drop_former_tables(Database& db) {
    db.execute(R"(
        DROP TABLE former_edit;
        DROP TABLE stroke;
        DROP TABLE picture;
        DROP TABLE text_block;
        CREATE INDEX element_by_page ON element (page, live, kind);
        CREATE INDEX edit_by_page ON edit (page, undone, id);
        CREATE UNIQUE INDEX edit_by_uid ON edit (uid);
    )");
}

}  // namespace

void run_steps(Database& db, int64_t from, int64_t to, const Progress& progress) {
    for (int64_t step = from; step < to; ++step) {
        db.execute(kSteps[static_cast<size_t>(step)]);
        if (step + 1 == 9) {
            bring_elements_together(db, progress);
            drop_former_tables(db);
        }
        if (step + 1 == 16) count_what_was_written(db, progress);
        if (step + 1 == 18) keep_first_lines(db);
        db.execute("PRAGMA user_version = " + std::to_string(step + 1));
    }
}

}  // namespace fernleaf
