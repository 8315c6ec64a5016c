#include "drawing/table_editing.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <optional>
#include <tuple>
#include <unordered_map>

#include "base/text.h"

namespace fernleaf {
namespace {

constexpr double kNewRowMm = 8;   // at least, of a table whose rows are lower
constexpr double kSameMm = 1e-6;  // what adding up may leave
constexpr double kNarrowestTypeMm = 2;
constexpr double kTooLowMm = 0.05;  // that type is higher than its row
constexpr double kSameAngle = 0.5;  // degrees: type turned otherwise is left as it is

using Place = std::pair<int, int>;  // of a cell: its first row and column

double up_to(const std::vector<double>& sizes, int count) {
    return std::accumulate(sizes.begin(), sizes.begin() + count, 0.0);
}

// Where an element stands: type where it begins, for its block may be wider than its cell, and higher.
template <Element E>
Point place_of(const E& e) {
    if constexpr (std::is_same_v<E, TextBlock>)
        if (!e.words.empty()) return e.words.front().box.centre();
    return drawn_box(e).centre();
}

// Calls with each element that stands in a cell of a table, and that cell. Tables and what is larger stand in none.
template <typename Each>
void for_each_within(const Elements& page, const FairTable& table, const Each& each) {
    const Box all = drawn_box(table);
    for_each_element(page, [&]<typename E>(const E& e) {
        if constexpr (!std::is_same_v<E, FairTable>) {
            if (ElementTraits<E>::locked(e)) return;
            const Point middle = place_of(e);
            if (!all.contains(middle)) return;
            const Box box = drawn_box(e);
            if (!std::is_same_v<E, TextBlock> && (box.width() > all.width() || box.height() > all.height())) return;
            if (const auto cell = cell_at(table, middle)) each(e, *cell);
        }
    });
}

std::vector<TableLine> lines_of(const std::vector<double>& sizes) {
    std::vector<TableLine> out;
    for (size_t i = 0; i < sizes.size(); ++i) out.push_back({static_cast<int>(i), sizes[i]});
    return out;
}
const std::vector<double>& sizes_of(const FairTable& table, Lines which) {
    return which == Lines::rows ? table.rows_mm : table.columns_mm;
}

FairTableId rebuild(EditBuilder& builder, const FairTable& table, Lines which, const std::vector<TableLine>& lines,
                    const LayOut& lay_out) {
    return which == Lines::rows ? rebuild(builder, table, lines, lines_of(table.columns_mm), lay_out)
                                : rebuild(builder, table, lines_of(table.rows_mm), lines, lay_out);
}

// For each row or column that was, its number now; none for one that is gone.
std::vector<std::optional<int>> numbers_now(const std::vector<TableLine>& lines, size_t before) {
    std::vector<std::optional<int>> out(before);
    for (size_t i = 0; i < lines.size(); ++i)
        if (lines[i].before >= 0) out[static_cast<size_t>(lines[i].before)] = static_cast<int>(i);
    return out;
}

// The span that rows (columns) first to first + count take now: none where others came between or all are gone.
std::optional<std::pair<int, int>> span_now(const std::vector<std::optional<int>>& now,
                                            const std::vector<TableLine>& lines, int first, int count) {
    std::vector<int> places;
    for (int i = first; i < first + count; ++i)
        if (const auto to = now[static_cast<size_t>(i)]) places.push_back(*to);
    if (places.empty()) return {};
    const auto [least, most] = std::ranges::minmax(places);
    for (int i = least; i <= most; ++i) {
        const int before = lines[static_cast<size_t>(i)].before;
        if (before >= 0 && (before < first || before >= first + count)) return {};
    }
    return std::pair(least, most - least + 1);
}

// The number that a text begins with, such as 12.5, "-3 kg", "€ 1,250".
std::optional<double> number_in(const std::string& text) {
    size_t i = 0;
    const auto at = [&](size_t k) { return k < text.size() ? text[k] : '\0'; };
    const auto digit = [&](size_t k) { return at(k) >= '0' && at(k) <= '9'; };
    bool negative = false;
    for (; i < text.size() && !digit(i); ++i) {
        const auto c = static_cast<unsigned char>(text[i]);
        if (std::isalpha(c)) return {};
        if (text[i] == '-' || text.compare(i, 3, "–") == 0) negative = true;
    }
    if (i == text.size()) return {};
    double value = 0, part = 0;
    for (; i < text.size(); ++i) {
        if (digit(i)) {
            if (part > 0)
                value += part * (text[i] - '0'), part /= 10;
            else
                value = 10 * value + (text[i] - '0');
            continue;
        }
        const bool separator = (text[i] == '.' || text[i] == ',') && digit(i + 1) && part == 0;
        if (!separator) break;
        // A comma before three digits parts thousands.
        if (text[i] == '.' || !(digit(i + 2) && digit(i + 3) && !digit(i + 4))) part = 0.1;
    }
    return negative ? -value : value;
}

// Numbers, then words, then nothing.
struct SortKey {
    int kind = 2;
    double number = 0;
    std::string words;
};

SortKey key_of(const std::string& text) {
    if (trimmed(text).empty()) return {};
    if (const auto number = number_in(text)) return {0, *number, fold(text)};
    return {1, 0, fold(text)};
}

bool turned_alike(const TextBlock& text, const FairTable& table) {
    return std::abs(std::remainder(text.angle - table.angle, 360.0)) < kSameAngle;
}

// A block's upper left corner, in the table's millimetres.
Point corner_in(const TextBlock& text, const FairTable& table) {
    const Point half{text.width_mm / 2, text.height_mm / 2};
    return to_table(table, text.at + half) - half;
}

}  // namespace

std::vector<ElementId> ids_within(const Elements& page, const FairTable& table) {
    std::vector<ElementId> out;
    for_each_within(page, table, [&](const auto& e, const TableCell&) { out.push_back(e.id); });
    return out;
}

FairTableId rebuild(EditBuilder& builder, const FairTable& before, const std::vector<TableLine>& rows,
                    const std::vector<TableLine>& columns, const LayOut& lay_out) {
    const FairTable table = before;
    FairTable after = table;
    const auto rows_now = numbers_now(rows, table.rows_mm.size());
    const auto columns_now = numbers_now(columns, table.columns_mm.size());
    after.rows_mm.clear(), after.columns_mm.clear(), after.merged.clear();
    for (const TableLine& line : rows) after.rows_mm.push_back(std::clamp(line.mm, kLeastCellMm, kLargestCellMm));
    for (const TableLine& line : columns) after.columns_mm.push_back(std::clamp(line.mm, kLeastCellMm, kLargestCellMm));
    std::map<Place, Place> goes;  // cells that are merged no more, or go elsewhere: by their first place
    for (const TableCell& cell : table.merged) {
        const auto high = span_now(rows_now, rows, cell.row, cell.rows);
        const auto wide = span_now(columns_now, columns, cell.column, cell.columns);
        if (!high || !wide) continue;
        goes[{cell.row, cell.column}] = {high->first, wide->first};
        if (high->second > 1 || wide->second > 1)
            after.merged.push_back({high->first, wide->first, high->second, wide->second});
    }
    std::vector<std::pair<ElementId, Point>> moves;
    std::vector<ElementId> gone;
    for_each_within(builder.now(), table, [&](const auto& e, const TableCell& cell) {
        Place to;
        if (const auto known = goes.find({cell.row, cell.column}); known != goes.end()) {
            to = known->second;
        } else {
            const auto row = rows_now[static_cast<size_t>(cell.row)];
            const auto column = columns_now[static_cast<size_t>(cell.column)];
            if (!row || !column) return gone.push_back(e.id);
            to = {*row, *column};
        }
        const Point was{up_to(table.columns_mm, cell.column), up_to(table.rows_mm, cell.row)};
        const Point is{up_to(after.columns_mm, to.second), up_to(after.rows_mm, to.first)};
        if (was != is) moves.emplace_back(e.id, to_page(after, is) - to_page(after, was));
    });
    const FairTableId id = builder.replace(table, after);
    const std::unordered_map<ElementId, Point> by(moves.begin(), moves.end());
    const Elements all = builder.now();
    for_each_element(all, [&]<typename E>(const E& e) {
        if (std::ranges::find(gone, e.id) != gone.end())
            builder.remove(e);
        else if (const auto to = by.find(e.id); to != by.end())
            builder.replace(e, ElementTraits<E>::transformed(e, Affine::shift(to->second)));
    });
    return fit_cells(builder, *std::ranges::find(builder.now().tables, id, &FairTable::id), lay_out);
}

FairTableId insert_line(EditBuilder& builder, const FairTable& table, Lines which, int before, const LayOut& lay_out) {
    const std::vector<double>& sizes = sizes_of(table, which);
    const auto like = static_cast<size_t>(std::max(0, before - 1));
    std::vector<TableLine> lines = lines_of(sizes);
    const double mm = which == Lines::rows ? std::max(kNewRowMm, *std::ranges::min_element(sizes)) : sizes[like];
    lines.insert(lines.begin() + before, {-1, mm});
    return rebuild(builder, table, which, lines, lay_out);
}

FairTableId remove_lines(EditBuilder& builder, const FairTable& table, Lines which, int first, int count,
                         const LayOut& lay_out) {
    std::vector<TableLine> lines = lines_of(sizes_of(table, which));
    if (static_cast<size_t>(count) >= lines.size()) return table.id;
    lines.erase(lines.begin() + first, lines.begin() + first + count);
    return rebuild(builder, table, which, lines, lay_out);
}

FairTableId move_line(EditBuilder& builder, const FairTable& table, Lines which, int from, int to,
                      const LayOut& lay_out) {
    std::vector<TableLine> lines = lines_of(sizes_of(table, which));
    const TableLine moved = lines[static_cast<size_t>(from)];
    lines.erase(lines.begin() + from);
    lines.insert(lines.begin() + to, moved);
    return rebuild(builder, table, which, lines, lay_out);
}

FairTableId resize_line(EditBuilder& builder, const FairTable& table, Lines which, int number, double mm,
                        const LayOut& lay_out) {
    std::vector<TableLine> lines = lines_of(sizes_of(table, which));
    lines[static_cast<size_t>(number)].mm = mm;
    return rebuild(builder, table, which, lines, lay_out);
}

FairTableId make_lines_even(EditBuilder& builder, const FairTable& table, Lines which, const LayOut& lay_out) {
    std::vector<TableLine> lines = lines_of(sizes_of(table, which));
    const double whole = which == Lines::rows ? height_of(table) : width_of(table);
    for (TableLine& line : lines) line.mm = whole / static_cast<double>(lines.size());
    return rebuild(builder, table, which, lines, lay_out);
}

FairTableId sort_rows(EditBuilder& builder, const FairTable& table, int column, bool descending, const CellText& says,
                      const LayOut& lay_out) {
    std::vector<TableLine> rows = lines_of(table.rows_mm);
    const auto first = rows.begin() + (table.head ? 1 : 0);
    std::unordered_map<int, SortKey> keys;
    for (auto row = first; row != rows.end(); ++row)
        keys[row->before] = key_of(says(cell_of(table, row->before, column)));
    std::stable_sort(first, rows.end(), [&](const TableLine& a, const TableLine& b) {
        const SortKey &one = keys[a.before], &other = keys[b.before];
        if (one.kind == 2 || other.kind == 2) return one.kind < other.kind;  // whichever way
        const auto order = [](const SortKey& k) { return std::tie(k.kind, k.number, k.words); };
        return descending ? order(other) < order(one) : order(one) < order(other);
    });
    return rebuild(builder, table, Lines::rows, rows, lay_out);
}

void align_column(EditBuilder& builder, const FairTable& table, int column, Align align, const LayOut& lay_out) {
    // All that is no type in a cell goes together.
    std::map<Place, Box> ink;
    const Elements all = builder.now();
    const auto local = [&](const Box& box) { return turned(shifted(box, Point{} - table.at), -table.angle, {}); };
    const auto is_type = [&]<typename E>(const E& e) {
        if constexpr (std::is_same_v<E, TextBlock>) return turned_alike(e, table);
        return false;
    };
    for_each_within(all, table, [&](const auto& e, const TableCell& cell) {
        if (cell.column == column && !is_type(e)) ink[{cell.row, cell.column}].include(local(drawn_box(e)));
    });
    for_each_within(all, table, [&]<typename E>(const E& e, const TableCell& cell) {
        if (cell.column != column) return;
        if (is_type(e)) {
            if constexpr (std::is_same_v<E, TextBlock>) {
                TextBlock text = e;
                for (Paragraph& paragraph : text.paragraphs) paragraph.align = align;
                lay_out(text);
                builder.replace(e, text);
            }
            return;
        }
        const Box place = box_of(table, cell), box = ink.at({cell.row, cell.column});
        const double by = align == Align::left    ? place.left + kCellMarginMm - box.left
                          : align == Align::right ? place.right - kCellMarginMm - box.right
                                                  : place.centre().x - box.centre().x;
        const Point along = to_page(table, {by, 0}) - table.at;
        builder.replace(e, ElementTraits<E>::transformed(e, Affine::shift(along)));
    });
}

FairTableId fit_cells(EditBuilder& builder, const FairTable& before, const LayOut& lay_out) {
    const FairTable table = before;
    std::vector<double> rows = table.rows_mm;
    std::vector<std::pair<TextBlock, TextBlock>> set;
    for_each_within(builder.now(), table, [&]<typename E>(const E& e, const TableCell& cell) {
        if constexpr (std::is_same_v<E, TextBlock>) {
            if (!turned_alike(e, table)) return;
            const Box place = box_of(table, cell);
            const double wide = std::max(kNarrowestTypeMm, place.width() - 2 * kCellMarginMm);
            TextBlock text = e;
            Point corner = corner_in(text, table);
            // Laying type out takes its time: only where it must be wrapped anew.
            if (text.words.empty() || std::abs(text.width_mm - wide) > kSameMm || text.angle != table.angle) {
                text.width_mm = wide, text.angle = table.angle;
                lay_out(text);
                corner.y = std::max(corner.y, place.top + kCellMarginMm);
            }
            // At the left; type that fits its cell stays within it.
            const double highest = place.top + kCellMarginMm,
                         lowest = std::max(highest, place.bottom - kCellMarginMm - text.height_mm);
            const Point wanted{place.left + kCellMarginMm, std::clamp(corner.y, highest, lowest)};
            const Point by = to_page(table, wanted) - to_page(table, corner_in(text, table));
            if (length(by) > kSameMm) text = ElementTraits<TextBlock>::transformed(std::move(text), Affine::shift(by));
            const double needs = corner_in(text, table).y + text.height_mm + kCellMarginMm - place.bottom;
            const auto last = static_cast<size_t>(cell.row + cell.rows - 1);
            if (needs > kTooLowMm) rows[last] = std::max(rows[last], table.rows_mm[last] + needs);
            set.emplace_back(e, std::move(text));
        }
    });
    for (auto& [was, is] : set) builder.replace(was, std::move(is));
    if (rows == table.rows_mm) return table.id;
    std::vector<TableLine> grown = lines_of(rows);
    return rebuild(builder, table, grown, lines_of(table.columns_mm), lay_out);
}

}  // namespace fernleaf
