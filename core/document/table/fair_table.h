// A table drawn fair: its rules and what is merged. What stands in its cells are elements of their own, ink or type,
// told by where they stand.
//
//   FairTable table{.at = {20, 30}, .columns_mm = {40, 25}, .rows_mm = {8, 8, 8}, .head = true};
//   if (const auto cell = cell_at(table, pen)) mark(box_of(table, *cell));
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "document/element_traits.h"
#include "document/shape/fair_shape.h"

namespace fernleaf {

using FairTableId = ElementId;

constexpr size_t kMostTableRows = 500, kMostTableColumns = 100;
constexpr double kLeastCellMm = 3, kLargestCellMm = 5000;
constexpr double kCellMarginMm = 1.2;  // from its rules to type that stands in a cell

// A place of a table, merged or not: its first row and column, counted from 0, and how many it takes.
struct TableCell {
    int row = 0, column = 0;
    int rows = 1, columns = 1;
    friend bool operator==(const TableCell&, const TableCell&) = default;
};

struct FairTable {
    FairTableId id = 0;
    int64_t z = 0;     // its place among the others (z_of); 0: by its id
    Point at;          // mm: the upper left corner
    double angle = 0;  // degrees clockwise about that corner
    std::vector<double> columns_mm, rows_mm;
    std::vector<TableCell> merged = {};  // those that are more than one place
    bool head = false;                   // the first row is a header: tinted, kept in its place when rows are sorted
    double width_mm = 0.35;              // of its rules
    uint32_t colour = 0x1E2A44;          // 0xRRGGBB
    BorderForm form = BorderForm::solid;
    std::vector<StrokeId> ink = {};   // the rules it was drawn from; empty for one that wasn't
    Affine transform_since_set = {};  // what has become of it since then: its ink would have gone with it
    int64_t group = 0;                // those of one number are taken together; 0: by itself
    friend bool operator==(const FairTable&, const FairTable&) = default;
};

double width_of(const FairTable& table);   // mm
double height_of(const FairTable& table);  // mm

// From the page to the table's own millimetres, whose origin is its upper left corner, and back.
Point to_table(const FairTable& table, Point on_page);
Point to_page(const FairTable& table, Point in_table);

// All its cells, row by row.
std::vector<TableCell> cells_of(const FairTable& table);
// The cell that is at a place on the page, or that takes a row and a column.
std::optional<TableCell> cell_at(const FairTable& table, Point on_page);
TableCell cell_of(const FairTable& table, int row, int column);
// In the table's own millimetres, to the middle of its rules.
Box box_of(const FairTable& table, const TableCell& cell);

// The rules that are to be drawn: from one place to another on the page.
std::vector<std::pair<Point, Point>> rules_of(const FairTable& table);

template <>
struct ElementTraits<FairTable> {
    static constexpr ElementKind kKind = ElementKind::table;
    static constexpr PaintLayer kLayer = PaintLayer::objects;
    static Box bounds(const FairTable& table);
    static bool covers(const FairTable& table, Point p, double reach_mm);  // on its rules
    static bool mostly_inside(const FairTable& table, const std::vector<Point>& polygon);
    // Turned and stretched; it is never skewed.
    static FairTable transformed(FairTable table, const Affine& by);
    static bool locked(const FairTable&) { return false; }
    static constexpr bool kHasColour = true;
    static void set_colour(FairTable& table, uint32_t colour) { table.colour = colour; }
    static std::optional<std::string> validation_error(const FairTable& table);
    static std::string encode(const FairTable& table);  // JSON
    static Result<FairTable> decode(std::string_view bytes);
    static FairTable as_kept(FairTable table) { return table; }
    static std::vector<std::string> files(const FairTable&) { return {}; }
    static std::vector<ElementId>* made_from(FairTable& table) { return &table.ink; }
    static std::string plain_text(const FairTable&) { return {}; }
};

}  // namespace fernleaf
