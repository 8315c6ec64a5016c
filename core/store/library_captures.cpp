// Pens, and what they captured on addressed paper.
#include <algorithm>
#include <cstring>
#include <limits>
#include <map>

#include "base/now.h"
#include "capture/addressed_paper.h"
#include "store/library.h"
#include "store/records.h"

namespace fernleaf {
namespace {

constexpr char kPenColumns[] = "serial, name, passkey, kept, clock_set, seen, battery, used, room, memory";
constexpr int64_t kSittingMs = 1'800'000;                    // a longer pause begins another
constexpr double kAmongTheFirst = 0.1, kAmongTheLast = 0.9;  // of a notebook's pages
constexpr uint32_t kCovers[] = {0x2E6B4F, 0x8A3B6B, 0x1E2A44, 0xB5672C};

PenRecord pen_at(const Statement& row) {
    PenRecord out;
    out.serial = row.text(0), out.name = row.text(1);
    PenKey key{};
    if (const std::string kept = row.blob(2); kept.size() == key.size()) {
        std::memcpy(key.data(), kept.data(), key.size());
        out.key = key;
    }
    out.kept = static_cast<uint64_t>(std::max<int64_t>(0, row.integer(3)));
    out.clock_set_ms = row.integer(4), out.seen_ms = row.integer(5);
    out.state.battery = static_cast<uint8_t>(std::clamp<int64_t>(row.integer(6), 0, 100));
    const auto kb = [&](int column) {
        return static_cast<uint32_t>(std::clamp<int64_t>(row.integer(column), 0, std::numeric_limits<uint32_t>::max()));
    };
    out.state.used_kb = kb(7), out.state.room_kb = kb(8);
    out.memory = static_cast<uint64_t>(row.integer(9));
    return out;
}

AddressedBook book_at(const Statement& row) {
    return {row.integer(0), static_cast<uint16_t>(row.integer(1)), static_cast<uint16_t>(row.integer(2)),
            row.integer(3), row.integer(4) != 0};
}
constexpr char kBookColumns[] = "id, paper, number, notebook, archived";

int pages_of(uint16_t paper) {
    const AddressedPaper* known = addressed_paper(paper);
    return known ? known->pages : 0;
}

}  // namespace

Result<std::vector<PenRecord>> Library::pens() const {
    const Turn turn(mutex_, db_);
    std::vector<PenRecord> out;
    Statement s = db_->prepare(std::string("SELECT ") + kPenColumns +
                               " FROM pen WHERE passkey IS NOT NULL ORDER BY name, serial");
    while (s.step()) out.push_back(pen_at(s));
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<PenRecord> Library::pen(const std::string& serial) const {
    const Turn turn(mutex_, db_);
    PenRecord out;
    Statement s = db_->prepare(std::string("SELECT ") + kPenColumns + " FROM pen WHERE serial = ?");
    if (s.bind(serial).step()) out = pen_at(s);
    out.serial = serial;
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Status Library::remember_pen(const PenRecord& pen) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("INSERT OR IGNORE INTO pen (serial, name) VALUES (?, '')").bind(pen.serial).run();
    Statement s = db_->prepare(
        "UPDATE pen SET name = ?, passkey = ?, clock_set = ?, seen = ?, battery = ?, used = ?, room = ?, memory = ? "
        "WHERE serial = ?");
    s.bind(pen.name);
    if (pen.key)
        s.bind_blob({reinterpret_cast<const char*>(pen.key->data()), pen.key->size()});
    else
        s.bind_none();
    s.bind(pen.clock_set_ms).bind(pen.seen_ms).bind(static_cast<int64_t>(pen.state.battery));
    s.bind(static_cast<int64_t>(pen.state.used_kb)).bind(static_cast<int64_t>(pen.state.room_kb));
    s.bind(static_cast<int64_t>(pen.memory)).bind(pen.serial).run();
    return transaction.commit();
}

Status Library::forget_pen(const std::string& serial) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("UPDATE pen SET passkey = NULL WHERE serial = ?").bind(serial).run();
    return transaction.commit();
}

Status Library::begin_pen_anew(const std::string& serial, uint64_t memory) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    uint64_t before = 0;
    {
        Statement s = db_->prepare("SELECT memory FROM pen WHERE serial = ?");
        if (s.bind(serial).step()) before = static_cast<uint64_t>(s.integer(0));
    }
    // The numbers of the earlier memory are that memory's.
    db_->prepare("UPDATE capture SET pen = ?1 || '#' || ?2 WHERE pen = ?1")
        .bind(serial)
        .bind(std::to_string(before))
        .run();
    db_->prepare("UPDATE pen SET kept = 0, memory = ? WHERE serial = ?")
        .bind(static_cast<int64_t>(memory))
        .bind(serial)
        .run();
    return transaction.commit();
}

AddressedBook Library::insert_book(uint16_t paper, uint16_t number) {
    const AddressedPaper* known = addressed_paper(paper);
    Notebook notebook;
    notebook.title = (known ? known->name : "Unknown paper") + " " + std::to_string(number);
    if (known) {
        notebook.sheet = known->sheet;
    } else {
        notebook.sheet.width_mm = 210, notebook.sheet.height_mm = 297, notebook.sheet.paper = Paper::plain;
    }
    // Read as the notebook made last.
    Statement last = db_->prepare(std::string("SELECT ") + kNotebookColumns +
                                  " FROM notebook WHERE binned = 0 ORDER BY id DESC LIMIT 1");
    if (last.step()) {
        const Notebook like = notebook_at(last);
        notebook.languages = like.languages, notebook.language_weight = like.language_weight;
        notebook.hand = like.hand;
    }
    int64_t before = 0;
    {
        Statement books = db_->prepare("SELECT count(*) FROM addressed_book");
        if (books.step()) before = books.integer(0);
    }
    notebook.cover = kCovers[static_cast<size_t>(before) % std::size(kCovers)];
    AddressedBook out{0, paper, number, insert_notebook(notebook)};
    db_->prepare("INSERT INTO addressed_book (paper, number, notebook, begun) VALUES (?, ?, ?, ?)")
        .bind(static_cast<int>(paper))
        .bind(static_cast<int>(number))
        .bind(out.notebook)
        .bind(now_ms())
        .run();
    out.id = db_->last_id();
    return out;
}

// The one whose address it is now. One that lies in the bin has given it back.
AddressedBook Library::book_in_use(uint16_t paper, uint16_t number) {
    std::optional<AddressedBook> found;
    bool there = false;
    {
        Statement s = db_->prepare(
            "SELECT b.id, b.paper, b.number, b.notebook, b.archived, (SELECT count(*) FROM notebook n WHERE n.id = "
            "b.notebook AND n.binned = 0) FROM addressed_book b WHERE b.paper = ? AND b.number = ? AND b.archived = 0");
        if (s.bind(static_cast<int>(paper)).bind(static_cast<int>(number)).step()) {
            found = book_at(s);
            there = s.integer(5) > 0;
        }
    }
    if (found && there) return *found;
    if (found) db_->prepare("UPDATE addressed_book SET archived = ? WHERE id = ?").bind(now_ms()).bind(found->id).run();
    return insert_book(paper, number);
}

// Our page for one of a notebook's, made behind those that come before it where there is none (any more).
PageId Library::addressed_page(const AddressedBook& book, int number, int64_t written_ms, bool& made) {
    made = false;
    {
        Statement s = db_->prepare(
            "SELECT p.id FROM addressed_page a JOIN page p ON p.id = a.page JOIN notebook n ON n.id = p.notebook WHERE "
            "a.book = ? AND a.number = ? AND p.binned = 0 AND n.binned = 0");
        if (s.bind(book.id).bind(number).step()) return s.integer(0);
    }
    made = true;
    PageInfo info;
    {
        Statement s = db_->prepare(std::string("SELECT ") + kNotebookColumns + " FROM notebook WHERE id = ?");
        if (s.bind(book.notebook).step()) static_cast<Sheet&>(info) = notebook_at(s).sheet;
    }
    info.created_ms = written_ms;
    const PageId id = insert_page(book.notebook, info);
    int behind = 0;
    {
        Statement s = db_->prepare(
            "SELECT max(p.number) FROM addressed_page a JOIN page p ON p.id = a.page WHERE a.book = ? AND a.number < ? "
            "AND p.notebook = ? AND p.binned = 0");
        if (s.bind(book.id).bind(number).bind(book.notebook).step()) behind = static_cast<int>(s.integer(0));
    }
    set_number(id, book.notebook, behind + 1);
    renumber(book.notebook);
    db_->prepare("INSERT OR REPLACE INTO addressed_page (book, number, page) VALUES (?, ?, ?)")
        .bind(book.id)
        .bind(number)
        .bind(id)
        .run();
    return id;
}

Result<KeptCaptures> Library::keep_captures(const std::string& serial, const std::vector<CapturedStroke>& strokes) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("INSERT OR IGNORE INTO pen (serial, name) VALUES (?, '')").bind(serial).run();
    uint64_t kept = 0;
    {
        Statement s = db_->prepare("SELECT kept FROM pen WHERE serial = ?");
        if (s.bind(serial).step()) kept = static_cast<uint64_t>(s.integer(0));
    }
    KeptCaptures out;
    std::map<PageAddress, size_t> places;
    std::vector<int> numbers;  // of the pages in out
    Statement capture =
        db_->prepare("INSERT INTO capture (pen, number, element, book, page, start) VALUES (?, ?, ?, ?, ?, ?)");
    for (const CapturedStroke& captured : strokes) {
        if (captured.number <= kept) continue;
        if (captured.number != kept + 1) return Error{"A stroke of the pen is missing before this one."};
        kept = captured.number;
        const auto [at, first] = places.try_emplace(captured.address, out.pages.size());
        if (first) {
            const AddressedBook book = book_in_use(captured.address.paper, captured.address.notebook);
            KeptCaptures::OnPage page;
            page.book = book.id;
            page.page = addressed_page(book, captured.address.page, captured.start_ms, page.new_page);
            out.pages.push_back(std::move(page));
            numbers.push_back(captured.address.page);
        }
        KeptCaptures::OnPage& page = out.pages[at->second];
        Elements one;
        one.strokes.push_back(ink_of(captured));
        if (const auto why = validation_error(one)) return Error{*why};
        insert_elements(page.page, one);
        page.strokes.push_back(one.strokes.front());
        if (const AddressedPaper* paper = addressed_paper(captured.address.paper))
            if (const auto errand = errand_of(paper->sheet, one.strokes.front())) {
                // Once: what was taken care of is not asked for again.
                db_->prepare("INSERT OR IGNORE INTO errand (page, errand, noticed) VALUES (?, ?, ?)")
                    .bind(page.page)
                    .bind(static_cast<int>(*errand))
                    .bind(now_ms())
                    .run();
                page.errands = true;
            }
        capture.reset().bind(serial).bind(static_cast<int64_t>(captured.number)).bind(one.strokes.front().id);
        capture.bind(page.book).bind(static_cast<int>(captured.address.page)).bind(captured.start_ms).run();
    }
    db_->prepare("UPDATE pen SET kept = ? WHERE serial = ?").bind(static_cast<int64_t>(kept)).bind(serial).run();
    for (size_t i = 0; i < out.pages.size(); ++i) {
        mark_unread(out.pages[i].page);
        count_written(out.pages[i].page, out.pages[i].strokes, {}, serial);
        judge_page(serial, numbers[i], out.pages[i]);
    }
    if (Status status = transaction.commit(); !status) return status.error();
    return out;
}

// Whether what was written in this sitting may be another notebook's.
void Library::judge_page(const std::string& serial, int number, KeptCaptures::OnPage& page) const {
    struct Captured {
        uint64_t number;
        ElementId element;
        int64_t start;
    };
    std::vector<Captured> captured;
    {
        Statement s = db_->prepare(
            "SELECT number, element, start FROM capture WHERE book = ? AND page = ? AND (pen = ?3 OR pen GLOB ?3 || "
            "'#*') "
            "ORDER BY start, number");
        s.bind(page.book).bind(number).bind(serial);
        while (s.step()) captured.push_back({static_cast<uint64_t>(s.integer(0)), s.integer(1), s.integer(2)});
    }
    size_t sitting = captured.size();
    while (sitting > 0 &&
           (sitting == captured.size() || captured[sitting].start - captured[sitting - 1].start < kSittingMs))
        --sitting;
    if (sitting == 0) return;  // all of one sitting
    std::vector<ElementId> earlier, later;
    for (size_t i = 0; i < captured.size(); ++i) (i < sitting ? earlier : later).push_back(captured[i].element);
    int last = 0, in_all = 0;
    {
        Statement s = db_->prepare(
            "SELECT b.paper, max(c.page) FROM capture c JOIN addressed_book b ON b.id = c.book WHERE c.book = ? AND "
            "c.start < ?");
        if (s.bind(page.book).bind(captured[sitting].start).step()) {
            in_all = pages_of(static_cast<uint16_t>(s.integer(0)));
            last = static_cast<int>(s.integer(1));
        }
    }
    const bool begins_anew = number <= std::max(1.0, kAmongTheFirst * in_all) && last >= kAmongTheLast * in_all;
    page.other = other_notebook(listed_elements(earlier).strokes, listed_elements(later).strokes, begins_anew);
    page.other_from = captured[sitting].number;
}

Result<std::optional<PageAddress>> Library::address_of(PageId page) const {
    const Turn turn(mutex_, db_);
    std::optional<PageAddress> out;
    Statement s = db_->prepare(
        "SELECT b.paper, b.number, a.number FROM addressed_page a JOIN addressed_book b ON b.id = a.book WHERE a.page "
        "= "
        "? AND b.archived = 0");
    if (s.bind(page).step())
        out = PageAddress{static_cast<uint16_t>(s.integer(0)), static_cast<uint16_t>(s.integer(1)),
                          static_cast<uint16_t>(s.integer(2))};
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<std::vector<AddressedBook>> Library::addressed_books() const {
    const Turn turn(mutex_, db_);
    std::vector<AddressedBook> out;
    Statement s = db_->prepare(std::string("SELECT ") + kBookColumns + " FROM addressed_book ORDER BY id");
    while (s.step()) out.push_back(book_at(s));
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<AddressedBook> Library::part_book(int64_t book, const std::string& serial, uint64_t from) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    std::optional<AddressedBook> earlier;
    {
        Statement s = db_->prepare(std::string("SELECT ") + kBookColumns + " FROM addressed_book WHERE id = ?");
        if (s.bind(book).step()) earlier = book_at(s);
    }
    if (!earlier || earlier->archived) return Error{"That notebook is not in use any more."};
    db_->prepare("UPDATE addressed_book SET archived = ? WHERE id = ?").bind(now_ms()).bind(book).run();
    const AddressedBook later = insert_book(earlier->paper, earlier->number);
    move_captures(*earlier, later, serial, from);
    if (Status status = transaction.commit(); !status) return status.error();
    return later;
}

Status Library::join_books(int64_t earlier_id, int64_t later_id) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    std::optional<AddressedBook> earlier, later;
    {
        Statement s = db_->prepare(std::string("SELECT ") + kBookColumns + " FROM addressed_book WHERE id = ?");
        if (s.bind(earlier_id).step()) earlier = book_at(s);
        if (s.reset().bind(later_id).step()) later = book_at(s);
    }
    if (!earlier || !later || later->archived) return Error{"These notebooks can't be joined any more."};
    std::vector<std::string> pens;
    {
        Statement s = db_->prepare("SELECT DISTINCT pen FROM capture WHERE book = ?");
        s.bind(later->id);
        while (s.step()) pens.push_back(s.text(0));
    }
    for (const std::string& pen : pens) move_captures(*later, *earlier, pen, 0);
    db_->prepare("DELETE FROM addressed_book WHERE id = ?").bind(later->id).run();
    db_->prepare("DELETE FROM addressed_page WHERE book = ?").bind(later->id).run();
    db_->prepare("UPDATE addressed_book SET archived = 0 WHERE id = ?").bind(earlier->id).run();
    db_->prepare("UPDATE notebook SET binned = ? WHERE id = ?").bind(now_ms()).bind(later->notebook).run();
    return transaction.commit();
}

// What a pen captured from a number on, with the elements as far as they are where they were put.
void Library::move_captures(const AddressedBook& from, const AddressedBook& to, const std::string& serial,
                            uint64_t first) {
    struct Captured {
        int64_t number, element, page, stands_on, start;
    };
    std::vector<Captured> captured;
    {
        Statement s = db_->prepare(
            "SELECT c.number, c.element, c.page, coalesce(a.page, 0), c.start FROM capture c LEFT JOIN addressed_page "
            "a ON "
            "a.book = c.book AND a.number = c.page WHERE c.book = ? AND c.pen = ? AND c.number >= ? ORDER BY c.number");
        s.bind(from.id).bind(serial).bind(static_cast<int64_t>(first));
        while (s.step()) captured.push_back({s.integer(0), s.integer(1), s.integer(2), s.integer(3), s.integer(4)});
    }
    Statement set = db_->prepare(changing(kElementRow, "page"));
    Statement stands = db_->prepare("SELECT 1 FROM element WHERE id = ? AND page = ?");
    Statement belongs = db_->prepare("UPDATE capture SET book = ? WHERE pen = ? AND number = ?");
    std::map<int64_t, PageId> pages;
    std::map<PageId, std::vector<ElementId>> moved;
    for (const Captured& c : captured) {
        belongs.reset().bind(to.id).bind(serial).bind(c.number).run();
        if (!stands.reset().bind(c.element).bind(c.stands_on).step()) continue;  // taken elsewhere by the person
        bool made = false;
        if (!pages.contains(c.page)) pages[c.page] = addressed_page(to, static_cast<int>(c.page), c.start, made);
        set.reset().bind(pages[c.page]).bind(c.element).run();
        mark_unread(c.stands_on);
        mark_unread(pages[c.page]);
        moved[pages[c.page]].push_back(c.element);
    }
    for (const auto& [page, strokes] : moved) count_written(page, listed_elements(strokes).strokes, {}, serial);
}

}  // namespace fernleaf
