#include "tools/text_tool.h"

#include <algorithm>

#include "render/text_look.h"

namespace fernleaf {
namespace {

constexpr double kTextMarginMm = 8;
constexpr double kLeastTextMm = 40;

}  // namespace

TextTool::TextTool(ToolSurface& surface, TextEditor& editor) : LeafTool(surface), editor_(editor) {
    connect(&editor_, &TextEditor::paused, this, &TextTool::keep);
    connect(&editor_, &TextEditor::closed, this, &TextTool::keep);
}

void TextTool::page_edited(const Edit& edit) {
    if (editor_.is_open() && !keeping_ && edited_kept_ &&
        std::ranges::find(edit.removed.texts, edited_.id, &TextBlock::id) != edit.removed.texts.end())
        editor_.drop();
}

void TextTool::type_at(QPointF px) {
    if (!session().editing().may_change()) return;
    const Point at = surface_.page_point(px);
    const TextBlock* found = nullptr;
    for (const TextBlock& t : page().texts)
        if (covers(t, at)) found = &t;
    edited_kept_ = found != nullptr;
    if (found) {
        edited_ = *found;
        tiles().apply({"", {}, {{}, {}, {edited_}}});  // the editor shows it meanwhile
        surface_.refresh(surface_.leaf_rect(drawn_box(edited_), 3));
    } else {
        edited_ = {};
        TextStyle style;
        edited_.at = {std::clamp(at.x, 0.0, std::max(0.0, page().info.width_mm - kLeastTextMm)),
                      at.y - style.size_mm * 0.7};
        edited_.width_mm = std::max(kLeastTextMm, page().info.width_mm - kTextMarginMm - edited_.at.x);
        edited_.paragraphs = {{{{"", style}}}};
        lay_out(edited_);
    }
    editor_.open(edited_, tiles().scene().scheme);
    if (found) editor_.put_cursor(px);
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
        if (open && edited_kept_) {
            tiles().apply({"", {}, {{}, {}, {edited_}}});
            editor_.renamed(edited_.id, edited_.z);
        }
    } else if (!open && edited_kept_) {
        tiles().apply({"", {{}, {}, {edited_}}});
    }
    surface_.refresh_all();
}

}  // namespace fernleaf
