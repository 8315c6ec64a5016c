#include <chrono>
#include <cstdio>

#include "bench/drawings/tables.h"
#include "bench/reading/errors.h"
#include "demo/drawn_table.h"
#include "drawing/table_finding.h"
#include "reading/ink_reading.h"

namespace fernleaf {
namespace {

bool same_grid(const ReadTable& a, const ReadTable& b) {
    return a.rows == b.rows && a.columns == b.columns &&
           std::ranges::equal(a.cells, b.cells, [](const ReadCell& x, const ReadCell& y) {
               return x.row == y.row && x.column == y.column && x.row_count == y.row_count &&
                      x.column_count == y.column_count;
           });
}

void ruled_table(const DrawingsBench& bench, const Reader& reader, TableRules ruled, const char* name) {
    size_t right = 0, found_any = 0, strokes = 0, placed = 0;
    Errors cells;
    double seconds = 0;
    for (size_t i = 0; i < bench.count; ++i) {
        std::mt19937 random(bench.seed * 100000 + 90000 + static_cast<unsigned>(i));
        const DrawnTable meant =
            draw_table(bench.hands[i % bench.hands.size()], bench.texts, {bench.careless, {}}, random, ruled);
        const auto begin = std::chrono::steady_clock::now();
        const std::vector<FoundTable> found = tables_in(meant.strokes);
        seconds += std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
        found_any += !found.empty();
        const bool whole = found.size() == 1 && same_grid(found[0].table, meant.table);
        right += whole;
        if (bench.tell_wrong && !whole)
            std::printf("table %zu (hand %zu): %d x %d, %zu cells, read as %zu tables%s\n", i, i % bench.hands.size(),
                        meant.table.rows, meant.table.columns, meant.table.cells.size(), found.size(),
                        found.empty() ? ""
                                      : (": " + std::to_string(found[0].table.rows) + " x " +
                                         std::to_string(found[0].table.columns) + ", " +
                                         std::to_string(found[0].table.cells.size()) + " cells")
                                            .c_str());
        const auto text_of = [&](const std::vector<Stroke>& ink) {
            std::string text;
            for (const ReadLine& line : read_ink(ink, reader, {}, {})) text += (text.empty() ? "" : " ") + line.text();
            return text;
        };
        const auto is_rule = [&](const Stroke& s) {
            return std::ranges::any_of(found, [&](const FoundTable& t) {
                return std::ranges::find(t.table.rules, s.id) != t.table.rules.end();
            });
        };
        for (size_t c = 0; c < meant.table.cells.size(); ++c) {
            std::vector<Stroke> own, told;
            for (const Stroke& s : meant.strokes)
                if (meant.table.cells[c].box.contains(s.box().centre()) && !is_rule(s)) own.push_back(s);
            if (whole)
                for (const size_t s : found[0].ink[c]) told.push_back(meant.strokes[s]);
            strokes += own.size();
            placed += static_cast<size_t>(std::ranges::count_if(
                told, [&](const Stroke& s) { return meant.table.cells[c].box.contains(s.box().centre()); }));
            if (whole) cells.add(meant.texts[c], text_of(told));
        }
    }
    const auto share = [](size_t part, size_t all) {
        return 100.0 * static_cast<double>(part) / static_cast<double>(std::max<size_t>(1, all));
    };
    std::printf(
        "%s: %zu of %zu found, %.1f %% right in every cell; strokes in the right cell %.1f %%; cells' text CER "
        "%.1f %%, "
        "WER %.1f %%; found in %.1f ms\n",
        name, found_any, bench.count, share(right, bench.count), share(placed, strokes), cells.cer(), cells.wer(),
        1000 * seconds / static_cast<double>(std::max<size_t>(1, bench.count)));
}

}  // namespace

void grids_table(const DrawingsBench& bench, const Reader& reader) {
    ruled_table(bench, reader, TableRules::both, "tables");
    ruled_table(bench, reader, TableRules::level, "tables of level rules");
    ruled_table(bench, reader, TableRules::upright, "tables of upright rules");
}

}  // namespace fernleaf
