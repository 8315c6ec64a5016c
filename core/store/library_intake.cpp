// The library's intake tray: what waits to be straightened and filed.
#include <array>

#include "base/now.h"
#include "document/side_by_side.h"
#include "store/codec.h"
#include "store/library.h"
#include "store/records.h"

namespace fernleaf {
namespace {

constexpr char kColumns[] = "id, file, name, frame, treatment, looked_at, width, height, faults, added, failure";

constexpr SizeMm kA4{210, 297};

// Faults as libraries keep them: a bit each.
constexpr std::array<bool Faults::*, 6> kFaultBits{&Faults::blurred, &Faults::glare,   &Faults::low_resolution,
                                                   &Faults::screen,  &Faults::creased, &Faults::no_sheet};

Faults faults_in(int64_t bits) {
    Faults out;
    for (size_t i = 0; i < kFaultBits.size(); ++i) out.*kFaultBits[i] = (bits >> i & 1) != 0;
    return out;
}

int bits_of(const Faults& faults) {
    int out = 0;
    for (size_t i = 0; i < kFaultBits.size(); ++i) out |= faults.*kFaultBits[i] ? 1 << i : 0;
    return out;
}

Result<IntakeEntry> entry_at(const Statement& row) {
    const auto treatment = decode_treatment(row.text(4));
    const int64_t frame = row.integer(3);
    const auto size = [](double mm) { return mm > 0 && mm < 1e5; };
    if (!treatment || !is_file_hash(row.text(1)) || frame < 0 || frame > 1'000'000 || !size(row.real(6)) ||
        !size(row.real(7)))
        return Error{"An entry of the tray is damaged."};
    return IntakeEntry{row.integer(0),      row.text(1), row.text(2), static_cast<int>(row.integer(3)), *treatment,
                       row.integer(5) != 0, row.real(6), row.real(7), faults_in(row.integer(8)),        row.integer(9),
                       row.text(10)};
}

FilledPage page_of(const IntakeEntry& entry) {
    FilledPage page;
    const SheetForPicture laid = sheet_for_picture(entry.width_mm, entry.height_mm);
    page.info.width_mm = laid.width_mm;
    page.info.height_mm = laid.height_mm;
    page.info.paper = Paper::plain;
    page.info.colour = kWhitePaper;
    Picture picture;
    picture.file = entry.file;
    picture.name = entry.name;
    picture.frame = entry.frame;
    picture.box = laid.picture;
    picture.treatment = entry.treatment;
    page.content.pictures = {std::move(picture)};
    return page;
}

FilledPage on_one_page(const std::vector<FilledPage>& pages) {
    std::vector<SizeMm> sizes;
    for (const FilledPage& page : pages) sizes.push_back({page.info.width_mm, page.info.height_mm});
    FilledPage out;
    out.info = pages.front().info;
    out.info.width_mm = kA4.width, out.info.height_mm = kA4.height;
    const std::vector<Box> places = side_by_side(sizes, kA4);
    for (size_t i = 0; i < pages.size(); ++i) {
        out.content.pictures.push_back(pages[i].content.pictures.front());
        out.content.pictures.back().box = places[i];
    }
    return out;
}

}  // namespace

Result<std::vector<IntakeEntry>> Library::intake() const {
    const Turn turn(mutex_, db_);
    std::vector<IntakeEntry> out;
    Statement s = db_->prepare(std::string("SELECT ") + kColumns + " FROM intake ORDER BY place, id");
    while (s.step())
        if (auto entry = entry_at(s)) out.push_back(*std::move(entry));  // damaged ones are check's to tell
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Status Library::add_to_intake(std::vector<IntakeEntry>& entries, IntakeId after) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    int64_t place = 0;
    {
        Statement s = db_->prepare(
            "SELECT ifnull((SELECT place FROM intake WHERE id = ?), (SELECT ifnull(max(place), 0) FROM intake))");
        if (s.bind(after).step()) place = s.integer(0);
    }
    db_->prepare("UPDATE intake SET place = place + ? WHERE place > ?")
        .bind(static_cast<int64_t>(entries.size()))
        .bind(place)
        .run();
    Statement insert = db_->prepare(
        "INSERT INTO intake (file, name, frame, treatment, looked_at, width, height, faults, place, added) VALUES (?, "
        "?, "
        "?, ?, ?, ?, ?, ?, ?, ?)");
    for (IntakeEntry& entry : entries) {
        entry.added_ms = now_ms();
        insert.reset()
            .bind(entry.file)
            .bind(entry.name)
            .bind(entry.frame)
            .bind(encode_treatment(entry.treatment))
            .bind(entry.looked_at ? 1 : 0)
            .bind(entry.width_mm)
            .bind(entry.height_mm)
            .bind(bits_of(entry.faults))
            .bind(++place)
            .bind(entry.added_ms)
            .run();
        entry.id = db_->last_id();
    }
    return transaction.commit();
}

Status Library::change_intake(const IntakeEntry& entry) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (entry.treatment.outline && !is_valid(*entry.treatment.outline))
        return Error{"The sheet's corners are no sheet's."};
    db_->prepare("UPDATE intake SET name = ?, treatment = ?, looked_at = max(looked_at, ?), failure = ? WHERE id = ?")
        .bind(entry.name)
        .bind(encode_treatment(entry.treatment))
        .bind(entry.looked_at ? 1 : 0)
        .bind(entry.failure)
        .bind(entry.id)
        .run();
    return db_->take_status();
}

Result<bool> Library::suggest_intake(const IntakeEntry& entry) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    bool waits = false;
    {
        Statement s = db_->prepare("SELECT 1 FROM intake WHERE id = ? AND looked_at = 0");
        waits = s.bind(entry.id).step();
    }
    if (!waits) return false;
    db_->prepare(
           "UPDATE intake SET treatment = ?, looked_at = 1, width = ?, height = ?, faults = ?, failure = '' WHERE id = "
           "?")
        .bind(encode_treatment(entry.treatment))
        .bind(entry.width_mm)
        .bind(entry.height_mm)
        .bind(bits_of(entry.faults))
        .bind(entry.id)
        .run();
    if (Status status = transaction.commit(); !status) return status.error();
    return true;
}

Status Library::fail_intake(IntakeId entry, const std::string& why) {
    const Turn turn(mutex_, db_);
    if (const auto read_only = why_read_only()) return Error{*read_only, true};
    db_->prepare("UPDATE intake SET failure = ? WHERE id = ? AND looked_at = 0").bind(why).bind(entry).run();
    return db_->take_status();
}

Status Library::judge_intake(const IntakeEntry& entry) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    db_->prepare("UPDATE intake SET width = ?, height = ?, faults = ? WHERE id = ? AND treatment = ?")
        .bind(entry.width_mm)
        .bind(entry.height_mm)
        .bind(bits_of(entry.faults))
        .bind(entry.id)
        .bind(encode_treatment(entry.treatment))
        .run();
    return db_->take_status();
}

Status Library::order_intake(const std::vector<IntakeId>& order) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("UPDATE intake SET place = place + ?").bind(static_cast<int64_t>(order.size())).run();
    Statement s = db_->prepare("UPDATE intake SET place = ? WHERE id = ?");
    for (size_t i = 0; i < order.size(); ++i) s.reset().bind(static_cast<int64_t>(i + 1)).bind(order[i]).run();
    return transaction.commit();
}

Status Library::discard_intake(const std::vector<IntakeId>& entries) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    Statement s = db_->prepare("DELETE FROM intake WHERE id = ?");
    for (const IntakeId id : entries) s.reset().bind(id).run();
    return transaction.commit();
}

Result<std::vector<PageId>> Library::file_intake(const std::vector<IntakeId>& entries, NotebookId notebook,
                                                 Filing filing) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    std::vector<FilledPage> filled;
    Statement select = db_->prepare(std::string("SELECT ") + kColumns + " FROM intake WHERE id = ?");
    Statement remove = db_->prepare("DELETE FROM intake WHERE id = ?");
    for (const IntakeId id : entries) {
        if (!select.reset().bind(id).step()) continue;  // filed already
        const auto entry = entry_at(select);
        if (!entry) return entry.error();
        filled.push_back(page_of(*entry));
        select.reset();
        remove.reset().bind(id).run();
    }
    if (filing == Filing::on_one_page && filled.size() > 1) filled = {on_one_page(filled)};
    std::vector<PageId> pages;
    for (FilledPage& page : filled) {
        pages.push_back(insert_page(notebook, page.info));
        insert_elements(pages.back(), page.content);
        mark_unread(pages.back());
    }
    if (Status status = transaction.commit(); !status) return status.error();
    return pages;
}

}  // namespace fernleaf
