// Changes to a table that is drawn fair, and to what stands in its cells: rows and columns come, go, move and are
// sorted; words wrap in their cells, and rows grow with them.
//
//   Edit edit{"Add a row"};
//   EditBuilder builder(edit, page, new_id);
//   insert_line(builder, table, Lines::rows, 2, lay_out);
//
// What stands in a cell is told by its middle, type by its first word. It keeps its place from the cell's upper left
// corner when the cell goes elsewhere, and goes with a cell that goes. Merged cells that rows or columns tear apart are
// merged no more.
#pragma once

#include <functional>
#include <string>
#include <vector>

#include "document/edit_builder.h"

namespace fernleaf {

enum class Lines { rows, columns };

// Computes a block's height and where its words stand.
using LayOut = std::function<void(TextBlock&)>;

// A row or a column of a table to be: one that was, or a new one.
struct TableLine {
    int before = -1;  // its number; -1: it is new
    double mm = 0;    // how high or wide it is
};

// Makes a table of these rows and columns of it, none of which is taken twice. Returns its id.
FairTableId rebuild(EditBuilder& builder, const FairTable& table, const std::vector<TableLine>& rows,
                    const std::vector<TableLine>& columns, const LayOut& lay_out);

// As high or wide as the one before it; before: its number then, 0 to the count.
FairTableId insert_line(EditBuilder& builder, const FairTable& table, Lines which, int before, const LayOut& lay_out);
// All that a merged cell takes at once; never the last ones.
FairTableId remove_lines(EditBuilder& builder, const FairTable& table, Lines which, int first, int count,
                         const LayOut& lay_out);
// to: its number afterwards.
FairTableId move_line(EditBuilder& builder, const FairTable& table, Lines which, int from, int to,
                      const LayOut& lay_out);
FairTableId resize_line(EditBuilder& builder, const FairTable& table, Lines which, int number, double mm,
                        const LayOut& lay_out);
FairTableId make_lines_even(EditBuilder& builder, const FairTable& table, Lines which, const LayOut& lay_out);

// Rows in the order of what stands in a column: numbers by their size, before words by the alphabet; empty cells last.
// A header stays. says: the text of a cell.
using CellText = std::function<std::string(const TableCell& cell)>;
FairTableId sort_rows(EditBuilder& builder, const FairTable& table, int column, bool descending, const CellText& says,
                      const LayOut& lay_out);

// What stands in a column's cells at their left, in their middle or at their right; ink is moved, type set so.
void align_column(EditBuilder& builder, const FairTable& table, int column, Align align, const LayOut& lay_out);

// Type that stands in a cell is wrapped to its width, and rows grow until it fits. Returns the table's id.
FairTableId fit_cells(EditBuilder& builder, const FairTable& table, const LayOut& lay_out);

// What of a page stands in a table's cells.
std::vector<ElementId> ids_within(const Elements& page, const FairTable& table);

}  // namespace fernleaf
