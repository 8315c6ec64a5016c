#include "tools/chosen_table.h"

#include <QClipboard>
#include <QGuiApplication>
#include <algorithm>

#include "exchange/table_file.h"
#include "render/text_look.h"
#include "tools/pasted_table.h"

namespace fernleaf {
namespace {

void set(TextBlock& block) { lay_out(block); }

// The first of a cell's rows or columns, how many it takes, and how many the table has.
struct Span {
    int first = 0, count = 1, all = 1;
};

Span span_of(const FairTable& table, const TableCell& cell, Lines which) {
    return which == Lines::rows ? Span{cell.row, cell.rows, static_cast<int>(table.rows_mm.size())}
                                : Span{cell.column, cell.columns, static_cast<int>(table.columns_mm.size())};
}

TableCell moved(TableCell cell, Lines which, int by) {
    (which == Lines::rows ? cell.row : cell.column) += by;
    return cell;
}

}  // namespace

bool ChosenTable::choose_at(Point at) {
    const Page* page = surface_.session().page();
    if (!page) return false;
    const auto found =
        std::ranges::find_if(page->tables, [&](const FairTable& t) { return cell_at(t, at).has_value(); });
    if (found == page->tables.end()) return false;
    const TableCell cell = *cell_at(*found, at);
    if (table() && table()->id == found->id && choosing_.selection().cell() == cell) return false;
    choose(found->id, cell);
    return true;
}

void ChosenTable::tell_too_large() {
    surface_.session().messages().tell_problem(
        tr("A table can have up to %1 rows and %2 columns.").arg(kMostTableRows).arg(kMostTableColumns));
}

void ChosenTable::choose(FairTableId id, TableCell cell) {
    const Page& page = *surface_.session().page();
    const auto found = std::ranges::find(page.tables, id, &FairTable::id);
    if (found == page.tables.end()) return choosing_.clear();
    std::vector<ElementId> ids = ids_within(page, *found);
    ids.push_back(id);
    choosing_.select(ids, 1);
    const int last_row = static_cast<int>(found->rows_mm.size()) - 1;
    const int last_column = static_cast<int>(found->columns_mm.size()) - 1;
    choosing_.frame().set_cell(
        cell_of(*found, std::clamp(cell.row, 0, last_row), std::clamp(cell.column, 0, last_column)));
    surface_.refresh_all();
}

void ChosenTable::step(int by) {
    if (!table()) return;
    const std::vector<TableCell> cells = cells_of(*table());
    const auto now = std::ranges::find(cells, cell());
    const auto count = static_cast<int>(cells.size());
    const int at = choosing_.selection().cell() ? static_cast<int>(now - cells.begin()) + by : 0;
    choosing_.frame().set_cell(cells[static_cast<size_t>((at + count) % count)]);
    surface_.refresh_all();
}

void ChosenTable::edit(const char* label, TableCell cell,
                       const std::function<FairTableId(EditBuilder&, const FairTable&)>& make) {
    PageEditing& editing = surface_.session().editing();
    if (!table() || choosing_.selection().locked() || !editing.may_change_page()) return;
    Edit edit{label};
    EditBuilder builder(edit, *surface_.session().page(), [&] { return editing.new_id(); });
    const FairTable before = *table();
    const FairTableId id = make(builder, before);
    if (edit.added.empty() && edit.removed.empty()) return choose(id, cell);
    editing.change(std::move(edit));
    choose(id, cell);
}

void ChosenTable::insert(Lines which, bool after) {
    if (!table()) return;
    const Span span = span_of(*table(), cell(), which);
    const size_t most = which == Lines::rows ? kMostTableRows : kMostTableColumns;
    if (static_cast<size_t>(span.all) >= most) return tell_too_large();
    const int before = after ? span.first + span.count : span.first;
    TableCell next = cell();
    (which == Lines::rows ? next.row : next.column) = before;
    edit(which == Lines::rows ? "Add a row" : "Add a column", next,
         [&](EditBuilder& builder, const FairTable& t) { return insert_line(builder, t, which, before, set); });
}

bool ChosenTable::may_remove(Lines which) const {
    const Span span = table() ? span_of(*table(), cell(), which) : Span{};
    return span.count < span.all;
}

void ChosenTable::remove(Lines which) {
    if (!may_remove(which)) return;
    const Span span = span_of(*table(), cell(), which);
    edit(which == Lines::rows ? "Delete a row" : "Delete a column", cell(),
         [&](EditBuilder& builder, const FairTable& t) {
             return remove_lines(builder, t, which, span.first, span.count, set);
         });
}

bool ChosenTable::may_move(Lines which, int by) const {
    if (!table()) return false;
    const Span span = span_of(*table(), cell(), which);
    return span.count == 1 && span.first + by >= 0 && span.first + by < span.all;
}

void ChosenTable::move(Lines which, int by) {
    if (!may_move(which, by)) return;
    const int from = span_of(*table(), cell(), which).first;
    edit(which == Lines::rows ? "Move a row" : "Move a column", moved(cell(), which, by),
         [&](EditBuilder& builder, const FairTable& t) { return move_line(builder, t, which, from, from + by, set); });
}

void ChosenTable::resize(Lines which, int number, double mm) {
    edit(which == Lines::rows ? "Change a row's height" : "Change a column's width", cell(),
         [&](EditBuilder& builder, const FairTable& t) { return resize_line(builder, t, which, number, mm, set); });
}

void ChosenTable::make_even(Lines which) {
    edit(which == Lines::rows ? "Make rows even" : "Make columns even", cell(),
         [&](EditBuilder& builder, const FairTable& t) { return make_lines_even(builder, t, which, set); });
}

void ChosenTable::sort(bool descending) {
    if (!table()) return;
    // What its cells say: typed, or as their ink was read.
    const Reading& reading = surface_.session().reading();
    std::vector<std::string> texts;
    for (size_t i = 0; i < reading.lines.size(); ++i)
        if (const auto& read = reading.lines[i].table; read && read->rules == std::vector{table()->id})
            texts = table_at(reading, i).texts;
    const std::vector<TableCell> cells = cells_of(*table());
    if (texts.size() != cells.size())
        return surface_.session().messages().tell_problem(
            tr("The table has not been read yet. Try again in a moment."));
    const int column = cell().column;
    edit("Sort", cell(), [&](EditBuilder& builder, const FairTable& t) {
        const auto says = [&](const TableCell& c) {
            return texts[static_cast<size_t>(std::ranges::find(cells, c) - cells.begin())];
        };
        return sort_rows(builder, t, column, descending, says, set);
    });
}

void ChosenTable::align(Align align) {
    edit("Align a column", cell(), [&](EditBuilder& builder, const FairTable& t) {
        align_column(builder, t, cell().column, align, set);
        return t.id;
    });
}

void ChosenTable::change(const std::function<void(FairTable&)>& change) {
    edit("Change the table", cell(), [&](EditBuilder& builder, const FairTable& t) {
        FairTable after = t;
        change(after);
        return builder.replace(t, after);
    });
}

void ChosenTable::paste(const TableRows& rows) {
    if (!table() || rows.empty()) return;
    const TableCell first = cell();
    const size_t high = static_cast<size_t>(first.row) + rows.size();
    const size_t wide = static_cast<size_t>(first.column) + rows.front().size();
    if (high > kMostTableRows || wide > kMostTableColumns) return tell_too_large();
    edit("Paste", first, [&](EditBuilder& builder, const FairTable& t) {
        FairTableId id = t.id;
        const auto now = [&]() -> const FairTable& {
            return *std::ranges::find(builder.now().tables, id, &FairTable::id);
        };
        while (now().rows_mm.size() < high)
            id = insert_line(builder, now(), Lines::rows, static_cast<int>(now().rows_mm.size()), set);
        while (now().columns_mm.size() < wide)
            id = insert_line(builder, now(), Lines::columns, static_cast<int>(now().columns_mm.size()), set);
        for (size_t r = 0; r < rows.size(); ++r)
            for (size_t c = 0; c < rows[r].size(); ++c) {
                const TableCell to =
                    cell_of(now(), first.row + static_cast<int>(r), first.column + static_cast<int>(c));
                TextStyle style;
                for (const TextBlock& text : std::vector<TextBlock>(builder.now().texts)) {
                    if (text.words.empty() || cell_at(now(), text.words.front().box.centre()) != to) continue;
                    if (!text.paragraphs.empty() && !text.paragraphs[0].runs.empty())
                        style = text.paragraphs[0].runs[0].style;
                    builder.remove(text);
                }
                if (rows[r][c].empty()) continue;
                const Box place = box_of(now(), to);
                const Point corner = to_page(now(), {place.left + kCellMarginMm, place.top + kCellMarginMm});
                TextBlock text;
                text.at = corner;
                text.angle = now().angle;
                text.width_mm = std::max(1.0, place.width() - 2 * kCellMarginMm);
                for (const QString& line : QString::fromStdString(rows[r][c]).split('\n'))
                    text.paragraphs.push_back({{{line.toStdString(), style}}});
                lay_out(text);
                builder.add(std::move(text));
            }
        return fit_cells(builder, now(), set);
    });
}

bool ChosenTable::key(QKeyEvent* event) {
    if (table() && event->matches(QKeySequence::Paste)) {
        const QMimeData* copied = QGuiApplication::clipboard()->mimeData();
        const auto rows =
            copied && copied->formats().filter("fernleaf").isEmpty() ? rows_copied(*copied) : std::nullopt;
        if (rows) paste(*rows);
        return rows.has_value();
    }
    if (!table() || (event->key() != Qt::Key_Return && event->key() != Qt::Key_Enter)) return false;
    emit typing_wanted(to_page(*table(), box_of(*table(), cell_of(*table(), cell().row, cell().column)).centre()));
    return true;
}

}  // namespace fernleaf
