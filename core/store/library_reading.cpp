// What pages say: readings, what is still to be read, and corrections.
#include <algorithm>
#include <iterator>

#include "base/now.h"
#include "base/text.h"
#include "store/codec.h"
#include "store/library.h"
#include "store/records.h"

namespace fernleaf {
namespace {

void index_line(Database& db, int64_t id, const ReadLine& line, LineKind kind) {
    Statement term = db.prepare("INSERT INTO term (word, line, position, certainty) VALUES (?, ?, ?, ?)");
    for (const Term& t : terms_of(line, kind))
        term.reset().bind(t.word).bind(id).bind(t.position).bind(t.certainty).run();
}

}  // namespace

Result<Reading> Library::reading(PageId page) const {
    const Turn turn(mutex_, db_);
    Reading out;
    Statement s = db_->prepare(std::string("SELECT ") + kLineColumns +
                               " FROM reading_line WHERE page = ? AND outline = 0 ORDER BY number");
    s.bind(page);
    while (s.step())
        if (auto line = line_at(s)) out.lines.push_back(*std::move(line));
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Status Library::save_reading(PageId page, const Reading& reading, ReadMark whole,
                             const std::vector<ReadLine>& outline) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    const std::vector<std::string> formulas_before_this = formulas_of(page);
    db_->prepare("DELETE FROM reading_line WHERE page = ?").bind(page).run();
    Statement insert = db_->prepare(
        "INSERT INTO reading_line (page, number, region, kind, certainty, box_left, box_top, box_right, "
        "box_bottom, source, words, heading, shapes, in_table, as_drawn, signs, result, ticked, outline) VALUES (?, ?, "
        "?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)");
    int number = 0;
    for (const LineKind kind : {LineKind::on_page, LineKind::outline})
        for (const ReadLine& line : kind == LineKind::on_page ? reading.lines : outline) {
            const std::optional<bool> ticked = kind == LineKind::on_page ? to_tick(line) : std::nullopt;
            bind_box(insert.reset()
                         .bind(page)
                         .bind(number++)
                         .bind(line.region)
                         .bind(static_cast<int>(line.kind))
                         .bind(line.certainty),
                     line.box)
                .bind(static_cast<int64_t>(line.input_signature))
                .bind(encode_words(line.words))
                .bind(line.heading)
                .bind(encode_shapes(line.shapes))
                .bind(encode_table({line.table, line.cell}))
                .bind(id_list(line.ink))
                .bind(encode_words(line.signs))
                .bind(line.result)
                .bind(ticked ? static_cast<int>(*ticked) : -1)
                .bind(kind == LineKind::outline ? 1 : 0)
                .run();
            index_line(*db_, db_->last_id(), line, kind);
        }
    keep_first_line(page, reading);
    if (formulas_of(page) != formulas_before_this) formulas_changed(page);
    if (whole == kWholeNow)
        db_->prepare("DELETE FROM unread WHERE page = ?").bind(page).run();
    else if (whole == kNotWhole)
        db_->prepare("INSERT INTO unread (page, mark) VALUES (?, ?) ON CONFLICT (page) DO NOTHING")
            .bind(page)
            .bind(next_mark_++)
            .run();
    else
        db_->prepare("DELETE FROM unread WHERE page = ? AND mark = ?").bind(page).bind(whole).run();
    db_->prepare("UPDATE unread SET tries = 0 WHERE page = ?").bind(page).run();
    return transaction.commit();
}

// What a page is called where its person gave it no title.
void Library::keep_first_line(PageId page, const Reading& reading) {
    const auto first = std::ranges::find_if(
        reading.lines, [](const ReadLine& line) { return line.kind == RegionKind::text && !line.words.empty(); });
    db_->prepare("UPDATE page SET first_line = ? WHERE id = ?")
        .bind(first == reading.lines.end() ? std::string() : todo_text(*first))
        .bind(page)
        .run();
}

std::vector<std::string> Library::formulas_of(PageId page) const {
    std::vector<std::string> out;
    Statement s = db_->prepare("SELECT words FROM reading_line WHERE page = ? AND kind = ? ORDER BY number");
    s.bind(page).bind(static_cast<int>(RegionKind::math));
    while (s.step())
        if (const auto words = decode_words(s.text(0)); words && !words->empty()) out.push_back((*words)[0].text);
    return out;
}

// Later pages may have used the values that stood there.
void Library::formulas_changed(PageId page) {
    Statement s = db_->prepare(
        "SELECT p.notebook, p.number FROM page p JOIN notebook n ON n.id = p.notebook WHERE p.id = ? AND "
        "n.earlier_values = 1");
    if (s.bind(page).step()) mark_formulas_unread(s.integer(0), static_cast<int>(s.integer(1)));
}

void Library::mark_formulas_unread(NotebookId notebook, int behind) {
    std::vector<PageId> pages;
    {
        Statement s = db_->prepare(
            "SELECT DISTINCT l.page FROM reading_line l JOIN page p ON p.id = l.page "
            "WHERE p.notebook = ? AND p.number > ? AND l.kind = ?");
        s.bind(notebook).bind(behind).bind(static_cast<int>(RegionKind::math));
        while (s.step()) pages.push_back(s.integer(0));
    }
    for (const PageId page : pages) mark_unread(page);
}

Result<std::vector<std::string>> Library::formulas_before(PageId page) const {
    const Turn turn(mutex_, db_);
    std::vector<PageId> pages;
    {
        Statement s = db_->prepare(
            "SELECT p.id FROM page p JOIN page q ON q.id = ? AND p.notebook = q.notebook "
            "WHERE p.binned = 0 AND p.number < q.number ORDER BY p.number");
        s.bind(page);
        while (s.step()) pages.push_back(s.integer(0));
    }
    std::vector<std::string> out;
    for (const PageId earlier : pages) std::ranges::move(formulas_of(earlier), std::back_inserter(out));
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

void Library::rebuild_index() {
    db_->execute("DELETE FROM term");
    Statement lines = db_->prepare("SELECT id, words, outline FROM reading_line");
    while (lines.step()) {
        ReadLine line;
        if (auto words = decode_words(lines.text(1))) line.words = *std::move(words);
        index_line(*db_, lines.integer(0), line, lines.integer(2) != 0 ? LineKind::outline : LineKind::on_page);
    }
}

void Library::mark_unread(PageId page) {
    db_->prepare(
           "INSERT INTO unread (page, mark) VALUES (?, ?) ON CONFLICT (page) DO UPDATE SET mark = excluded.mark, "
           "tries = 0")
        .bind(page)
        .bind(next_mark_++)
        .run();
}

Result<std::vector<PageId>> Library::unread() const {
    const Turn turn(mutex_, db_);
    std::vector<PageId> out;
    Statement s = db_->prepare(
        "SELECT u.page FROM unread u JOIN page p ON p.id = u.page JOIN notebook n ON n.id = p.notebook "
        "WHERE u.tries < ? AND p.binned = 0 AND n.binned = 0 ORDER BY u.mark");
    s.bind(kMostTries);
    while (s.step()) out.push_back(s.integer(0));
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<ReadMark> Library::unread_mark(PageId page) const {
    const Turn turn(mutex_, db_);
    Statement s = db_->prepare("SELECT mark FROM unread WHERE page = ?");
    const ReadMark mark = s.bind(page).step() ? s.integer(0) : kUnmarked;
    if (Status status = db_->take_status(); !status) return status.error();
    return mark;
}

bool Library::begin_reading(PageId page) {
    const Turn turn(mutex_, db_);
    Statement s = db_->prepare("SELECT tries FROM unread WHERE page = ?");
    if (!s.bind(page).step()) return true;
    if (s.integer(0) >= kMostTries) return false;
    if (why_read_only()) return true;
    s.reset();
    db_->prepare("UPDATE unread SET tries = tries + 1 WHERE page = ?").bind(page).run();
    return true;
}

Status Library::reading_failed(PageId page) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    db_->prepare("UPDATE unread SET tries = ? WHERE page = ?").bind(kMostTries).bind(page).run();
    return db_->take_status();
}

Status Library::read_anew(NotebookId notebook) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    mark_all_unread(notebook);
    return transaction.commit();
}

// In every notebook (0) or in one.
void Library::mark_all_unread(NotebookId notebook) {
    std::vector<PageId> pages;
    {
        Statement s = db_->prepare("SELECT id FROM page WHERE ?1 = 0 OR notebook = ?1 ORDER BY notebook, number");
        s.bind(notebook);
        while (s.step()) pages.push_back(s.integer(0));
    }
    for (const PageId page : pages) mark_unread(page);
}

Result<std::vector<Correction>> Library::corrections(PageId page) const {
    const Turn turn(mutex_, db_);
    std::vector<Correction> out = load_corrections(page);
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<std::vector<PageId>> Library::pages_corrected(InkClass kind, size_t limit) const {
    const Turn turn(mutex_, db_);
    std::vector<PageId> out;
    Statement s = db_->prepare(
        "SELECT correction.page FROM correction JOIN page ON page.id = correction.page WHERE correction.live = 1 AND "
        "page.binned = 0 AND correction.kind = ? GROUP BY correction.page ORDER BY max(correction.made) DESC LIMIT ?");
    s.bind(static_cast<int>(kind)).bind(static_cast<int64_t>(limit));
    while (s.step()) out.push_back(s.integer(0));
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

std::vector<Correction> Library::load_corrections(PageId page, size_t* damaged) const {
    std::vector<Correction> out;
    Statement s = db_->prepare("SELECT " + listed(kCorrectionRow) +
                               " FROM correction WHERE page = ? AND live = 1 ORDER BY made, id");
    s.bind(page);
    while (s.step())
        if (auto correction = correction_at(s))
            out.push_back(*std::move(correction));
        else if (damaged)
            ++*damaged;
    return out;
}

int64_t Library::insert_correction(PageId page, const Correction& correction) {
    Statement s = db_->prepare(inserting(kCorrectionRow));
    const int64_t id = new_element_id();
    s.bind(id).bind(page).bind(1).bind(id_list(correction.strokes));
    bind_box(s, correction.box).bind(correction.text).bind(now_ms()).bind(static_cast<int>(correction.kind)).run();
    return id;
}

}  // namespace fernleaf
