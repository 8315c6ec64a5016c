#include "document/table/fair_table.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "base/json.h"
#include "document/affine_json.h"
#include "ink/selecting.h"

namespace fernleaf {
namespace {

double sum(const std::vector<double>& sizes, size_t count) {
    return std::accumulate(sizes.begin(), sizes.begin() + static_cast<std::ptrdiff_t>(count), 0.0);
}

// Which of them a distance from their beginning falls into.
std::optional<int> place_among(const std::vector<double>& sizes, double at) {
    double reached = 0;
    for (size_t i = 0; at >= 0 && i < sizes.size(); ++i)
        if (reached += sizes[i]; at < reached) return static_cast<int>(i);
    return {};
}

bool takes(const TableCell& cell, int row, int column) {
    return row >= cell.row && row < cell.row + cell.rows && column >= cell.column &&
           column < cell.column + cell.columns;
}

std::vector<Point> corners(const FairTable& table) {
    const double w = width_of(table), h = height_of(table);
    return {to_page(table, {0, 0}), to_page(table, {w, 0}), to_page(table, {w, h}), to_page(table, {0, h})};
}

bool fits(const std::vector<double>& sizes, size_t most) {
    return !sizes.empty() && sizes.size() <= most &&
           std::ranges::all_of(sizes, [](double mm) { return mm > 0 && mm <= kLargestCellMm; });
}

// Each more than one place, within the table, and none over another.
bool is_sound(const FairTable& table) {
    const int rows = static_cast<int>(table.rows_mm.size()), columns = static_cast<int>(table.columns_mm.size());
    for (size_t i = 0; i < table.merged.size(); ++i) {
        const TableCell& c = table.merged[i];
        if (c.row < 0 || c.column < 0 || c.rows < 1 || c.columns < 1 || (c.rows == 1 && c.columns == 1) ||
            c.rows > rows - c.row || c.columns > columns - c.column)
            return false;
        for (size_t k = 0; k < i; ++k) {
            const TableCell& other = table.merged[k];
            if (c.row < other.row + other.rows && other.row < c.row + c.rows &&
                c.column < other.column + other.columns && other.column < c.column + c.columns)
                return false;
        }
    }
    return true;
}

}  // namespace

double width_of(const FairTable& table) { return sum(table.columns_mm, table.columns_mm.size()); }
double height_of(const FairTable& table) { return sum(table.rows_mm, table.rows_mm.size()); }

Point to_table(const FairTable& table, Point on_page) { return turned(on_page, -table.angle, table.at) - table.at; }
Point to_page(const FairTable& table, Point in_table) { return turned(table.at + in_table, table.angle, table.at); }

TableCell cell_of(const FairTable& table, int row, int column) {
    for (const TableCell& cell : table.merged)
        if (takes(cell, row, column)) return cell;
    return {row, column};
}

std::vector<TableCell> cells_of(const FairTable& table) {
    std::vector<TableCell> out;
    for (int r = 0; r < static_cast<int>(table.rows_mm.size()); ++r)
        for (int c = 0; c < static_cast<int>(table.columns_mm.size()); ++c)
            if (const TableCell cell = cell_of(table, r, c); cell.row == r && cell.column == c) out.push_back(cell);
    return out;
}

std::optional<TableCell> cell_at(const FairTable& table, Point on_page) {
    const Point p = to_table(table, on_page);
    const auto row = place_among(table.rows_mm, p.y), column = place_among(table.columns_mm, p.x);
    if (!row || !column) return {};
    return cell_of(table, *row, *column);
}

Box box_of(const FairTable& table, const TableCell& cell) {
    const auto row = static_cast<size_t>(cell.row), column = static_cast<size_t>(cell.column);
    return {sum(table.columns_mm, column), sum(table.rows_mm, row),
            sum(table.columns_mm, column + static_cast<size_t>(cell.columns)),
            sum(table.rows_mm, row + static_cast<size_t>(cell.rows))};
}

std::vector<std::pair<Point, Point>> rules_of(const FairTable& table) {
    std::vector<std::pair<Point, Point>> out;
    const auto add = [&](Point a, Point b) { out.emplace_back(to_page(table, a), to_page(table, b)); };
    const int rows = static_cast<int>(table.rows_mm.size()), columns = static_cast<int>(table.columns_mm.size());
    // Along each rule those pieces join that no merged cell covers.
    for (int r = 0; r <= rows; ++r) {
        const double y = sum(table.rows_mm, static_cast<size_t>(r));
        double from = -1, x = 0;
        for (int c = 0; c < columns; ++c) {
            const bool covered = r > 0 && r < rows && cell_of(table, r - 1, c) == cell_of(table, r, c);
            if (!covered && from < 0) from = x;
            if (covered && from >= 0) add({from, y}, {x, y}), from = -1;
            x += table.columns_mm[static_cast<size_t>(c)];
        }
        if (from >= 0) add({from, y}, {x, y});
    }
    for (int c = 0; c <= columns; ++c) {
        const double x = sum(table.columns_mm, static_cast<size_t>(c));
        double from = -1, y = 0;
        for (int r = 0; r < rows; ++r) {
            const bool covered = c > 0 && c < columns && cell_of(table, r, c - 1) == cell_of(table, r, c);
            if (!covered && from < 0) from = y;
            if (covered && from >= 0) add({x, from}, {x, y}), from = -1;
            y += table.rows_mm[static_cast<size_t>(r)];
        }
        if (from >= 0) add({x, from}, {x, y});
    }
    return out;
}

Box ElementTraits<FairTable>::bounds(const FairTable& table) {
    Box out;
    for (const Point p : corners(table)) out.include(p);
    return out.grown(table.width_mm / 2);
}

bool ElementTraits<FairTable>::covers(const FairTable& table, Point p, double reach_mm) {
    if (!bounds(table).grown(reach_mm).contains(p)) return false;
    return std::ranges::any_of(rules_of(table), [&](const auto& rule) {
        return distance_to_segment(p, rule.first, rule.second) <= reach_mm + table.width_mm / 2;
    });
}

bool ElementTraits<FairTable>::mostly_inside(const FairTable& table, const std::vector<Point>& polygon) {
    // By the middles of its cells' share of the whole, of which there are enough for any lasso when they are parted.
    constexpr int kParts = 12;
    const double w = width_of(table), h = height_of(table);
    int held = 0;
    for (int i = 0; i < kParts; ++i)
        for (int k = 0; k < kParts; ++k)
            held += inside(polygon, to_page(table, {w * (i + 0.5) / kParts, h * (k + 0.5) / kParts})) ? 1 : 0;
    return 2 * held > kParts * kParts;
}

FairTable ElementTraits<FairTable>::transformed(FairTable table, const Affine& by) {
    // Its own axes on the page, and what becomes of them.
    const Point right = by(to_page(table, {1, 0})) - by(table.at), down = by(to_page(table, {0, 1})) - by(table.at);
    table.at = by(table.at);
    table.angle = std::remainder(std::atan2(right.y, right.x) * 180 / std::numbers::pi, 360);
    if (std::abs(table.angle) < 1e-9) table.angle = 0;
    for (double& mm : table.columns_mm) mm = std::min(mm * length(right), kLargestCellMm);
    for (double& mm : table.rows_mm) mm = std::min(mm * length(down), kLargestCellMm);
    if (!table.ink.empty()) table.transform_since_set = table.transform_since_set.then(by);
    return table;
}

std::optional<std::string> ElementTraits<FairTable>::validation_error(const FairTable& table) {
    if (fits(table.columns_mm, kMostTableColumns) && fits(table.rows_mm, kMostTableRows) && is_sound(table) &&
        std::abs(table.angle) <= 360 && is_place(bounds(table)) && table.width_mm >= kThinnestBorderMm &&
        table.width_mm <= kThickestBorderMm)
        return {};
    return "A table holds numbers that are no place on a page.";
}

std::string ElementTraits<FairTable>::encode(const FairTable& table) {
    Json j{{"at", {table.at.x, table.at.y}},
           {"columns", table.columns_mm},
           {"rows", table.rows_mm},
           {"width", table.width_mm},
           {"colour", table.colour}};
    if (table.angle != 0) j["angle"] = table.angle;
    for (const TableCell& c : table.merged) j["merged"].push_back({c.row, c.column, c.rows, c.columns});
    if (table.head) j["head"] = true;
    if (table.form != BorderForm::solid) j["form"] = static_cast<int>(table.form);
    if (!table.ink.empty()) j["ink"] = table.ink;
    if (table.transform_since_set != Affine()) j["carried"] = json_of(table.transform_since_set);
    if (table.group != 0) j["group"] = table.group;
    return text_of(j);
}

Result<FairTable> ElementTraits<FairTable>::decode(std::string_view bytes) {
    const Error damaged{"A table in the library is damaged."};
    try {
        const Json j = Json::parse(bytes);
        FairTable table;
        table.at = {j.at("at").at(0), j.at("at").at(1)};
        table.angle = j.value("angle", 0.0);
        for (const Json& mm : j.at("columns")) table.columns_mm.push_back(mm.get<double>());
        for (const Json& mm : j.at("rows")) table.rows_mm.push_back(mm.get<double>());
        if (const auto merged = j.find("merged"); merged != j.end())
            for (const Json& c : *merged)
                table.merged.push_back({small(c.at(0)), small(c.at(1)), small(c.at(2)), small(c.at(3))});
        table.head = j.value("head", false);
        table.width_mm = j.at("width");
        table.colour = colour_in(j.at("colour"));
        if (const auto f = j.find("form"); f != j.end()) table.form = static_cast<BorderForm>(small(*f, 0, 2));
        if (const auto from = j.find("ink"); from != j.end()) table.ink = ids_in(*from);
        if (const auto c = j.find("carried"); c != j.end()) table.transform_since_set = affine_from(*c);
        table.group = group_in(j);
        if (validation_error(table)) return damaged;
        return table;
    } catch (const std::exception&) {
        return damaged;
    }
}

}  // namespace fernleaf
