#include "demo/drawn_table.h"

#include <algorithm>

#include "demo/chance.h"

namespace fernleaf {
namespace {

constexpr double kMarginMm = 2.2;  // between words and rules, at least

enum class Frame { one_stroke, four_strokes, none };

std::string some_number(Chance& chance) {
    const size_t value = chance.below(chance.one_in(2) ? 100 : 1000);
    if (chance.one_in(3)) return std::to_string(value / 10) + "." + std::to_string(value % 10);
    return std::to_string(value);
}

}  // namespace

DrawnTable draw_table(const Hand& hand, const std::vector<std::string>& texts, const DrawingManner& manner,
                      std::mt19937& random, TableRules ruled) {
    Chance chance(random);
    DrawnTable out;
    WritingStyle style;
    style.x_height_mm = chance.between(2, 2.8);
    style.pen = manner.pen;
    const bool grid = ruled == TableRules::both;
    const size_t rows = (grid ? 2 : 3) + chance.below(grid ? 6 : 5), columns = 2 + chance.below(4);
    const auto frame = static_cast<Frame>(chance.below(3));
    const bool no_corner = grid && frame == Frame::four_strokes && chance.one_in(4);
    out.table.rows = static_cast<int>(rows), out.table.columns = static_cast<int>(columns);

    // What is written, and how large it is.
    struct Written {
        std::string text;
        std::vector<Stroke> ink;
        Box box;
    };
    std::vector<Written> written(rows * columns);
    std::vector<double> widths(columns, 12);
    for (size_t r = 0; r < rows; ++r)
        for (size_t c = 0; c < columns; ++c) {
            Written& cell = written[r * columns + c];
            if (r == 0 && c == 0 ? no_corner || chance.one_in(3) : chance.one_in(12)) continue;
            cell.text = r == 0 || c == 0 ? some_text(hand, texts, random) : some_number(chance);
            if (!hand.can_write(cell.text)) cell.text.clear();
            if (cell.text.empty()) continue;
            cell.ink = hand.write(cell.text, {0, 0}, style, random);
            for (const Stroke& s : cell.ink) cell.box.include(s.box());
            widths[c] = std::max(widths[c], cell.box.width() + 2 * kMarginMm + chance.between(0, 6));
        }
    const double high = style.x_height_mm * chance.between(3.6, 5) + 2;
    std::vector<double> xs{chance.between(14, 24)}, ys{chance.between(20, 40)};
    for (const double w : widths)
        xs.push_back(xs.back() + w + (ruled == TableRules::level ? chance.between(5, 12) : 0));
    for (size_t r = 0; r < rows; ++r) ys.push_back(ys.back() + high * chance.between(0.95, 1.1));

    // Cells, some of them merged: the first row's, or one of a column.
    std::vector<bool> gone(rows * columns);
    const auto merged_at = [&]() -> std::pair<size_t, size_t> {
        if (!grid || !chance.one_in(4) || columns < 3 || rows < 3) return {rows, columns};
        return chance.one_in(2) ? std::pair<size_t, size_t>{0, 1 + chance.below(columns - 2)}
                                : std::pair<size_t, size_t>{1 + chance.below(rows - 2), 0};
    }();
    for (size_t r = 0; r < rows; ++r)
        for (size_t c = 0; c < columns; ++c) {
            if (gone[r * columns + c]) continue;
            ReadCell cell{static_cast<int>(r), static_cast<int>(c), 1, 1, {}};
            if (std::pair(r, c) == merged_at) {
                if (r == 0)
                    cell.column_count = 2, gone[c + 1] = true;
                else
                    cell.row_count = 2, gone[(r + 1) * columns + c] = true;
            }
            cell.box = {xs[c], ys[r], xs[c + static_cast<size_t>(cell.column_count)],
                        ys[r + static_cast<size_t>(cell.row_count)]};
            out.table.cells.push_back(cell);
            out.texts.push_back(written[r * columns + c].text);
        }

    std::vector<Stroke> rules;
    const auto rule = [&](Point from, Point to) {
        if (chance.one_in(2)) std::swap(from, to);
        std::ranges::move(drawn_by_hand({ShapeKind::line, {from, to}}, manner, random), std::back_inserter(rules));
    };
    const double left = xs.front(), right = xs.back(), top = ys.front(), bottom = ys.back();
    if (ruled == TableRules::level) {
        const bool between_all = chance.one_in(2), above = chance.one_in(2);
        if (above) rule({left, top}, {right, top});
        for (size_t r = 1; r < rows; ++r)
            if (between_all || r == 1) rule({left, ys[r]}, {right, ys[r]});
        if (!between_all || (above && chance.one_in(2))) rule({left, bottom}, {right, bottom});
    } else if (ruled == TableRules::upright) {
        const bool sides = columns == 2 || chance.one_in(4);
        for (size_t c = 0; c <= columns; ++c)
            if ((c > 0 && c < columns) || sides) rule({xs[c], top}, {xs[c], bottom});
    } else if (frame == Frame::one_stroke) {
        std::ranges::move(
            drawn_by_hand({ShapeKind::rectangle, {{left, top}, {right, top}, {right, bottom}, {left, bottom}}}, manner,
                          random),
            std::back_inserter(rules));
    } else if (frame == Frame::four_strokes) {
        rule({no_corner ? xs[1] : left, top}, {right, top});
        rule({left, bottom}, {right, bottom});
        rule({left, no_corner ? ys[1] : top}, {left, bottom});
        rule({right, top}, {right, bottom});
    }
    // A rule, but for where cells are merged.
    const auto [mr, mc] = merged_at;
    for (size_t r = 1; r < rows && grid; ++r) {
        const bool parted = mc == 0 && mr > 0 && r == mr + 1;
        rule({parted ? xs[1] : left, ys[r]}, {right, ys[r]});
    }
    for (size_t c = 1; c < columns && grid; ++c) {
        const bool parted = mr == 0 && c == mc + 1;
        rule({xs[c], parted ? ys[1] : top}, {xs[c], bottom});
    }

    std::vector<Stroke> ink;
    for (const ReadCell& cell : out.table.cells) {
        Written& words = written[static_cast<size_t>(cell.row) * columns + static_cast<size_t>(cell.column)];
        if (words.text.empty()) continue;
        const double room =
            ruled == TableRules::level ? 1.5 : std::max(0.0, cell.box.width() - words.box.width() - 2 * kMarginMm);
        const Point by =
            Point{cell.box.left + kMarginMm + chance.between(0, room), cell.box.centre().y + chance.normal(0.4)} -
            Point{words.box.left, words.box.centre().y};
        for (Stroke& s : words.ink)
            for (InkPoint& p : s.points.change()) p.at = p.at + by;
        std::ranges::move(words.ink, std::back_inserter(ink));
    }
    const bool rules_first = chance.one_in(2);
    std::vector<Stroke>& first = rules_first ? rules : ink;
    std::vector<Stroke>& second = rules_first ? ink : rules;
    std::ranges::move(first, std::back_inserter(out.strokes));
    std::ranges::move(second, std::back_inserter(out.strokes));
    StrokeId id = 0;
    for (Stroke& s : out.strokes) s.id = ++id;
    return out;
}

}  // namespace fernleaf
