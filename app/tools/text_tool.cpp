#include "tools/text_tool.h"

#include <algorithm>

#include "drawing/words_within.h"
#include "render/text_look.h"

namespace fernleaf {
namespace {

constexpr double kTextMarginMm = 8;
constexpr double kLeastTextMm = 40;
constexpr double kTypeInCell = 0.55;  // of its height, at most
constexpr double kLeastRoomMm = 8;    // that a figure has for words

const FairTable* table_at(const Page& page, Point at) {
    const auto found =
        std::ranges::find_if(page.tables, [&](const FairTable& t) { return cell_at(t, at).has_value(); });
    return found == page.tables.end() ? nullptr : &*found;
}

}  // namespace

TextTool::TextTool(ToolSurface& surface, TextEditor& editor) : LeafTool(surface), editor_(editor) {
    connect(&editor_, &TextEditor::paused, this, &TextTool::keep);
    connect(&editor_, &TextEditor::closed, this, &TextTool::keep);
    connect(&editor_, &TextEditor::stepped, this, &TextTool::step);
}

void TextTool::page_edited(const Edit& edit) {
    if (editor_.is_open() && !keeping_ && edited_kept_ &&
        std::ranges::find(edit.removed.texts, edited_.id, &TextBlock::id) != edit.removed.texts.end())
        editor_.drop();
}

void TextTool::type_at(QPointF px) {
    if (!session().editing().may_change_page()) return;
    const Point at = surface_.page_point(px);
    const TextBlock* found = nullptr;
    const FairTable* table = table_at(page(), at);
    for (const TextBlock& t : page().texts)
        if (covers(t, at) || (table && cell_at(*table, t.box().centre()) == cell_at(*table, at))) found = &t;
    editor_.set_in_cell(table != nullptr);
    edited_kept_ = found != nullptr;
    if (found) {
        edited_ = *found;
        tiles().apply({"", {}, {{}, {}, {edited_}}});  // the editor shows it meanwhile
        surface_.refresh(surface_.leaf_rect(drawn_box(edited_), 3));
    } else {
        edited_ = block_for(at);
    }
    editor_.open(edited_, tiles().scene().scheme);
    if (found) editor_.put_cursor(px);
}

TextBlock TextTool::block_for(Point at) const {
    TextBlock out;
    TextStyle style;
    if (const FairTable* table = table_at(page(), at)) {
        const Box cell = box_of(*table, *cell_at(*table, at));
        Align align = Align::left;
        style.size_mm = std::min(style.size_mm, kTypeInCell * cell.height());
        // As the table's other words are, best those of its column.
        bool column = false;
        for (const TextBlock& other : page().texts) {
            const auto place = cell_at(*table, other.box().centre());
            if (!place || other.paragraphs.empty() || other.paragraphs[0].runs.empty() ||
                (table->head && place->row == 0))
                continue;
            const bool same = place->column == cell_at(*table, at)->column;
            if (column && !same) continue;
            column = same;
            style = other.paragraphs[0].runs[0].style;
            align = other.paragraphs[0].align;
        }
        style.unsure = false;
        out.width_mm = std::max(1.0, cell.width() - 2 * kCellMarginMm);
        out.angle = table->angle;
        out.paragraphs = {{{{"", style}}, align}};
        lay_out(out);
        const Point half{out.width_mm / 2, out.height_mm / 2};
        out.at = to_page(*table, {cell.centre().x, cell.centre().y}) - half;
        lay_out(out);
        return out;
    }
    const FairShape* figure = figure_about(page(), at);
    if (const Box room = figure ? room_in(figure->shape) : Box{}; room.width() >= kLeastRoomMm) {
        out.paragraphs = {{{{"", style}}, Align::centre}};
        out.width_mm = room.width();
        lay_out(out);
        // Below what is written in it already, where it was clicked.
        const bool empty = ids_of(within(page(), outline_of(figure->shape).front())).size() <= 1;
        out.at = {room.left, empty ? room.centre().y - out.height_mm / 2 : at.y - style.size_mm * 0.7};
        lay_out(out);
        return out;
    }
    out.at = {std::clamp(at.x, 0.0, std::max(0.0, page().info.width_mm - kLeastTextMm)), at.y - style.size_mm * 0.7};
    out.width_mm = std::max(kLeastTextMm, page().info.width_mm - kTextMarginMm - out.at.x);
    out.paragraphs = {{{{"", style}}}};
    lay_out(out);
    return out;
}

void TextTool::step(int by) {
    const Point middle = editor_.block().box().centre();
    editor_.close_text();
    const FairTable* table = table_at(page(), middle);
    if (!table) return;
    std::vector<TableCell> cells = cells_of(*table);
    auto next = std::ranges::find(cells, *cell_at(*table, middle)) - cells.begin() + by;
    if (next < 0) return;
    if (next == std::ssize(cells)) {
        const auto last = static_cast<int>(table->rows_mm.size());
        if (table->rows_mm.size() >= kMostTableRows) return;
        Edit edit{"Add a row"};
        EditBuilder builder(edit, page(), [this] { return session().editing().new_id(); });
        const FairTableId id = insert_line(builder, *table, Lines::rows, last, [](TextBlock& b) { lay_out(b); });
        session().editing().change(std::move(edit));
        const auto grown = std::ranges::find(page().tables, id, &FairTable::id);
        if (grown == page().tables.end()) return;
        table = &*grown;
        cells = cells_of(*table);
    }
    const Point in_page = to_page(*table, box_of(*table, cells[static_cast<size_t>(next)]).centre());
    type_at(view().to_leaf({in_page.x, in_page.y}));
}

// What was typed becomes one step; while the editor is open its block is not drawn by the page as well.
void TextTool::keep() {
    if (!session().page()) return;
    TextBlock now = editor_.block();
    const bool open = editor_.is_open();
    const bool empty = !has_text(now);
    TextBlock before = edited_;
    if (edited_kept_) lay_out(before);
    const bool same = now == before;
    if (!same || (!edited_kept_ && !empty)) {
        Edit edit{"Type"};
        if (edited_kept_) edit.removed.texts = {edited_};
        if (!empty) {
            if (edited_kept_) now.z = z_of(edited_);
            now.id = session().editing().new_id();
            edit.added.texts = {now};
        }
        if (edit.added.empty() && edit.removed.empty()) return;
        keeping_ = true;
        session().editing().change(std::move(edit));
        keeping_ = false;
        edited_kept_ = !empty;
        edited_ = now;
        // A cell or a figure may have wrapped it.
        const auto kept = std::ranges::find(page().texts, now.id, &TextBlock::id);
        if (kept != page().texts.end()) edited_ = *kept;
        if (open && edited_kept_) {
            tiles().apply({"", {}, {{}, {}, {edited_}}});
            editor_.kept_as(edited_);
        }
    } else if (!open && edited_kept_) {
        tiles().apply({"", {{}, {}, {edited_}}});
    }
    surface_.refresh_all();
}

}  // namespace fernleaf
