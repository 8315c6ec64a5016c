#include "tools/crop_frame.h"

#include <QPainterPath>
#include <array>
#include <numbers>

#include "look/theme.h"
#include "look/veil.h"

namespace fernleaf {
namespace {

constexpr std::array kSides = {Grip::top_left, Grip::top_right, Grip::bottom_left, Grip::bottom_right,
                               Grip::left,     Grip::right,     Grip::top,         Grip::bottom};

}  // namespace

Point CropFrame::local(Point at) const { return turned(at, -before_.angle, before_.box.centre()); }

Grip CropFrame::grip_at(QPointF px, const PageViewport& view) const {
    if (!open()) return Grip::none;
    constexpr double kReach = kGripPx + 6;
    for (const Grip grip : kSides) {
        const QPointF side = place_on(grip, rect_of(picture_->box));
        const Point at = turned(Point{side.x(), side.y()}, picture_->angle, picture_->box.centre());
        const QPointF d = view.to_leaf({at.x, at.y}) - px;
        if (QPointF::dotProduct(d, d) <= kReach * kReach) return grip;
    }
    const QPointF mm = view.to_page(px);
    return covers(*picture_, {mm.x(), mm.y()}) ? Grip::inside : Grip::none;
}

void CropFrame::begin(Grip grip, Point at) {
    before_ = *picture_;
    grip_ = grip;
    from_ = local(at);
}

void CropFrame::drag_to(Point at) {
    const Point by = local(at) - from_;
    picture_ = before_;
    pull(grip_, by);
}

void CropFrame::nudge(Grip side, double mm) {
    pull(side, {on_left(side) ? -mm : on_right(side) ? mm : 0, on_top(side) ? -mm : on_bottom(side) ? mm : 0});
}

void CropFrame::pull(Grip grip, Point by) {
    const Box whole = whole_box(*picture_);
    const double x = by.x / whole.width(), y = by.y / whole.height();
    Box part = picture_->crop;
    if (grip == Grip::inside) {
        // What is shown is chosen elsewhere in the picture, as large as it was.
        part = shifted(part, {std::clamp(x, -part.left, 1 - part.right), std::clamp(y, -part.top, 1 - part.bottom)});
    }
    // A side does not pass the one opposite.
    if (on_left(grip)) part.left = std::min(part.left + x, part.right - 0.01);
    if (on_right(grip)) part.right = std::max(part.right + x, part.left + 0.01);
    if (on_top(grip)) part.top = std::min(part.top + y, part.bottom - 0.01);
    if (on_bottom(grip)) part.bottom = std::max(part.bottom + y, part.top + 0.01);
    picture_ = cropped(*picture_, part);
}

void CropFrame::paint(QPainter& painter, const PageViewport& view, const PictureImages& images) const {
    if (!open()) return;
    const Theme& t = theme();
    const Picture& p = *picture_;
    const Point c = p.box.centre();
    painter.save();
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    painter.translate(view.origin());
    painter.scale(view.scale(), view.scale());
    painter.translate(c.x, c.y);
    painter.rotate(p.angle);
    painter.translate(-c.x, -c.y);
    const QRectF whole = rect_of(whole_box(p)), shown = rect_of(p.box);
    if (const auto image = images.find(p.id); image != images.end()) painter.drawImage(whole, image->second);
    paint_veil(painter, whole, shown, 190);
    QPen line(t.act, 1.6);
    line.setCosmetic(true);
    painter.setPen(line);
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(shown);
    // Angles at the corners and bars at the sides, drawn inwards.
    QPen bold(t.act, 5, Qt::SolidLine, Qt::FlatCap, Qt::MiterJoin);
    bold.setCosmetic(true);
    painter.setPen(bold);
    const double arm = std::min({14 / view.scale(), p.box.width() / 4, p.box.height() / 4});
    for (const Grip grip : kSides) {
        const QPointF at = place_on(grip, shown);
        const double x = on_left(grip) ? arm : on_right(grip) ? -arm : 0;
        const double y = on_top(grip) ? arm : on_bottom(grip) ? -arm : 0;
        if (x != 0 && y != 0) {
            painter.drawPolyline(QPolygonF({at + QPointF(x, 0), at, at + QPointF(0, y)}));
        } else {
            const QPointF along(x == 0 ? arm : 0, y == 0 ? arm : 0);
            painter.drawLine(at - along, at + along);
        }
    }
    painter.restore();
}

}  // namespace fernleaf
