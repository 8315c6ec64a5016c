#include "transcript/table_by_gaps.h"

#include <algorithm>

#include "base/quantile.h"

namespace fernleaf {
namespace {

constexpr double kGap = 0.8;  // of the words' height: a wider one parts columns

// Lines at one height.
struct Row {
    std::vector<const ReadLine*> lines;
    Box box;
};

std::vector<Row> rows_of(const std::vector<ReadLine>& lines) {
    std::vector<const ReadLine*> ordered;
    for (const ReadLine& line : lines)
        if (!line.words.empty()) ordered.push_back(&line);
    std::ranges::stable_sort(ordered, {}, [](const ReadLine* line) { return line->box.centre().y; });
    std::vector<Row> rows;
    for (const ReadLine* line : ordered) {
        if (rows.empty() || line->box.centre().y > rows.back().box.bottom || rows.back().box.centre().y < line->box.top)
            rows.emplace_back();
        rows.back().lines.push_back(line);
        rows.back().box.include(line->box);
    }
    return rows;
}

// Where columns begin and end, in mm.
std::vector<double> borders_of(const std::vector<ReadLine>& lines) {
    std::vector<std::pair<double, double>> spans;
    std::vector<double> heights;
    for (const ReadLine& line : lines)
        for (const ReadWord& word : line.words)
            spans.emplace_back(word.box.left, word.box.right), heights.push_back(word.box.height());
    std::ranges::sort(spans);
    const double gap = kGap * median(std::move(heights));
    std::vector<double> borders{spans.front().first - gap / 2};
    double reached = spans.front().second;
    for (const auto& [left, right] : spans) {
        if (left - reached > gap) borders.push_back((left + reached) / 2);
        reached = std::max(reached, right);
    }
    borders.push_back(reached + gap / 2);
    return borders;
}

}  // namespace

std::vector<ReadLine> table_by_gaps(const std::vector<ReadLine>& lines) {
    const std::vector<Row> rows = rows_of(lines);
    const std::vector<double> xs = borders_of(lines);
    std::vector<double> ys{rows.front().box.top};
    for (size_t r = 1; r < rows.size(); ++r) ys.push_back((rows[r - 1].box.bottom + rows[r].box.top) / 2);
    ys.push_back(rows.back().box.bottom);

    ReadLine grid;
    grid.kind = RegionKind::table;
    grid.certainty = 1;
    ReadTable table{static_cast<int>(rows.size()), static_cast<int>(xs.size() - 1), {}, {}};
    std::vector<ReadLine> out(1);
    for (size_t r = 0; r < rows.size(); ++r)
        for (size_t c = 0; c + 1 < xs.size(); ++c) {
            table.cells.push_back(
                {static_cast<int>(r), static_cast<int>(c), 1, 1, {xs[c], ys[r], xs[c + 1], ys[r + 1]}});
            ReadLine cell;
            cell.cell = static_cast<int>(table.cells.size()) - 1;
            cell.certainty = 1;
            for (const ReadLine* line : rows[r].lines)
                for (const ReadWord& word : line->words)
                    if (const double x = word.box.centre().x; x >= xs[c] && x < xs[c + 1]) {
                        cell.words.push_back(word), cell.box.include(word.box);
                        cell.certainty = std::min(cell.certainty, line->certainty);
                    }
            std::ranges::stable_sort(cell.words, {}, [](const ReadWord& w) { return w.box.left; });
            if (!cell.words.empty()) out.push_back(std::move(cell));
        }
    for (const ReadCell& cell : table.cells) grid.box.include(cell.box);
    grid.table = std::move(table);
    out.front() = std::move(grid);
    return out;
}

}  // namespace fernleaf
