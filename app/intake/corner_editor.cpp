#include "intake/corner_editor.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include "look/theme.h"
#include "look/veil.h"

namespace fernleaf {
namespace {

constexpr double kCornerPx = 8;                  // radius of a corner's ring
constexpr double kReachPx = 22;                  // from a corner, and from a side's middle
constexpr double kSnapPx = 9, kLeastTurn = 0.5;  // sine of the angle between edges that make a corner
constexpr int kMarginPx = 14;
constexpr int kMagnifierPx = 150;  // across
constexpr double kMagnified = 3;   // times the picture's own size on screen

}  // namespace

CornerEditor::CornerEditor(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setMinimumSize(200, 200);
    setAccessibleName(tr("The photograph and the sheet found in it; Tab chooses a corner, the arrows move it"));
}

void CornerEditor::set_picture(const QImage& image, double scale) {
    image_ = image;
    scale_ = scale;
    fitted_ = {};
    update();
}

void CornerEditor::set_outline(const std::optional<SheetOutline>& outline) {
    if (before_) return;  // a hand is on it
    outline_ = outline;
    update();
}

QRectF CornerEditor::picture_rect() const {
    const QRectF room = QRectF(rect()).adjusted(kMarginPx, kMarginPx, -kMarginPx, -kMarginPx);
    QSizeF size = image_.size();
    size.scale(room.size(), Qt::KeepAspectRatio);
    QRectF out(QPointF(0, 0), size);
    out.moveCenter(room.center());
    return out;
}

QPointF CornerEditor::place_of(Point px) const {
    const QRectF r = picture_rect();
    const double by = image_.isNull() ? 1 : r.width() / image_.width() * scale_;
    return r.topLeft() + QPointF(px.x, px.y) * by;
}

Point CornerEditor::picture_px(QPointF widget) const {
    const QRectF r = picture_rect();
    const double by = image_.isNull() ? 1 : r.width() / image_.width() * scale_;
    const QPointF p = (widget - r.topLeft()) / by;
    return {p.x(), p.y()};
}

SheetOutline CornerEditor::whole() const {
    const double w = image_.width() / scale_, h = image_.height() / scale_;
    return {{{{0, 0}, {w, 0}, {w, h}, {0, h}}}, {}};
}

bool CornerEditor::hold(QPointF at) {
    corner_ = side_ = -1;
    const SheetOutline now = outline_.value_or(whole());
    double nearest = kReachPx;
    for (size_t i = 0; i < 4; ++i)
        if (const double off = QLineF(at, place_of(now.corners[i])).length(); off < nearest)
            nearest = off, corner_ = static_cast<int>(i);
    if (corner_ >= 0) return true;
    for (size_t i = 0; i < 4; ++i)
        if (const double off = QLineF(at, place_of(now.on_side(i, 0.5))).length(); off < nearest)
            nearest = off, side_ = static_cast<int>(i);
    return side_ >= 0;
}

void CornerEditor::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || image_.isNull() || !hold(event->position())) return;
    outline_ = outline_.value_or(whole());
    before_ = outline_;
    chosen_ = corner_;
    from_ = picture_px(event->position());
    update();
}

// px of the file's picture.
double CornerEditor::snap_reach() const { return kSnapPx / (picture_rect().width() / image_.width() * scale_); }

// Onto the crossing of two edges that are near, or onto the one that is.
Point CornerEditor::snapped(Point px) const {
    const double reach = snap_reach();
    std::vector<const EdgeLine*> near;
    for (const EdgeLine& edge : edges_)
        if (std::abs(dot(edge.normal, px) - edge.offset) < reach) near.push_back(&edge);
    std::ranges::sort(near, std::greater(), [](const EdgeLine* e) { return e->support; });
    for (size_t a = 0; a < near.size(); ++a)
        for (size_t b = a + 1; b < near.size(); ++b) {
            const double turn = near[a]->normal.x * near[b]->normal.y - near[a]->normal.y * near[b]->normal.x;
            if (std::abs(turn) < kLeastTurn) continue;
            const Point crossing{(near[a]->offset * near[b]->normal.y - near[b]->offset * near[a]->normal.y) / turn,
                                 (near[b]->offset * near[a]->normal.x - near[a]->offset * near[b]->normal.x) / turn};
            if (distance(crossing, px) < 1.5 * reach) return crossing;
        }
    return near.empty() ? px : px + near[0]->normal * (near[0]->offset - dot(near[0]->normal, px));
}

void CornerEditor::move(Point by, bool snap) {
    SheetOutline moved = *before_;
    const auto shift = [&](int corner) {
        Point& p = moved.corners[static_cast<size_t>(corner)];
        p = p + by;
        // What is hardly moved is put right by eye: no edge takes it away.
        if (snap && length(by) > snap_reach() / 2) p = snapped(p);
        // Corners may lie a little outside the picture, but not lost.
        const double w = image_.width() / scale_, h = image_.height() / scale_;
        p.x = std::clamp(p.x, -0.25 * w, 1.25 * w), p.y = std::clamp(p.y, -0.25 * h, 1.25 * h);
    };
    if (corner_ >= 0)
        shift(corner_);
    else
        shift(side_), shift((side_ + 1) % 4);
    if (is_valid(moved)) outline_ = moved;
    update();
}

void CornerEditor::mouseMoveEvent(QMouseEvent* event) {
    if (before_) return move(picture_px(event->position()) - from_, !(event->modifiers() & Qt::ShiftModifier));
    setCursor(hold(event->position()) ? Qt::OpenHandCursor : Qt::ArrowCursor);
}

void CornerEditor::mouseReleaseEvent(QMouseEvent*) {
    if (!before_) return;
    const bool changed = before_ != outline_;
    before_.reset();
    corner_ = side_ = -1;
    update();
    if (changed) emit outline_changed(*outline_);
}

void CornerEditor::keyPressEvent(QKeyEvent* event) {
    const Point way = event->key() == Qt::Key_Left    ? Point{-1, 0}
                      : event->key() == Qt::Key_Right ? Point{1, 0}
                      : event->key() == Qt::Key_Up    ? Point{0, -1}
                      : event->key() == Qt::Key_Down  ? Point{0, 1}
                                                      : Point{};
    if (way == Point{} || chosen_ < 0 || image_.isNull() || before_) return QWidget::keyPressEvent(event);
    before_ = outline_.value_or(whole());
    outline_ = before_;
    corner_ = chosen_;
    const double step = event->modifiers() & Qt::ShiftModifier ? 10 : 1;
    move(way * step, false);
    mouseReleaseEvent(nullptr);
}

// Tab goes from corner to corner before it leaves.
bool CornerEditor::focusNextPrevChild(bool next) {
    const int to = chosen_ + (next ? 1 : -1);
    if (hasFocus() && !image_.isNull() && to >= 0 && to < 4) {
        chosen_ = to;
        update();
        return true;
    }
    chosen_ = -1;
    return QWidget::focusNextPrevChild(next);
}

void CornerEditor::focusOutEvent(QFocusEvent* event) {
    chosen_ = -1;
    update();
    QWidget::focusOutEvent(event);
}

void CornerEditor::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.fillRect(rect(), t.desk);
    if (image_.isNull()) return;
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    const QRectF r = picture_rect();
    // Made smaller once, not with every move of the hand.
    const QSize size = (r.size() * devicePixelRatioF()).toSize();
    if (fitted_.size() != size)
        fitted_ = QPixmap::fromImage(image_.scaled(size, Qt::IgnoreAspectRatio, Qt::SmoothTransformation));
    painter.drawPixmap(r, fitted_, QRectF(fitted_.rect()));
    const SheetOutline now = outline_.value_or(whole());
    QPolygonF border;
    for (const Point& p : polygon(now, 16)) border << place_of(p);
    paint_veil(painter, r, border, 150);
    // A light line under the green one: it shows on any ground.
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(QColor(255, 255, 255, 170), 4));
    painter.drawPolygon(border);
    painter.setPen(QPen(t.act, 2));
    painter.drawPolygon(border);
    for (size_t i = 0; i < 4; ++i) {
        const QPointF a = place_of(now.on_side(i, 0.44)), b = place_of(now.on_side(i, 0.56));
        painter.setPen(QPen(QColor(255, 255, 255, 200), 8, Qt::SolidLine, Qt::RoundCap));
        painter.drawLine(a, b);
        painter.setPen(QPen(t.act, 5, Qt::SolidLine, Qt::RoundCap));
        painter.drawLine(a, b);
    }
    for (size_t i = 0; i < 4; ++i) {
        const bool chosen = static_cast<int>(i) == chosen_;
        painter.setPen(QPen(t.act, chosen ? 4 : 2.4));
        painter.setBrush(QColor(255, 255, 255, chosen ? 230 : 150));
        painter.drawEllipse(place_of(now.corners[i]), kCornerPx, kCornerPx);
    }
    if (hasFocus() && chosen_ < 0) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(t.act, 1.4));
        painter.drawRoundedRect(QRectF(rect()).adjusted(2, 2, -2, -2), 6, 6);
    }
    const int magnified = before_ ? corner_ : chosen_;
    if (magnified >= 0) paint_magnifier(painter, place_of(now.corners[static_cast<size_t>(magnified)]));
}

// Shows where the corner will be, away from the hand that covers it.
void CornerEditor::paint_magnifier(QPainter& painter, QPointF at) {
    const Theme& t = theme();
    const QPointF middle(
        at.x() < width() / 2.0 ? width() - kMagnifierPx / 2.0 - kMarginPx : kMagnifierPx / 2.0 + kMarginPx,
        kMagnifierPx / 2.0 + kMarginPx);
    const QRectF glass(middle - QPointF(kMagnifierPx / 2.0, kMagnifierPx / 2.0), QSizeF(kMagnifierPx, kMagnifierPx));
    painter.save();
    QPainterPath round;
    round.addEllipse(glass);
    painter.fillPath(round, t.desk);
    painter.setClipPath(round);
    const QRectF r = picture_rect();
    const QRectF large((r.left() - at.x()) * kMagnified + middle.x(), (r.top() - at.y()) * kMagnified + middle.y(),
                       r.width() * kMagnified, r.height() * kMagnified);
    painter.drawImage(large, image_);
    QPolygonF border;
    for (const Point& p : polygon(outline_.value_or(whole()), 16)) border << (place_of(p) - at) * kMagnified + middle;
    painter.setPen(QPen(t.act, 1.6));
    painter.setBrush(Qt::NoBrush);
    painter.drawPolygon(border);
    painter.restore();
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(t.card, 5));
    painter.drawEllipse(glass);
    painter.setPen(QPen(t.act, 1.6));
    painter.drawEllipse(glass);
}

}  // namespace fernleaf
