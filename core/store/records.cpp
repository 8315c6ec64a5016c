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
    if (within(row.integer(paper), 0, static_cast<int>(Paper::picture)))
        sheet.paper = static_cast<Paper>(row.integer(paper));
    if (within(spacing, kLeastSpacingMm, kMostSpacingMm)) sheet.spacing_mm = spacing;
    sheet.colour = static_cast<uint32_t>(row.integer(colour)) & 0xFFFFFF;
    if (std::string picture = row.text(colour + 1); is_file_hash(picture)) sheet.picture = std::move(picture);
    sheet.endless = row.integer(colour + 2) != 0;
    return sheet;
}

}  // namespace

const Row kStrokeRow{
    "stroke",
    {"id", "page", "live", "colour", "width", "kind", "tip", "opacity", "by_pressure", "place", "start", "points"}};
const Row kPictureRow{"picture",
                      {"id", "page", "live", "file", "name", "frame", "x", "y", "width", "height", "angle", "crop_left",
                       "crop_top", "crop_right", "crop_bottom", "locked", "place", "treatment"}};
const Row kTextRow{"text_block", {"id", "page", "live", "data"}};
const Row kEditRow{"edit",
                   {"id", "page", "label", "undone", "strokes_added", "strokes_removed", "pictures_added",
                    "pictures_removed", "texts_added", "texts_removed", "sheet", "page_added", "corrections"}};
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

Result<Stroke> stroke_at(const Statement& row) {
    const int64_t kind = row.integer(5), tip = row.integer(6);
    if (!whole(row, kStrokeRow) || !within(kind, 0, static_cast<int>(PenKind::highlighter)) ||
        !within(tip, 0, static_cast<int>(Tip::chisel)))
        return kDamaged;
    Stroke stroke;
    stroke.id = row.integer(0);
    stroke.pen = {static_cast<uint32_t>(row.integer(3)) & 0xFFFFFF,
                  static_cast<float>(row.real(4)),
                  static_cast<PenKind>(kind),
                  static_cast<Tip>(tip),
                  static_cast<float>(row.real(7)),
                  row.integer(8) != 0};
    stroke.order = row.integer(9);
    stroke.start_ms = row.integer(10);
    auto points = decode_points(row.blob(11));
    if (!points) return points.error();
    stroke.points = *std::move(points);
    if (!sound(stroke)) return kDamaged;
    return stroke;
}

Result<Picture> picture_at(const Statement& row) {
    const int64_t frame = row.integer(5);
    const Box box = Box::of(row.real(6), row.real(7), row.real(8), row.real(9)), crop = box_at(row, 11);
    const auto treatment = decode_treatment(row.text(17));
    if (!whole(row, kPictureRow) || !is_file_hash(row.text(3)) || !within(frame, 0, 1'000'000) || !placed(box) ||
        !placed(crop) || !std::isfinite(row.real(10)) || !treatment)
        return kDamaged;
    return Picture{row.integer(0), row.text(3), row.text(4),          static_cast<int>(frame), box,
                   row.real(10),   crop,        row.integer(15) != 0, row.integer(16),         *treatment};
}

Result<TextBlock> text_at(const Statement& row) {
    if (!whole(row, kTextRow)) return kDamaged;
    auto text = decode_text(row.text(3));
    if (!text) return text;
    text->id = row.integer(0);
    if (!sound(*text)) return kDamaged;
    return text;
}

Result<Correction> correction_at(const Statement& row) {
    auto strokes = ids_in(row.text(3));
    const Box box = box_at(row, 4);
    const int64_t kind = row.integer(10);
    if (!whole(row, kCorrectionRow) || !strokes || !placed(box) || !within(kind, 0, static_cast<int>(Said::one_line)))
        return kDamaged;
    return Correction{*std::move(strokes), box, row.text(8), static_cast<Said>(kind)};
}

Result<EditRow> edit_at(const Statement& row) {
    EditRow out;
    out.id = row.integer(0);
    out.page = row.integer(1);
    out.label = row.text(2);
    if (!whole(row, kEditRow)) return kDamaged;
    for (int i = 0; i < 3; ++i)
        for (const bool added : {true, false}) {
            auto ids = ids_in(row.text(4 + 2 * i + (added ? 0 : 1)));
            if (!ids) return ids.error();
            (added ? out.added : out.removed)[i] = *std::move(ids);
        }
    if (const std::string sheet = row.text(10); !sheet.empty()) {
        const auto change = decode_sheet_change(sheet);
        if (!change) return change.error();
        out.sheet = *change;
    }
    out.page_added = row.integer(11);
    auto corrections = ids_in(row.text(12));
    if (!corrections) return corrections.error();
    out.corrections = *std::move(corrections);
    return out;
}

Statement& bind_row(Statement& s, const Stroke& stroke, PageId page, bool live) {
    return s.bind(stroke.id)
        .bind(page)
        .bind(live ? 1 : 0)
        .bind(static_cast<int64_t>(stroke.pen.colour))
        .bind(static_cast<double>(stroke.pen.width_mm))
        .bind(static_cast<int>(stroke.pen.kind))
        .bind(static_cast<int>(stroke.pen.tip))
        .bind(static_cast<double>(stroke.pen.opacity))
        .bind(stroke.pen.by_pressure ? 1 : 0)
        .bind(stroke.order)
        .bind(stroke.start_ms)
        .bind_blob(encode_points(stroke.points));
}

Statement& bind_row(Statement& s, const Picture& p, PageId page, bool live) {
    s.bind(p.id).bind(page).bind(live ? 1 : 0).bind(p.file).bind(p.name).bind(p.frame);
    s.bind(p.box.left).bind(p.box.top).bind(p.box.width()).bind(p.box.height()).bind(p.angle);
    s.bind(p.crop.left).bind(p.crop.top).bind(p.crop.right).bind(p.crop.bottom);
    return s.bind(p.locked ? 1 : 0).bind(p.order).bind(encode_treatment(p.treatment));
}

Statement& bind_row(Statement& s, const TextBlock& text, PageId page, bool live) {
    return s.bind(text.id).bind(page).bind(live ? 1 : 0).bind(encode_text(text));
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
    return info;
}

Notebook notebook_at(const Statement& row) {
    Notebook out;
    out.id = row.integer(0);
    out.title = row.text(1);
    out.cover = static_cast<uint32_t>(row.integer(2)) & 0xFFFFFF;
    if (auto languages = language_codes(row.text(3)); !languages.empty()) out.languages = std::move(languages);
    out.sheet = sheet_at(row, 4, 6, 8);
    if (within(row.real(11), 0, 1)) out.lean = row.real(11);
    out.hand = row.integer(12);
    return out;
}

Result<ReadLine> line_at(const Statement& row) {
    const int64_t region = row.integer(0), kind = row.integer(1), heading = row.integer(9);
    const Box box = box_at(row, 3);
    auto words = decode_words(row.text(8));
    if (!words || !within(region, 0, INT32_MAX) || !within(kind, 0, static_cast<int>(RegionKind::math)) ||
        !within(heading, 0, 3) || !placed(box))
        return kDamaged;
    ReadLine line;
    line.region = static_cast<int>(region);
    line.kind = static_cast<RegionKind>(kind);
    line.certainty = within(row.real(2), 0, 1) ? row.real(2) : 0;
    line.box = box;
    line.source = static_cast<uint64_t>(row.integer(7));
    line.words = *std::move(words);
    line.heading = static_cast<int>(heading);
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
