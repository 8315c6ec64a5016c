#include "tools/selection.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <numeric>

#include "look/theme.h"
#include "render/shape_look.h"

namespace fernleaf {
namespace {

constexpr double kLeastScale = 0.05;
constexpr size_t kMostHandles = 16;
constexpr double kRuleGripPx = 11;  // from the frame to the grips of a table's rules
constexpr std::array kGrips = {Grip::turn, Grip::top_left, Grip::top_right, Grip::bottom_left, Grip::bottom_right,
                               Grip::left, Grip::right,    Grip::top,       Grip::bottom};

// The place that stays while the frame is pulled at a grip.
Point anchor_of(Grip grip, const Box& box) {
    return {on_left(grip) ? box.right : box.left, on_top(grip) ? box.bottom : box.top};
}

double ratio(double to, double from) { return std::abs(from) < 1e-6 ? 1 : std::max(kLeastScale, to / from); }

}  // namespace

bool Selection::locked() const { return any_locked(chosen_); }

void Selection::choose_area(PictureArea area) {
    choose({});
    for (const Point p : area.outline) box_.include(p);
    area_ = std::move(area);
}

void Selection::choose(Elements elements) {
    chosen_ = std::move(elements);
    area_.reset();
    cell_.reset();
    const std::vector<int64_t> ids = ids_of(chosen_);
    ids_ = {ids.begin(), ids.end()};
    box_ = {};
    for_each_element(chosen_, [&]<typename E>(const E& e) {
        if constexpr (std::is_same_v<E, Stroke>)
            box_.include(e.box().grown(e.pen.width_mm / 2));  // as it is mostly drawn, not as broad as it could be
        else
            box_.include(drawn_box(e));
    });
    cancel();
}

void Selection::cancel() {
    grip_ = Grip::none;
    change_ = {};
    picture_ = {};
    reshaped_.reset();
    links_.clear();
    guides_.clear();
}

std::vector<Point> Selection::handles() const {
    if (chosen_.count() != 1 || chosen_.shapes.size() != 1) return {};
    const FairShape& fair = chosen_.shapes.front();
    const std::vector<Point>& p = fair.shape.points;
    if (fair.routing != Routing::straight) return {p.front(), p.back()};  // the rest of the way is found
    switch (fair.shape.kind) {
        case ShapeKind::circle:
        case ShapeKind::ellipse:
        case ShapeKind::square:
        case ShapeKind::rectangle:
        case ShapeKind::rounded_rectangle:
            return {};
        default:
            return p.size() <= kMostHandles ? p : std::vector<Point>();
    }
}

bool Selection::framed() const { return handles().empty() || is_closed(chosen_.shapes.front().shape.kind); }

QRectF Selection::frame(const PageViewport& view) const {
    return QRectF(view.to_leaf({box_.left, box_.top}), view.to_leaf({box_.right, box_.bottom}))
        .adjusted(-kFramePx, -kFramePx, kFramePx, kFramePx);
}

std::vector<QPointF> Selection::rule_grips(Grip grip, const PageViewport& view) const {
    std::vector<QPointF> out;
    if (!table()) return out;
    const bool column = grip == Grip::column;
    const std::vector<double>& sizes = column ? table()->columns_mm : table()->rows_mm;
    const double outside = (kFramePx + kRuleGripPx) / view.scale();
    double reached = 0;
    for (const double size : sizes) {
        reached += size;
        const Point at = to_page(*table(), column ? Point{reached, -outside} : Point{-outside, reached});
        out.push_back(view.to_leaf({at.x, at.y}));
    }
    return out;
}

QPointF Selection::place_of(Grip grip, const QRectF& f) const {
    return grip == Grip::turn ? QPointF(f.center().x(), f.top() - kStemPx) : place_on(grip, f);
}

Grip Selection::grip_at(QPointF px, const PageViewport& view) const {
    if (empty()) return Grip::none;
    const QRectF f = frame(view);
    if (locked()) return Grip::none;
    constexpr double kReach = kGripPx + 4;
    for (const Point p : handles()) {
        const QPointF d = view.to_leaf({p.x, p.y}) - px;
        if (QPointF::dotProduct(d, d) <= kReach * kReach) return Grip::point;
    }
    if (!framed()) return f.contains(px) ? Grip::inside : Grip::none;
    for (const Grip grip : {Grip::column, Grip::row})
        for (const QPointF at : rule_grips(grip, view)) {
            const QPointF d = at - px;
            if (QPointF::dotProduct(d, d) <= kReach * kReach) return grip;
        }
    for (const Grip grip : kGrips) {
        // The grips of a small frame's sides would cover it.
        const bool side = grip == Grip::left || grip == Grip::right || grip == Grip::top || grip == Grip::bottom;
        if (side && std::min(f.width(), f.height()) < 4 * kGripPx) continue;
        const QPointF d = place_of(grip, f) - px;
        if (QPointF::dotProduct(d, d) <= kReach * kReach) return grip;
    }
    return f.contains(px) ? Grip::inside : Grip::none;
}

void Selection::begin(Grip grip, Point at, const PageViewport& view, double device_ratio, const PictureImages& images,
                      const PageScheme& scheme) {
    cancel();
    grip_ = grip;
    from_ = at;
    scheme_ = scheme;
    if (grip == Grip::point) {
        const std::vector<Point> points = handles();
        const auto nearest = std::ranges::min_element(points, {}, [&](Point p) { return distance(p, at); });
        point_ = static_cast<size_t>(nearest - points.begin());
        reshaped_ = chosen_.shapes.front();
        return;
    }
    if (grip == Grip::column || grip == Grip::row) {
        const std::vector<QPointF> grips = rule_grips(grip, view);
        const QPointF px = view.to_leaf({at.x, at.y});
        const auto nearest = std::ranges::min_element(grips, {}, [&](QPointF p) {
            const QPointF d = p - px;
            return QPointF::dotProduct(d, d);
        });
        line_ = static_cast<int>(nearest - grips.begin());
        line_mm_ = (grip == Grip::column ? table()->columns_mm : table()->rows_mm)[static_cast<size_t>(line_)];
    }
    const double px_per_mm = view.scale() * device_ratio;
    pictured_ = drawn_box(chosen_).grown(1 / px_per_mm);
    picture_ =
        QImage(static_cast<int>(std::ceil(pictured_.width() * px_per_mm)) + 1,
               static_cast<int>(std::ceil(pictured_.height() * px_per_mm)) + 1, QImage::Format_ARGB32_Premultiplied);
    picture_.fill(Qt::transparent);
    QPainter painter(&picture_);
    painter.scale(px_per_mm, px_per_mm);
    painter.translate(-pictured_.left, -pictured_.top);
    paint_elements(painter, chosen_, {scheme, images, pictured_});
    painter.end();
    pictured_.right = pictured_.left + picture_.width() / px_per_mm;
    pictured_.bottom = pictured_.top + picture_.height() / px_per_mm;
}

void Selection::drag_to(Point at, bool constrained) {
    if (grip_ == Grip::point) {
        FairShape& fair = *reshaped_;
        std::vector<Point>& points = fair.shape.points;
        const bool ends_only = fair.routing != Routing::straight;
        Point& moved = ends_only && point_ == 1 ? points.back() : points[point_];
        moved = at;
        if (constrained && points.size() > 1) {  // level or upright from its neighbour
            const Point next = &moved == &points.front() ? points[1] : *(&moved - 1);
            const bool level = std::abs(at.x - next.x) > std::abs(at.y - next.y);
            (level ? moved.y : moved.x) = level ? next.y : next.x;
        }
        // What has lost its angles is what it looks like.
        if (is_closed(fair.shape.kind) && fair.shape.kind != ShapeKind::triangle && fair.shape.kind != ShapeKind::star)
            fair.shape.kind = ShapeKind::polygon;
        change_ = Affine::shift(at - from_);
        return;
    }
    if (grip_ == Grip::column || grip_ == Grip::row) {
        const bool column = grip_ == Grip::column;
        const Point was = to_table(*table(), from_), is = to_table(*table(), at);
        const double before = (column ? table()->columns_mm : table()->rows_mm)[static_cast<size_t>(line_)];
        line_mm_ = std::clamp(before + (column ? is.x - was.x : is.y - was.y), kLeastCellMm, kLargestCellMm);
        change_ = line_mm_ == before ? Affine{} : Affine::shift(at - from_);  // that something was changed
        return;
    }
    const Point anchor = anchor_of(grip_, box_);
    // The ink's own corner moves as the pen does, which holds the frame a little outside of it.
    const Point was = Point{box_.left + box_.right, box_.top + box_.bottom} - anchor * 2;
    const Point is = was + (at - from_);
    if (grip_ == Grip::inside) {
        Point by = at - from_;
        if (constrained) (std::abs(by.x) > std::abs(by.y) ? by.y : by.x) = 0;
        change_ = Affine::shift(by);
    } else if (grip_ == Grip::turn) {
        const Point c = box_.centre();
        double angle = std::atan2(at.y - c.y, at.x - c.x) - std::atan2(from_.y - c.y, from_.x - c.x);
        if (constrained) {
            const double step = kTurnStep * std::numbers::pi / 180;
            angle = std::round(angle / step) * step;
        }
        change_ = Affine::turn(angle, c);
    } else if (is_corner(grip_)) {
        const double grown = ratio(dot(is, was), dot(was, was));
        change_ = Affine::scale(grown, grown, anchor);
    } else if (grip_ == Grip::left || grip_ == Grip::right) {
        change_ = Affine::scale(ratio(is.x, was.x), 1, anchor);
    } else if (grip_ == Grip::top || grip_ == Grip::bottom) {
        change_ = Affine::scale(1, ratio(is.y, was.y), anchor);
    }
}

void Selection::snap(Point by, std::vector<std::pair<Point, Point>> guides) {
    change_ = change_.then(Affine::shift(by));
    guides_ = std::move(guides);
}

QRectF Selection::painted(const PageViewport& view) const {
    if (empty() && !area_) return {};
    QRectF f = frame(view);
    if (changing()) {
        Box moved;
        const bool rule = grip_ == Grip::column || grip_ == Grip::row;
        for (const Point p : {Point{box_.left, box_.top}, Point{box_.right, box_.top}, Point{box_.left, box_.bottom},
                              Point{box_.right, box_.bottom}})
            moved.include(rule ? p : change_(p)), moved.include(change_(p));
        if (reshaped_) moved.include(drawn_box(*reshaped_));
        for (const FairShape& link : links_) moved.include(drawn_box(link));
        for (const auto& [a, b] : guides_) moved.include(a), moved.include(b);
        f = QRectF(view.to_leaf({moved.left, moved.top}), view.to_leaf({moved.right, moved.bottom}))
                .adjusted(-kFramePx, -kFramePx, kFramePx, kFramePx);
    }
    return f.adjusted(-kGripPx - 2, -kStemPx - kGripPx - 2, kGripPx + 2, kGripPx + 2);
}

void Selection::paint(QPainter& painter, const PageViewport& view) const {
    if (empty() && !area_) return;
    const Theme& t = theme();
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    if (area_) {
        QPolygonF line;
        for (const Point p : area_->outline) line << view.to_leaf({p.x, p.y});
        painter.setPen(QPen(t.act, 1.4, Qt::DashLine));
        painter.setBrush(Qt::NoBrush);
        painter.drawPolygon(line);
        return painter.restore();
    }
    if (changing()) {
        paint_followers(painter, view);
        if (reshaped_) return painter.restore();
        const bool rule = grip_ == Grip::column || grip_ == Grip::row;
        painter.save();
        painter.translate(view.origin());
        painter.scale(view.scale(), view.scale());
        if (!rule)
            painter.setTransform(QTransform(change_.xx, change_.yx, change_.xy, change_.yy, change_.dx, change_.dy),
                                 true);
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        painter.drawImage(rect_of(pictured_), picture_);
        QPen line(t.act, 1.4);
        line.setCosmetic(true);
        painter.setPen(line);
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(rect_of(box_.grown(kFramePx / view.scale())));
        painter.restore();
        if (rule) paint_table(painter, view);
        painter.restore();
        return;
    }
    const QRectF f = frame(view);
    painter.setPen(QPen(t.act, 1.4, locked() ? Qt::DashLine : Qt::SolidLine));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(f);
    if (locked()) return painter.restore();
    const auto draw_handles = [&] {
        painter.setBrush(t.card);
        for (const Point p : handles()) painter.drawEllipse(view.to_leaf({p.x, p.y}), 6, 6);
    };
    if (!framed()) {
        draw_handles();
        return painter.restore();
    }
    painter.drawLine(place_of(Grip::top, f), place_of(Grip::turn, f));
    const bool small = std::min(f.width(), f.height()) < 4 * kGripPx;
    painter.setBrush(t.card);
    for (const Grip grip : kGrips) {
        const QPointF at = place_of(grip, f);
        if (is_corner(grip))
            painter.drawRoundedRect(QRectF(at.x() - 6, at.y() - 6, 12, 12), 3, 3);
        else if (grip == Grip::turn)
            painter.drawEllipse(at, 7, 7);
        else if (!small && (grip == Grip::left || grip == Grip::right))
            painter.drawRoundedRect(QRectF(at.x() - 3.5, at.y() - 8, 7, 16), 3.5, 3.5);
        else if (!small)
            painter.drawRoundedRect(QRectF(at.x() - 8, at.y() - 3.5, 16, 7), 3.5, 3.5);
    }
    draw_handles();
    paint_table(painter, view);
    painter.restore();
}

// The cell that is meant, the grips of its rules, and the rule that is pulled.
void Selection::paint_table(QPainter& painter, const PageViewport& view) const {
    if (!table()) return;
    const Theme& t = theme();
    const auto px = [&](Point in_table) {
        const Point at = to_page(*table(), in_table);
        return view.to_leaf({at.x, at.y});
    };
    if (grip_ == Grip::column || grip_ == Grip::row) {
        const bool column = grip_ == Grip::column;
        const std::vector<double>& sizes = column ? table()->columns_mm : table()->rows_mm;
        const double at = std::accumulate(sizes.begin(), sizes.begin() + line_, 0.0) + line_mm_;
        painter.setPen(QPen(t.act, 2));
        painter.drawLine(px(column ? Point{at, 0} : Point{0, at}),
                         px(column ? Point{at, height_of(*table())} : Point{width_of(*table()), at}));
        return;
    }
    if (cell_) {
        const Box b = box_of(*table(), *cell_);
        QColor wash = t.act;
        wash.setAlpha(28);
        painter.setPen(QPen(t.act, 2));
        painter.setBrush(wash);
        painter.drawPolygon(
            QPolygonF{px({b.left, b.top}), px({b.right, b.top}), px({b.right, b.bottom}), px({b.left, b.bottom})});
    }
    painter.setPen(QPen(t.act, 1.4));
    painter.setBrush(t.card);
    for (const QPointF at : rule_grips(Grip::column, view))
        painter.drawRoundedRect(QRectF(at.x() - 2.5, at.y() - 6, 5, 12), 2.5, 2.5);
    for (const QPointF at : rule_grips(Grip::row, view))
        painter.drawRoundedRect(QRectF(at.x() - 6, at.y() - 2.5, 12, 5), 2.5, 2.5);
}

// Links and the figure that is being changed as they are now, and what they are in line with.
void Selection::paint_followers(QPainter& painter, const PageViewport& view) const {
    painter.save();
    painter.translate(view.origin());
    painter.scale(view.scale(), view.scale());
    for (const FairShape& link : links_) draw_shape(painter, link, scheme_);
    if (reshaped_) draw_shape(painter, *reshaped_, scheme_);
    QPen line(theme().unsure, 1.2, Qt::DashLine);
    line.setCosmetic(true);
    painter.setPen(line);
    for (const auto& [a, b] : guides_) painter.drawLine(QPointF(a.x, a.y), QPointF(b.x, b.y));
    painter.restore();
}

Qt::CursorShape cursor_of(Grip grip) {
    switch (grip) {
        case Grip::inside:
        case Grip::point:
            return Qt::SizeAllCursor;
        case Grip::top_left:
        case Grip::bottom_right:
            return Qt::SizeFDiagCursor;
        case Grip::top_right:
        case Grip::bottom_left:
            return Qt::SizeBDiagCursor;
        case Grip::left:
        case Grip::right:
        case Grip::column:
            return Qt::SizeHorCursor;
        case Grip::top:
        case Grip::bottom:
        case Grip::row:
            return Qt::SizeVerCursor;
        case Grip::turn:
            return Qt::PointingHandCursor;
        case Grip::none:
            break;
    }
    return Qt::CrossCursor;
}

}  // namespace fernleaf
