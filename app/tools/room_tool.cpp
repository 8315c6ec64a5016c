#include "tools/room_tool.h"

#include <algorithm>
#include <cmath>

#include "look/theme.h"

namespace fernleaf {
namespace {

constexpr double kAxisPx = 5;     // a push is down or right once it has gone this far
constexpr double kLeastMm = 0.2;  // less is no push
constexpr double kMarkPx = 24;    // half the height of what marks a push to the right

}  // namespace

void RoomTool::begin(const PenSample& sample) {
    from_ = to_ = sample.at;
    space_ = space_at(page(), session().reading(), surface_.page_point(sample.at), Push::down);
    surface_.refresh_all();
}

void RoomTool::go_on(const PenSample& sample) {
    const QPointF by = sample.at - from_;
    const auto far = [](QPointF d) { return std::max(std::abs(d.x()), std::abs(d.y())) > kAxisPx; };
    const Point at = surface_.page_point(from_);
    if (!far(to_ - from_) && far(by)) {
        const Push push = std::abs(by.x()) > std::abs(by.y()) ? Push::right : Push::down;
        space_ = space_at(page(), session().reading(), at, push);
        surface_.show_cursor(push == Push::right ? Qt::SizeHorCursor : Qt::SizeVerCursor);
        // What moves is shown moving.
        if (!space_->moving.empty()) {
            moving_.choose(space_->moving);
            moving_.begin(Grip::inside, at, view(), surface_.device_ratio(), tiles().scene().decoded(),
                          tiles().scene().scheme);
            tiles().apply({"", {}, space_->moving});
        }
    }
    to_ = sample.at;
    if (moving_.changing()) {
        const Point to = surface_.page_point(sample.at);
        const bool right = space_->push == Push::right;
        const double away = std::max(right ? to.x - at.x : to.y - at.y, -space_->closes_mm);
        moving_.drag_to({at.x + (right ? away : 0), at.y + (right ? 0 : away)}, false);
    }
    surface_.refresh_all();
}

void RoomTool::end() {
    const InsertedSpace space = *std::exchange(space_, std::nullopt);
    const bool moved = moving_.changing();
    const double by = space.push == Push::right ? moving_.change().dx : moving_.change().dy;
    moving_.clear();
    surface_.show_cursor(cursor());
    surface_.refresh_all();
    if (!moved) return;
    tiles().apply({"", space.moving});
    if (std::abs(by) < kLeastMm) return;
    session().editing().change(
        make_space_edit(page(), session().reading(), space, by, [this] { return session().editing().new_id(); }));
}

void RoomTool::cancel() {
    space_.reset();
    moving_.clear();
}

void RoomTool::paint(QPainter& painter) const {
    if (!space_) return;
    moving_.paint(painter, view());
    const Theme& t = theme();
    const QRectF sheet(view().origin(), QSizeF(page().info.width_mm, page().info.height_mm) * view().scale());
    painter.save();
    QColor wash = t.act;
    wash.setAlpha(24);
    const bool right = space_->push == Push::right;
    const QRectF opening =
        right ? QRectF(std::min(from_.x(), to_.x()), from_.y() - kMarkPx, std::abs(to_.x() - from_.x()), 2 * kMarkPx)
              : QRectF(sheet.left(), std::min(from_.y(), to_.y()), sheet.width(), std::abs(to_.y() - from_.y()));
    painter.fillRect(opening.intersected(sheet), wash);
    painter.setPen(QPen(t.act, 1.6, Qt::DashLine));
    for (const QPointF at : {from_, to_}) {
        if (right)
            painter.drawLine(QPointF(at.x(), from_.y() - kMarkPx), QPointF(at.x(), from_.y() + kMarkPx));
        else
            painter.drawLine(QPointF(sheet.left(), at.y()), QPointF(sheet.right(), at.y()));
    }
    painter.restore();
}

}  // namespace fernleaf
