// The ink leaf's text tool, and making room.
#include <QPainter>

#include "document/elements.h"
#include "leaves/ink_leaf.h"
#include "look/theme.h"
#include "render/text_look.h"

namespace fernleaf {
namespace {

constexpr double kTextMarginMm = 8;
constexpr double kLeastTextMm = 40;
constexpr double kAxisPx = 5;  // a push is down or right once it has gone this far

}  // namespace

// On a block: goes on writing it; elsewhere: begins one there, as wide as the page allows.
void InkLeaf::write_text(QPointF px) {
    if (!session_.editing().may_change()) return;
    const QPointF mm = view_.to_page(px);
    const Point at{mm.x(), mm.y()};
    const Page& page = *session_.page();
    const TextBlock* found = nullptr;
    for (const TextBlock& t : page.texts)
        if (covers(t, at)) found = &t;
    edited_kept_ = found != nullptr;
    if (found) {
        edited_ = *found;
        tiles_.apply({"", {}, {{}, {}, {edited_}}});  // the editor shows it meanwhile
        update(leaf_rect(drawn_box(edited_), 3).toAlignedRect());
    } else {
        edited_ = {};
        TextStyle style;
        edited_.at = {std::clamp(at.x, 0.0, std::max(0.0, page.info.width_mm - kLeastTextMm)),
                      at.y - style.size_mm * 0.7};
        edited_.width_mm = std::max(kLeastTextMm, page.info.width_mm - kTextMarginMm - edited_.at.x);
        edited_.paragraphs = {{{{"", style}}}};
        lay_out(edited_);
    }
    editor_->open(edited_, tiles_.scene().scheme);
    if (found) editor_->put_cursor(px);
}

// What was typed becomes one step; while the editor is open its block is not drawn by the page as well.
void InkLeaf::keep_text() {
    if (!session_.page()) return;
    TextBlock now = editor_->block();
    const bool open = editor_->is_open();
    const bool empty = !has_text(now);
    TextBlock before = edited_;
    if (edited_kept_) lay_out(before);
    const bool same = now == before;
    if (!same || (!edited_kept_ && !empty)) {
        Edit edit{"Type"};
        if (edited_kept_) edit.removed.texts = {edited_};
        if (!empty) {
            if (edited_kept_) now.z = z_of(edited_);
            now.id = session_.editing().new_id();
            edit.added.texts = {now};
        }
        if (edit.added.empty() && edit.removed.empty()) return;
        keeping_ = true;
        session_.editing().change(std::move(edit));
        keeping_ = false;
        edited_kept_ = !empty;
        edited_ = now;
        if (open && edited_kept_) {
            tiles_.apply({"", {}, {{}, {}, {edited_}}});
            editor_->renamed(edited_.id, edited_.z);
        }
    } else if (!open && edited_kept_) {
        tiles_.apply({"", {{}, {}, {edited_}}});
    }
    update();
}

void InkLeaf::begin_room(QPointF px) {
    room_from_ = room_to_ = px;
    const QPointF mm = view_.to_page(px);
    room_ = space_at(*session_.page(), session_.reading(), {mm.x(), mm.y()}, Push::down);
    update();
}

void InkLeaf::room_to(QPointF px) {
    const QPointF by = px - room_from_;
    const bool decided =
        std::max(std::abs((room_to_ - room_from_).x()), std::abs((room_to_ - room_from_).y())) > kAxisPx;
    if (!decided && std::max(std::abs(by.x()), std::abs(by.y())) > kAxisPx) {
        const Push push = std::abs(by.x()) > std::abs(by.y()) ? Push::right : Push::down;
        const QPointF mm = view_.to_page(room_from_);
        room_ = space_at(*session_.page(), session_.reading(), {mm.x(), mm.y()}, push);
        setCursor(push == Push::right ? Qt::SizeHorCursor : Qt::SizeVerCursor);
        // What moves is shown moving.
        if (!room_->moving.empty()) {
            selection_.choose(room_->moving);
            selection_.begin(Grip::inside, {mm.x(), mm.y()}, view_, devicePixelRatioF(), tiles_.scene().decoded(),
                             tiles_.scene().scheme);
            tiles_.apply({"", {}, room_->moving});
        }
    }
    room_to_ = px;
    if (selection_.changing()) {
        const QPointF from = view_.to_page(room_from_), to = view_.to_page(px);
        const bool right = room_->push == Push::right;
        const double away = std::max(right ? to.x() - from.x() : to.y() - from.y(), -room_->closes_mm);
        selection_.drag_to({from.x() + (right ? away : 0), from.y() + (right ? 0 : away)}, false);
    }
    update();
}

void InkLeaf::end_room() {
    const InsertedSpace room = *std::exchange(room_, std::nullopt);
    const bool moved = selection_.changing();
    const double by = room.push == Push::right ? selection_.change().dx : selection_.change().dy;
    selection_.clear();
    update_cursor();
    update();
    if (!moved) return;
    tiles_.apply({"", room.moving});
    if (std::abs(by) < 0.2) return;
    session_.editing().change(make_space_edit(*session_.page(), session_.reading(), room, by,
                                              [this] { return session_.editing().new_id(); }));
}

void InkLeaf::paint_room(QPainter& painter) const {
    const Theme& t = theme();
    const QRectF sheet(view_.origin(),
                       QSizeF(session_.page()->info.width_mm, session_.page()->info.height_mm) * view_.scale());
    painter.save();
    QColor wash = t.act;
    wash.setAlpha(24);
    const bool right = room_->push == Push::right;
    const QRectF opening = right ? QRectF(std::min(room_from_.x(), room_to_.x()), room_from_.y() - 24,
                                          std::abs(room_to_.x() - room_from_.x()), 48)
                                 : QRectF(sheet.left(), std::min(room_from_.y(), room_to_.y()), sheet.width(),
                                          std::abs(room_to_.y() - room_from_.y()));
    painter.fillRect(opening.intersected(sheet), wash);
    painter.setPen(QPen(t.act, 1.6, Qt::DashLine));
    for (const QPointF at : {room_from_, room_to_}) {
        if (right)
            painter.drawLine(QPointF(at.x(), room_from_.y() - 24), QPointF(at.x(), room_from_.y() + 24));
        else
            painter.drawLine(QPointF(sheet.left(), at.y()), QPointF(sheet.right(), at.y()));
    }
    painter.restore();
}

}  // namespace fernleaf
