// What pages say: readings, what is still to be read, corrections, and finding.
#include <algorithm>
#include <iterator>
#include <set>
#include <unordered_map>

#include "base/now.h"
#include "base/text.h"
#include "store/codec.h"
#include "store/library.h"
#include "store/records.h"

namespace fernleaf {
namespace {

std::string next_word(std::string word) {  // the first text after all that word begins
    word.push_back(static_cast<char>(0xFF));
    return word;
}

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
        "box_bottom, source, words, heading, shapes, in_table, as_drawn, signs, result, outline) VALUES (?, ?, ?, ?, "
        "?, "
        "?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)");
    int number = 0;
    for (const LineKind kind : {LineKind::on_page, LineKind::outline})
        for (const ReadLine& line : kind == LineKind::on_page ? reading.lines : outline) {
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
                .bind(kind == LineKind::outline ? 1 : 0)
                .run();
            index_line(*db_, db_->last_id(), line, kind);
        }
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

Result<std::vector<Hit>> Library::find(const Query& query, size_t limit) const {
    if (query.phrases.empty()) return std::vector<Hit>{};
    const Turn turn(mutex_, db_);
    // Where a phrase stands; a word may stand in very many lines.
    struct Place {
        double certainty = 0;
        int64_t line = 0, position = 0;  // of its first word
        size_t words = 1;
    };
    std::vector<std::vector<Place>> places_of;  // each phrase
    Statement first = db_->prepare("SELECT line, position, certainty FROM term WHERE word >= ? AND word < ?");
    Statement follow =
        db_->prepare("SELECT max(certainty) FROM term WHERE line = ? AND position = ? AND word >= ? AND word < ?");
    for (const Phrase& phrase : query.phrases) {
        std::vector<Place>& places = places_of.emplace_back();
        const auto end_of = [&](size_t i) {
            const bool prefix = i + 1 == phrase.words.size() && !phrase.whole;
            return prefix ? next_word(phrase.words[i]) : phrase.words[i] + '\x01';
        };
        first.reset().bind(phrase.words[0]).bind(end_of(0));
        while (first.step()) {
            Place place{first.real(2), first.integer(0), first.integer(1), phrase.words.size()};
            size_t i = 1;
            for (; i < phrase.words.size(); ++i) {
                follow.reset()
                    .bind(place.line)
                    .bind(place.position + static_cast<int64_t>(i))
                    .bind(phrase.words[i])
                    .bind(end_of(i));
                if (!follow.step() || follow.real(0) <= 0) break;
                place.certainty = std::min(place.certainty, follow.real(0));
            }
            if (i == phrase.words.size()) places.push_back(place);
        }
    }
    // All phrases must be on the page. Its lines are looked up for the pages that hold the rarest: few, as a rule.
    if (places_of.size() > 1) {
        std::ranges::sort(places_of, {}, &std::vector<Place>::size);
        std::unordered_map<int64_t, int64_t> page_of;  // a line
        std::unordered_map<int64_t, size_t> phrases_on;
        Statement its_page = db_->prepare("SELECT page FROM reading_line WHERE id = ?");
        Statement its_lines = db_->prepare("SELECT id FROM reading_line WHERE page = ?");
        for (const Place& place : places_of.front()) {
            if (page_of.contains(place.line) || !its_page.reset().bind(place.line).step()) continue;
            const int64_t page = its_page.integer(0);
            its_lines.reset().bind(page);
            while (its_lines.step()) page_of[its_lines.integer(0)] = page;
        }
        for (size_t i = 0; i < places_of.size(); ++i)
            for (const Place& place : places_of[i])
                if (const auto on = page_of.find(place.line); on != page_of.end())
                    if (size_t& phrases = phrases_on[on->second]; phrases == i) ++phrases;
        for (std::vector<Place>& places : places_of)
            std::erase_if(places, [&](const Place& place) {
                const auto on = page_of.find(place.line);
                return on == page_of.end() || phrases_on[on->second] < places_of.size();
            });
    }
    std::vector<Place> places = std::move(places_of.front());
    for (size_t i = 1; i < places_of.size(); ++i) std::ranges::copy(places_of[i], std::back_inserter(places));

    struct Line {
        Hit hit;
        std::vector<ReadWord> words;
        std::set<int64_t> positions;  // of what was found
    };
    std::vector<Line> found;
    std::unordered_map<int64_t, std::optional<size_t>> looked_at;  // which line is which of these, if any
    Statement s = db_->prepare(
        "SELECT l.page, n.id, n.title, p.number, l.words, p.created FROM reading_line l JOIN page p ON p.id = l.page "
        "JOIN notebook n ON n.id = p.notebook WHERE l.id = ? AND p.binned = 0 AND n.binned = 0");
    const auto line_at = [&](const Place& place) -> std::optional<Line> {
        if (!s.reset().bind(place.line).step()) return std::nullopt;
        if (query.notebook && !fold(s.text(2)).starts_with(*query.notebook)) return std::nullopt;
        if ((query.before_ms && s.integer(5) >= *query.before_ms) || (query.after_ms && s.integer(5) < *query.after_ms))
            return std::nullopt;
        auto words = decode_words(s.text(4));
        if (!words) return std::nullopt;
        return Line{{s.integer(0), s.integer(1), s.text(2), static_cast<int>(s.integer(3)), {}, place.certainty, {}},
                    *std::move(words),
                    {}};
    };
    // The surest first, of equals the older, so that no line beyond the limit has to be unpacked.
    const auto less_sure = [](const Place& a, const Place& b) {
        return a.certainty != b.certainty ? a.certainty < b.certainty : a.line > b.line;
    };
    std::ranges::make_heap(places, less_sure);
    for (auto end = places.end(); end != places.begin() && found.size() < limit; --end) {
        std::ranges::pop_heap(places.begin(), end, less_sure);
        const auto [entry, unseen] = looked_at.try_emplace(std::prev(end)->line);
        if (!unseen) continue;
        if (auto line = line_at(*std::prev(end))) {
            entry->second = found.size();
            found.push_back(*std::move(line));
        }
    }
    for (const Place& place : places) {
        const auto entry = looked_at.find(place.line);
        if (entry == looked_at.end() || !entry->second) continue;
        for (size_t k = 0; k < place.words; ++k)
            found[*entry->second].positions.insert(place.position + static_cast<int64_t>(k));
    }

    std::vector<Hit> hits;
    for (Line& line : found) {
        ReadLine read;
        read.words = std::move(line.words);
        line.hit.line = read.text();
        // Positions lead back to words: a word's terms stand from its own position on.
        int position = 0;
        for (const ReadWord& word : read.words) {
            ReadLine one;
            one.words = {word};
            int width = 1;
            for (const Term& t : terms_of(one)) width = std::max(width, t.position + 1);
            const auto from = line.positions.lower_bound(position);
            if (from != line.positions.end() && *from < position + width) line.hit.boxes.push_back(word.box);
            position += width;
        }
        hits.push_back(std::move(line.hit));
    }
    if (Status status = db_->take_status(); !status) return status.error();
    std::ranges::stable_sort(hits, [](const Hit& a, const Hit& b) {
        if (a.certainty != b.certainty) return a.certainty > b.certainty;
        return std::pair(a.notebook, a.page_number) < std::pair(b.notebook, b.page_number);
    });
    return hits;
}

}  // namespace fernleaf
