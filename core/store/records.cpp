#include "store/records.h"

#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>

#include "store/codec.h"

namespace fernleaf {
namespace {

using Json = nlohmann::json;

constexpr double kFarthestMm = 1e5;  // coordinates are within 100 m

const Error kDamaged{"It is damaged."};

bool within(double value, double least, double most) { return value >= least && value <= most; }  // false for NaN
bool within(int64_t value, int64_t least, int64_t most) { return value >= least && value <= most; }

bool placed(const Box& box) {
    return within(box.left, -kFarthestMm, kFarthestMm) && within(box.top, -kFarthestMm, kFarthestMm) &&
           within(box.right, -kFarthestMm, kFarthestMm) && within(box.bottom, -kFarthestMm, kFarthestMm);
}

// The last column tells whether the checksum is right.
bool whole(const Statement& row, const Row& of) { return row.integer(static_cast<int>(of.columns.size())) == 1; }

std::string joined(const std::vector<const char*>& names, size_t from) {
    std::string out;
    for (size_t i = from; i < names.size(); ++i) out += (i > from ? ", " : "") + std::string(names[i]);
    return out;
}

Sheet sheet_at(const Statement& row, int width, int paper, int colour) {
    Sheet sheet;
    const double w = row.real(width), h = row.real(width + 1), spacing = row.real(paper + 1);
    if (within(w, 1, kFarthestMm) && within(h, 1, kFarthestMm)) sheet.width_mm = w, sheet.height_mm = h;
    if (within(row.integer(paper), 0, static_cast<int>(kLastPaper)))
        sheet.paper = static_cast<Paper>(row.integer(paper));
    if (within(spacing, kLeastSpacingMm, kMostSpacingMm)) sheet.spacing_mm = spacing;
    sheet.colour = static_cast<uint32_t>(row.integer(colour)) & 0xFFFFFF;
    if (std::string picture = row.text(colour + 1); is_file_hash(picture)) sheet.picture = std::move(picture);
    sheet.endless = row.integer(colour + 2) != 0;
    sheet.errands = row.integer(colour + 3) != 0;
    return sheet;
}

}  // namespace

const Row kElementRow{"element", {"id", "page", "live", "kind", "z", "body"}};
const Row kEditRow{"edit", {"id", "page", "label", "undone", "uid", "made", "operations"}};
const Row kCorrectionRow{
    "correction",
    {"id", "page", "live", "strokes", "box_left", "box_top", "box_right", "box_bottom", "text", "made", "kind"}};

std::string listed(const Row& row) { return joined(row.columns, 0) + ", sum = " + checksum_of(row); }

std::string inserting(const Row& row) {
    std::string values, summed;
    for (size_t i = 1; i <= row.columns.size(); ++i) {
        const std::string number = "?" + std::to_string(i);
        values += number + ", ";
        if (i > 1) summed += (i > 2 ? ", " : "") + number;
    }
    return std::string("INSERT INTO ") + row.table + " (" + joined(row.columns, 0) + ", sum) VALUES (" + values +
           "checksum(" + summed + "))";
}

std::string changing(const Row& row, std::string_view column) {
    std::string summed;
    for (size_t i = 1; i < row.columns.size(); ++i)
        summed += (i > 1 ? ", " : "") + std::string(row.columns[i] == column ? "?1" : row.columns[i]);
    return std::string("UPDATE ") + row.table + " SET " + std::string(column) + " = ?1, sum = checksum(" + summed +
           ") WHERE id = ?2";
}

std::string checksum_of(const Row& row) { return "checksum(" + joined(row.columns, 1) + ")"; }

Status element_at(const Statement& row, Elements& into) {
    if (!whole(row, kElementRow)) return kDamaged;
    return decode_into(into, row.integer(3), row.integer(0), row.integer(4), row.blob(5));
}

Result<Correction> correction_at(const Statement& row) {
    auto strokes = ids_in(row.text(3));
    const Box box = box_at(row, 4);
    const int64_t kind = row.integer(10);
    if (!whole(row, kCorrectionRow) || !strokes || !placed(box) || !within(kind, 0, static_cast<int>(InkClass::sign)))
        return kDamaged;
    return Correction{*std::move(strokes), box, row.text(8), static_cast<InkClass>(kind)};
}

Result<EditRow> edit_at(const Statement& row) {
    EditRow out;
    out.id = row.integer(0);
    out.page = row.integer(1);
    out.label = row.text(2);
    if (!whole(row, kEditRow)) return kDamaged;
    const Json operations = Json::parse(row.text(6), nullptr, false);
    if (!operations.is_array()) return kDamaged;
    for (const Json& operation : operations) {
        if (!operation.is_array() || operation.size() != 2 || !operation[0].is_string()) return kDamaged;
        const auto name = operation[0].get<std::string>();
        const Json& what = operation[1];
        std::vector<int64_t>* ids = name == "add"       ? &out.added
                                    : name == "remove"  ? &out.removed
                                    : name == "correct" ? &out.corrections
                                                        : nullptr;
        if (ids) {
            auto listed = ids_in(what.dump());
            if (!listed) return kDamaged;
            *ids = *std::move(listed);
        } else if (name == "sheet") {
            const auto change = decode_sheet_change(what.dump());
            if (!change) return change.error();
            out.sheet = *change;
        } else if (name == "page") {
            if (!what.is_number_integer()) return kDamaged;
            out.page_added = what.get<int64_t>();
        } else if (name != "replace") {
            return kDamaged;
        }
    }
    return out;
}

std::string operations_of(const Edit& edit, const std::vector<int64_t>& corrections) {
    auto operations = Json::array();
    const auto add = [&](const char* name, const auto& what) {
        if (!what.empty()) operations.push_back({name, what});
    };
    add("add", ids_of(edit.added));
    add("remove", ids_of(edit.removed));
    add("replace", edit.replacements);
    if (edit.sheet) operations.push_back({"sheet", Json::parse(encode_sheet_change(*edit.sheet))});
    if (edit.overflow) operations.push_back({"page", edit.overflow->page});
    add("correct", corrections);
    return operations.dump();
}

Statement& bind_box(Statement& s, const Box& box) {
    const bool none = box.empty();
    return s.bind(none ? 0.0 : box.left)
        .bind(none ? 0.0 : box.top)
        .bind(none ? 0.0 : box.right)
        .bind(none ? 0.0 : box.bottom);
}

Box box_at(const Statement& row, int column) {
    return {row.real(column), row.real(column + 1), row.real(column + 2), row.real(column + 3)};
}

PageInfo page_at(const Statement& row) {
    PageInfo info;
    static_cast<Sheet&>(info) = sheet_at(row, 3, 5, 8);
    info.id = row.integer(0);
    info.notebook = row.integer(1);
    info.number = static_cast<int>(std::clamp<int64_t>(row.integer(2), 1, INT32_MAX));
    info.created_ms = row.integer(7);
    info.title = row.text(12);
    info.favourite = row.integer(13) != 0;
    return info;
}

Notebook notebook_at(const Statement& row) {
    Notebook out;
    out.id = row.integer(0);
    out.title = row.text(1);
    out.cover = static_cast<uint32_t>(row.integer(2)) & 0xFFFFFF;
    if (auto languages = language_codes(row.text(3)); !languages.empty()) out.languages = std::move(languages);
    out.sheet = sheet_at(row, 4, 6, 8);
    if (within(row.real(12), 0, 1)) out.language_weight = row.real(12);
    out.hand = row.integer(13);
    if (within(row.integer(14), 0, static_cast<int>(AngleUnit::gon)))
        out.working.angle = static_cast<AngleUnit>(row.integer(14));
    if (within(row.integer(15), WorkingManner::kFewestDigits, WorkingManner::kMostDigits))
        out.working.digits = static_cast<int>(row.integer(15));
    out.working.exact = row.integer(16) != 0;
    out.working.earlier_values = row.integer(17) != 0;
    out.folder = row.integer(18);
    out.archived = row.integer(19) != 0;
    out.favourite = row.integer(20) != 0;
    if (within(row.integer(21), 0, static_cast<int>(kLastCoverPattern)))
        out.cover_pattern = static_cast<CoverPattern>(row.integer(21));
    if (std::string picture = row.text(22); is_file_hash(picture)) out.cover_picture = std::move(picture);
    return out;
}

Result<ReadLine> line_at(const Statement& row) {
    const int64_t region = row.integer(0), kind = row.integer(1), heading = row.integer(9);
    const Box box = box_at(row, 3);
    auto words = decode_words(row.text(8));
    auto shapes = decode_shapes(row.text(10));
    auto place = decode_table(row.text(11));
    auto ink = ids_in(row.text(12));
    auto signs = decode_words(row.text(13));
    if (!words || !signs || !shapes || !place || !ink || !within(region, 0, INT32_MAX) ||
        !within(kind, 0, static_cast<int>(RegionKind::table)) || !within(heading, 0, 3) || !placed(box))
        return kDamaged;
    ReadLine line;
    line.region = static_cast<int>(region);
    line.kind = static_cast<RegionKind>(kind);
    line.certainty = within(row.real(2), 0, 1) ? row.real(2) : 0;
    line.box = box;
    line.input_signature = static_cast<uint64_t>(row.integer(7));
    line.words = *std::move(words);
    line.shapes = *std::move(shapes);
    line.heading = static_cast<int>(heading);
    line.table = std::move(place->table);
    line.cell = place->cell;
    line.ink = *std::move(ink);
    line.signs = *std::move(signs);
    line.result = row.text(14);
    if (within(row.integer(15), 0, 1)) line.ticked = row.integer(15) == 1;
    return line;
}

std::string id_list(const std::vector<int64_t>& ids) { return Json(ids).dump(); }

Result<std::vector<int64_t>> ids_in(const std::string& list) {
    const Json ids = Json::parse(list, nullptr, false);
    if (!ids.is_array() || !std::ranges::all_of(ids, [](const Json& id) { return id.is_number_integer(); }))
        return kDamaged;
    return ids.get<std::vector<int64_t>>();
}

bool is_file_hash(std::string_view name) {
    return name.size() == 64 &&
           std::ranges::all_of(name, [](char c) { return (c >= '0' && c <= '9') || (c >= 'a' && c <= 'f'); });
}

}  // namespace fernleaf
