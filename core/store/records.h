// The rows of the library's tables and what they mean: their columns, their checksums, and values that are checked as
// they are read.
//
//   Statement s = db.prepare("SELECT " + listed(kElementRow) + " FROM element WHERE page = ?");
//   while (s.step())
//       if (!element_at(s, page)) ...       // an error: the row is damaged
//
// Nothing in a database is taken on trust: bits flip, and a library may come from anywhere. Rows that can't be what was
// written are errors; sizes of pages and notebooks fall back to usual ones, so that what is on them can be seen.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "document/edit.h"
#include "document/page.h"
#include "sound/voice_track.h"
#include "store/database.h"
#include "transcript/reading.h"

namespace fernleaf {

// A table whose rows have a checksum over all columns but the first, their id.
struct Row {
    const char* table;
    std::vector<const char*> columns;
};

extern const Row kElementRow, kEditRow, kCorrectionRow;

std::string listed(const Row& row);     // its columns, and last whether the checksum is right, for SELECT
std::string inserting(const Row& row);  // a statement that takes a value for each column
// A statement that takes a new value for one column and the row's id, and keeps the checksum in step.
std::string changing(const Row& row, std::string_view column);
std::string checksum_of(const Row& row);  // as SQL works it out

// Of rows as listed(): the checksum is right and every value is one that can have been written. An element is put into
// the list it belongs to.
Status element_at(const Statement& row, Elements& into);
Result<Correction> correction_at(const Statement& row);

// An edit as it is kept: what it names by id. An edit of a page is a list of operations in JSON, each ["name", what]:
// add and remove (ids of elements), replace (pairs of ids), sheet (before and after), page (made for what flowed over),
// correct (ids of corrections).
struct EditRow {
    int64_t id = 0;
    PageId page = 0;
    std::string label;
    std::vector<ElementId> added, removed;
    std::optional<SheetChange> sheet;
    PageId page_added = 0;  // 0: none
    std::vector<int64_t> corrections;
};
Result<EditRow> edit_at(const Statement& row);
std::string operations_of(const Edit& edit, const std::vector<int64_t>& corrections);

// Binds an element's values in the order of its row's columns.
template <Element E>
Statement& bind_row(Statement& s, const E& element, PageId page, bool live) {
    using Traits = ElementTraits<E>;
    return s.bind(element.id)
        .bind(page)
        .bind(live ? 1 : 0)
        .bind(static_cast<int>(Traits::kKind))
        .bind(element.z)
        .bind_blob(Traits::encode(element));
}
Statement& bind_box(Statement& s, const Box& box);  // four values; an empty box is kept as zeros

Box box_at(const Statement& row, int column);

constexpr char kPageColumns[] =
    "id, notebook, number, width, height, paper, spacing, created, colour, picture, endless, errands, title, favourite";
constexpr char kNotebookColumns[] =
    "id, title, cover, language, width, height, paper, spacing, colour, picture, endless, errands, lean, hand, "
    "angle, digits, exact, earlier_values, folder, archived, favourite, cover_pattern, cover_picture";
PageInfo page_at(const Statement& row);
Notebook notebook_at(const Statement& row);

// A line of a reading without its words, from: region, kind, certainty, box (4), source, words, heading, shapes,
// in_table, as_drawn, signs, result, ticked (1: it is, 0: it is not, -1: there is no box).
constexpr char kLineColumns[] =
    "region, kind, certainty, box_left, box_top, box_right, box_bottom, source, words, heading, shapes, in_table, "
    "as_drawn, signs, result, ticked";
constexpr int kLineColumnCount = 16;
Result<ReadLine> line_at(const Statement& row);

std::string id_list(const std::vector<int64_t>& ids);
Result<std::vector<int64_t>> ids_in(const std::string& list);

// Whether it is a name that the library gives its files: 64 hexadecimal digits. Anything else could be a way out of
// their folder.
bool is_file_hash(std::string_view name);
bool is_sound_name(std::string_view name);  // as the library names sound files

inline constexpr char kTrackColumns[] = "id, name, pieces, bookmarks";
std::optional<VoiceTrack> track_at(const Statement& row);  // nothing: damaged

}  // namespace fernleaf
