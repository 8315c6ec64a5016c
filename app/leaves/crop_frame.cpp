#include "leaves/crop_frame.h"

#include <QPainterPath>
#include <array>
#include <numbers>

#include "look/theme.h"

namespace fernleaf {
namespace {

constexpr std::array kSides = {Grip::top_left, Grip::top_right, Grip::bottom_left, Grip::bottom_right,
                               Grip::left,     Grip::right,     Grip::top,         Grip::bottom};

bool is_left(Grip g) { return g == Grip::left || g == Grip::top_left || g == Grip::bottom_left; }
bool is_right(Grip g) { return g == Grip::right || g == Grip::top_right || g == Grip::bottom_right; }
bool is_top(Grip g) { return g == Grip::top || g == Grip::top_left || g == Grip::top_right; }
bool is_bottom(Grip g) { return g == Grip::bottom || g == Grip::bottom_left || g == Grip::bottom_right; }

Point place_of(Grip grip, const Box& box) {
    return {is_left(grip)    ? box.left
            : is_right(grip) ? box.right
                             : box.centre().x,
            is_top(grip)      ? box.top
            : is_bottom(grip) ? box.bottom
                              : box.centre().y};
}

Point turned(Point p, const Picture& picture, double way) {
    return Affine::turn(way * picture.angle * std::numbers::pi / 180, picture.box.centre())(p);
}

}  // namespace

Point CropFrame::local(Point at) const { return turned(at, before_, -1); }

Grip CropFrame::grip_at(QPointF px, const LeafView& view) const {
    if (!open()) return Grip::none;
    constexpr double kReach = Selection::kGripPx + 6;
    for (const Grip grip : kSides) {
        const Point at = turned(place_of(grip, picture_->box), *picture_, 1);
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
    pull(side, {is_left(side) ? -mm : is_right(side) ? mm : 0, is_top(side) ? -mm : is_bottom(side) ? mm : 0});
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
    if (is_left(grip)) part.left = std::min(part.left + x, part.right - 0.01);
    if (is_right(grip)) part.right = std::max(part.right + x, part.left + 0.01);
    if (is_top(grip)) part.top = std::min(part.top + y, part.bottom - 0.01);
    if (is_bottom(grip)) part.bottom = std::max(part.bottom + y, part.top + 0.01);
    picture_ = cropped(*picture_, part);
}

void CropFrame::paint(QPainter& painter, const LeafView& view, const PictureImages& images) const {
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
    QPainterPath veil;
    veil.addRect(whole);
    veil.addRect(shown);
    QColor wash = t.desk;
    wash.setAlpha(190);
    painter.fillPath(veil, wash);
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
        const Point at = place_of(grip, p.box);
        const double x = is_left(grip) ? arm : is_right(grip) ? -arm : 0;
        const double y = is_top(grip) ? arm : is_bottom(grip) ? -arm : 0;
        if (x != 0 && y != 0) {
            painter.drawPolyline(QPolygonF({{at.x + x, at.y}, {at.x, at.y}, {at.x, at.y + y}}));
        } else {
            const double along = x == 0 ? arm : 0, across = y == 0 ? arm : 0;
            painter.drawLine(QPointF(at.x - along, at.y - across), QPointF(at.x + along, at.y + across));
        }
    }
    painter.restore();
}

}  // namespace fernleaf
