#include "transcript/read_table.h"

#include <cmath>
#include <utility>

namespace fernleaf {

bool is_valid(const ReadTable& table) {
    constexpr int kMost = 2000;  // rows, columns
    if (table.rows < 1 || table.columns < 1 || table.rows > kMost || table.columns > kMost) return false;
    const auto wide = static_cast<size_t>(table.columns), all = wide * static_cast<size_t>(table.rows);
    std::vector<bool> covered(all);
    size_t count = 0;
    std::pair before(-1, -1);
    for (const ReadCell& cell : table.cells) {
        const Box& box = cell.box;
        const bool finite = std::isfinite(box.left) && std::isfinite(box.top) && std::isfinite(box.right) &&
                            std::isfinite(box.bottom) && !box.empty();
        if (!finite || cell.row < 0 || cell.column < 0 || cell.row_count < 1 || cell.column_count < 1 ||
            cell.row_count > table.rows - cell.row || cell.column_count > table.columns - cell.column)
            return false;
        if (std::pair place(cell.row, cell.column); place <= std::exchange(before, place)) return false;
        for (int r = 0; r < cell.row_count; ++r)
            for (int c = 0; c < cell.column_count; ++c) {
                const size_t at = static_cast<size_t>(cell.row + r) * wide + static_cast<size_t>(cell.column + c);
                if (covered[at]) return false;
                covered[at] = true, ++count;
            }
    }
    return count == all;
}

ReadTable as_read(const FairTable& table) {
    ReadTable out{static_cast<int>(table.rows_mm.size()), static_cast<int>(table.columns_mm.size()), {}, {table.id}};
    for (const TableCell& cell : cells_of(table)) {
        const Box box = shifted(box_of(table, cell), table.at);
        out.cells.push_back({cell.row, cell.column, cell.rows, cell.columns, turned(box, table.angle, table.at)});
    }
    return out;
}

}  // namespace fernleaf
