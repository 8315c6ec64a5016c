#include "leaves/ink_leaf.h"

#include <QDateTime>
#include <QGuiApplication>
#include <QMouseEvent>
#include <QNativeGestureEvent>
#include <QPainter>
#include <QTabletEvent>
#include <QWheelEvent>
#include <set>

#include "ink/erasing.h"
#include "ink/nib.h"
#include "ink/scribble.h"
#include "look/theme.h"
#include "render/fonts.h"
#include "render/stroke_look.h"
#include "render/stroke_shape.h"

namespace fernleaf {
namespace {

constexpr int kDeskMarginPx = 22;
constexpr int kTrayRoomPx = 64;  // below the page, so that its foot is not hidden by the tool tray
constexpr double kSmallEraserPx = 5, kMediumEraserPx = 10, kLargeEraserPx = 24;  // radii
constexpr double kEraserPxPerSpeed = 12;  // of radius for each px/ms, when the size follows the hand
constexpr double kEraserSpeedMemoryMs = 60;
constexpr double kClickSlopPx = 4;
constexpr int kPenNearMs = 700;
constexpr double kWheelStep = 1.2;  // zoom for one notch
constexpr double kClosestSampleMm = 0.04;

}  // namespace

InkLeaf::InkLeaf(Session& session, PageViewport& view, QWidget* parent)
    : QWidget(parent),
      session_(session),
      view_(view),
      tiles_(this),
      editor_(new TextEditor(this, view)),
      hand_rest_(new HandRest(this)) {
    setObjectName(QStringLiteral("inkLeaf"));
    setAttribute(Qt::WA_OpaquePaintEvent);
    setTabletTracking(true);
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumWidth(200);
    setAccessibleName(tr("Ink leaf: the page as it was written"));
    connect(&view_, &PageViewport::changed, this, &InkLeaf::view_changed);
    connect(&session_.document(), &PageDocument::opened, this, &InkLeaf::page_opened);
    connect(&session_.document(), &PageDocument::edited, this, [this](const Edit& edit) {
        const bool other_sheet = static_cast<const Sheet&>(session_.page()->info) != tiles_.scene().sheet;
        tiles_.apply(edit);
        // The hint on an empty page comes and goes.
        if (hint_shown_ != session_.page()->empty()) update();
        if (other_sheet) {
            tiles_.set_sheet(session_.page()->info, theme().page);
            if (fitted_) fit_width();
            view_changed();
        }
        update(leaf_rect(touched_by(edit), 3).toAlignedRect());
        // Undo may take what is being written, or what is chosen, off the page.
        if (editor_->is_open() && !keeping_ && edited_kept_ &&
            std::ranges::find(edit.removed.texts, edited_.id, &TextBlock::id) != edit.removed.texts.end())
            editor_->drop();
        if (std::ranges::any_of(ids_of(edit.removed), [this](ElementId id) { return selection_.contains(id); }))
            clear_selection();
    });
    connect(&session_.pictures(), &PictureDesk::pictures_ready, this,
            [this](const std::shared_ptr<const PictureImages>& images) { tiles_.set_images(images); });
    connect(&session_.readings(), &ReadingScheduler::changed, this, [this] {
        if (chosen_.valid()) update();
    });
    connect(editor_, &TextEditor::paused, this, &InkLeaf::keep_text);
    connect(editor_, &TextEditor::closed, this, &InkLeaf::keep_text);
    connect(&session_.document(), &PageDocument::leaving, editor_, &TextEditor::close_text);
    // What is under the pen belongs to the page it was begun on.
    connect(&session_.document(), &PageDocument::leaving, this, &InkLeaf::end);
    connect(&session_.document(), &PageDocument::closed, this, [this] {
        drop();
        update();
    });
    connect(&tiles_, &TileStore::ready, this,
            [this](const QRectF& mm) { update(leaf_rect(box_of(mm), 1).toAlignedRect()); });
    pen_near_.setSingleShot(true);
    flash_timer_.setSingleShot(true);
    connect(&flash_timer_, &QTimer::timeout, this, [this] { flash({}); });
    update_cursor();
}

QRectF InkLeaf::leaf_rect(const Box& mm, double grow_px) const {
    if (mm.empty()) return {};
    return QRectF(view_.to_leaf({mm.left, mm.top}), view_.to_leaf({mm.right, mm.bottom}))
        .adjusted(-grow_px, -grow_px, grow_px, grow_px);
}

// What is under way comes to nothing.
void InkLeaf::drop() {
    if (std::exchange(active_, std::nullopt) == Tool::pen) session_.readings().set_pen_down(false);
    if (!overlay_.isNull()) overlay_.fill(Qt::transparent);
    live_ = {};
    erased_.clear();
    pieces_.clear();
    room_.reset();
    clear_selection();
}

void InkLeaf::page_opened() {
    drop();
    crop_.close();
    lasso_.clear();
    chosen_ = {};
    hits_.clear();
    flashed_ = {};
    tiles_.show(InkScene::of(*session_.page(), theme().page));
    if (fitted_) fit_width();
    if (!lens_) view_.set(view_.scale(), {view_.origin().x(), kDeskMarginPx});
    update();
}

void InkLeaf::set_lens_area(const Box& mm) {
    lens_area_ = mm;
    update();
}

void InkLeaf::restyle() {
    if (session_.page()) {
        auto images = tiles_.scene().images;
        tiles_.show(InkScene::of(*session_.page(), theme().page));
        tiles_.set_images(images);
    }
    update();
}

void InkLeaf::fit_width() {
    fitted_ = true;
    if (!session_.page() || width() <= 0) return;
    const double page = session_.page()->info.width_mm;
    const double scale =
        std::clamp((width() - 2.0 * kDeskMarginPx) / page, PageViewport::kSmallest, PageViewport::kLargest);
    view_.set(scale, {(width() - page * scale) / 2, view_.origin().y()});
}

void InkLeaf::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    if (fitted_) fit_width();
    view_changed();
}

// The page can't be pushed off the desk.
void InkLeaf::view_changed() {
    if (session_.page() && !lens_) {
        const double w = session_.page()->info.width_mm * view_.scale(),
                     h = session_.page()->info.height_mm * view_.scale();
        QPointF o = view_.origin();
        const double spare_x = width() - w, spare_y = height() - h - kTrayRoomPx;
        o.setX(spare_x >= 2 * kDeskMarginPx ? spare_x / 2
                                            : std::clamp<double>(o.x(), spare_x - kDeskMarginPx, kDeskMarginPx));
        o.setY(
            spare_y >= 2 * kDeskMarginPx
                ? kDeskMarginPx
                : std::clamp<double>(o.y(), std::min<double>(spare_y - kDeskMarginPx, kDeskMarginPx), kDeskMarginPx));
        view_.set(view_.scale(), o);
    }
    if (active_ == Tool::pen && !overlay_.isNull()) overlay_.fill(Qt::transparent);
    update();
}

void InkLeaf::set_tool(Tool tool) {
    tool_ = tool;
    if (tool != Tool::text) editor_->close_text();
    if (tool != Tool::lasso) clear_selection();
    update_cursor();
}

void InkLeaf::update_cursor() {
    switch (tool_) {
        case Tool::choose:
            setCursor(panning_ ? Qt::ClosedHandCursor : Qt::ArrowCursor);
            return;
        case Tool::pen:
        case Tool::lasso:
            setCursor(Qt::CrossCursor);
            return;
        case Tool::text:
            setCursor(Qt::IBeamCursor);
            return;
        case Tool::room:
            setCursor(Qt::SizeVerCursor);
            return;
        case Tool::eraser:
            break;
    }
    const double radius = eraser_.size == EraserSize::small   ? kSmallEraserPx
                          : eraser_.size == EraserSize::large ? kLargeEraserPx
                                                              : kMediumEraserPx;
    const int side = static_cast<int>(2 * radius) + 3;
    QPixmap ring(side, side);
    ring.fill(Qt::transparent);
    QPainter painter(&ring);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(theme().unsure, 1.6));
    painter.drawEllipse(QPointF(side / 2.0, side / 2.0), radius, radius);
    painter.end();
    setCursor(QCursor(ring));
}

void InkLeaf::set_chosen(WordPlace place) {
    chosen_ = place;
    if (const ReadWord* word = session_.word(place)) scroll_to(word->box);
    update();
}

void InkLeaf::set_hits(const std::vector<Box>& boxes) {
    hits_ = boxes;
    if (!boxes.empty()) scroll_to(boxes.front());
    update();
}

void InkLeaf::scroll_to(const Box& mm) {
    const QRectF at = leaf_rect(mm);
    const QRectF room = QRectF(rect()).adjusted(0, 40, 0, -60);
    if (at.isNull() || room.contains(QRectF(room.x(), at.y(), 1, at.height()))) return;
    view_.pan({0, room.center().y() - at.center().y()});
}

WordPlace InkLeaf::word_at(QPointF px) const {
    const QPointF mm = view_.to_page(px);
    const auto& lines = session_.reading().lines;
    WordPlace best;
    double nearest = 1.5;  // mm
    for (size_t l = 0; l < lines.size(); ++l)
        for (size_t w = 0; w < lines[l].words.size(); ++w) {
            const Box& box = lines[l].words[w].box;
            const double dx = std::max({box.left - mm.x(), 0.0, mm.x() - box.right});
            const double dy = std::max({box.top - mm.y(), 0.0, mm.y() - box.bottom});
            if (const double d = std::hypot(dx, dy); d < nearest)
                nearest = d, best = {static_cast<int>(l), static_cast<int>(w)};
        }
    return best;
}

void InkLeaf::paintEvent(QPaintEvent* event) {
    QPainter painter(this);
    const Theme& t = theme();
    painter.setClipRegion(event->region());
    painter.fillRect(event->rect(), t.desk);
    if (!session_.page()) return;
    const PageInfo& info = session_.page()->info;
    const QRectF sheet(view_.origin(), QSizeF(info.width_mm, info.height_mm) * view_.scale());
    for (int i = 1; i <= 5; ++i) {
        const QColor shade(20, 18, 12, t.dark ? 40 - 6 * i : 13 - 2 * i);
        painter.fillRect(sheet.adjusted(-i, -i + 2, i, i + 2), shade);
    }
    for (const QRect& part : event->region())
        tiles_.paint(painter, part, view_.origin(), view_.scale(), devicePixelRatioF());
    painter.setRenderHint(QPainter::Antialiasing);
    for (const Box& hit : hits_) {
        QColor wash = t.hit;
        wash.setAlpha(t.dark ? 110 : 90);
        painter.setPen(QPen(t.hit.darker(130), 1.5));
        painter.setBrush(wash);
        painter.drawRoundedRect(leaf_rect(hit, 3), 4, 4);
    }
    if (const ReadWord* word = session_.word(chosen_)) {
        QColor wash = t.act;
        wash.setAlpha(26);
        painter.setPen(QPen(t.act, 1.8));
        painter.setBrush(wash);
        painter.drawRoundedRect(leaf_rect(word->box, 4), 5, 5);
    }
    if (!flashed_.empty()) {
        QColor wash = t.act;
        wash.setAlpha(40);
        painter.setPen(Qt::NoPen);
        painter.setBrush(wash);
        painter.drawRoundedRect(leaf_rect(flashed_, 4), 5, 5);
    }
    if (!lens_area_.empty()) {
        painter.setPen(QPen(t.act, 1.4));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(leaf_rect(lens_area_, 1), 3, 3);
    }
    if (lasso_.size() > 1) {
        QPolygonF line;
        for (const Point p : lasso_) line << view_.to_leaf({p.x, p.y});
        QColor wash = t.act;
        wash.setAlpha(20);
        painter.setPen(QPen(t.act, 1.6, Qt::DashLine));
        painter.setBrush(wash);
        painter.drawPolygon(line);
    }
    if (crop_.open())
        crop_.paint(painter, view_, tiles_.scene().decoded());
    else
        selection_.paint(painter, view_);
    if (room_) paint_room(painter);
    hand_rest_->paint_area(painter);
    if (active_ == Tool::pen && !overlay_.isNull()) painter.drawImage(QPointF(0, 0), overlay_);
    hint_shown_ = session_.page()->empty() && !active_ && !editor_->is_open() && !lens_;
    if (hint_shown_) {
        painter.setPen(t.quiet_text);
        QFont font(kTextFace, 13);
        font.setItalic(true);
        painter.setFont(font);
        painter.drawText(
            sheet.adjusted(20, 3 * info.spacing_mm * view_.scale(), -20, 0),
            Qt::AlignHCenter | Qt::AlignTop | Qt::TextWordWrap,
            session_.read_only() ? tr("This page is empty.") : tr("Write here with a pen, or with the mouse."));
    }
}

double InkLeaf::eraser_radius_px(const Sample& sample) {
    switch (eraser_.size) {
        case EraserSize::small:
            return kSmallEraserPx;
        case EraserSize::medium:
            return kMediumEraserPx;
        case EraserSize::large:
            return kLargeEraserPx;
        case EraserSize::by_speed:
            break;
    }
    const double ms = static_cast<double>(std::max<qint64>(1, eraser_clock_.restart()));
    const double now = QLineF(last_px_, sample.at).length() / ms;
    eraser_speed_ += (now - eraser_speed_) * std::min(1.0, ms / kEraserSpeedMemoryMs);
    const double pressed = 0.6 + 0.8 * sample.pressure;  // 1 where the device knows no pressure
    return std::clamp((kSmallEraserPx + kEraserPxPerSpeed * eraser_speed_) * pressed, kSmallEraserPx, kLargeEraserPx);
}

void InkLeaf::set_eraser(const Eraser& eraser) {
    eraser_ = eraser;
    update_cursor();
}

void InkLeaf::begin(Tool tool, const Sample& sample) {
    if (!session_.page()) return;
    if (hint_shown_) update();
    emit touched();
    editor_->close_text();
    if (tool == Tool::text) return write_text(sample.at);
    if (tool != Tool::lasso && !session_.editing().may_change()) return;
    active_ = tool;
    last_px_ = sample.at;
    if (tool == Tool::lasso) return begin_lasso(sample, QGuiApplication::keyboardModifiers() & Qt::ShiftModifier);
    clear_selection();
    if (tool == Tool::room) return begin_room(sample.at);
    if (tool == Tool::eraser) {
        erased_.clear();
        pieces_.clear();
        eraser_clock_.start();
        eraser_speed_ = 0;
        erase_to(sample);
        return;
    }
    session_.readings().set_pen_down(true);
    live_ = {};
    live_.pen = pen_;
    live_.start_ms = QDateTime::currentMSecsSinceEpoch();
    live_clock_.start();
    const QSize size = this->size() * devicePixelRatioF();
    if (overlay_.size() != size) {
        overlay_ = QImage(size, QImage::Format_ARGB32_Premultiplied);
        overlay_.setDevicePixelRatio(devicePixelRatioF());
        overlay_.fill(Qt::transparent);
    }
    write_to(sample);
    emit pen_touched();
}

void InkLeaf::write_to(const Sample& sample) {
    const QPointF mm = view_.to_page(sample.at);
    const PageInfo& info = session_.page()->info;
    // The pen may slip over the edge; ink stays on the sheet.
    const Point at{std::clamp(mm.x(), 0.0, info.width_mm), std::clamp(mm.y(), 0.0, info.height_mm)};
    if (!live_.points.empty() && distance(live_.points.back().at, at) < kClosestSampleMm) return;
    live_.points.push_back(
        {at, sample.pressure, sample.tilt_x, sample.tilt_y, static_cast<uint32_t>(live_clock_.elapsed())});
    const size_t first = live_.points.size() > 3 ? live_.points.size() - 3 : 0;
    QPainter painter(&overlay_);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(view_.origin());
    painter.scale(view_.scale(), view_.scale());
    painter.setPen(Qt::NoPen);
    if (live_.pen.opacity < 1 || live_.pen.kind == PenKind::pencil) {
        // Ink that lets the paper through must not be laid on twice.
        const QRectF changed = rect_of(tail_box(live_, first));
        painter.setClipRect(changed);
        painter.setCompositionMode(QPainter::CompositionMode_Clear);
        painter.fillRect(changed, Qt::transparent);
        painter.setCompositionMode(QPainter::CompositionMode_SourceOver);
        StrokeLook(live_).draw(painter, tiles_.scene().scheme);
        update(leaf_rect(box_of(changed), 2).toAlignedRect());
        return;
    }
    const QPainterPath tail = stroke_tail(live_, first);
    painter.setBrush(shown_colour(live_.pen.colour, tiles_.scene().scheme));
    painter.drawPath(tail);
    update(leaf_rect(box_of(tail.boundingRect()), 2).toAlignedRect());
}

// What the eraser takes from one stroke on its way, and what it leaves.
void InkLeaf::take_from(const std::shared_ptr<const DrawnStroke>& shape, Point from, Point to, double radius,
                        Edit& edit) {
    const Stroke& stroke = shape->stroke();
    if (eraser_.highlighter_only && !lies_under(stroke.pen)) return;
    Box passed;
    passed.include(from);
    passed.include(to);
    if (!shape->box().meets(passed.grown(radius))) return;
    // The eraser's edge meets the ink's: a piece ends in a round end half as wide as its pen.
    std::vector<Stroke> rest = erased_along(stroke, from, to, radius + stroke.pen.width_mm / 2);
    if (rest.size() == 1 && rest.front() == stroke) return;
    edit.removed.strokes.push_back(stroke);
    if (eraser_.takes != EraserTakes::part) return;
    for (Stroke& piece : rest) {
        piece.id = session_.editing().new_id();
        edit.added.strokes.push_back(std::move(piece));
    }
}

void InkLeaf::erase_to(const Sample& sample) {
    const QPointF a = view_.to_page(last_px_), b = view_.to_page(sample.at);
    const double radius = eraser_radius_px(sample) / view_.scale();
    Edit edit{"Erase"};
    std::vector<Stroke>& gone = edit.removed.strokes;
    std::vector<std::shared_ptr<const DrawnStroke>> shapes = tiles_.scene().shapes;
    for (const auto& shape : shapes) take_from(shape, {a.x(), a.y()}, {b.x(), b.y()}, radius, edit);
    if (eraser_.takes == EraserTakes::word && !gone.empty()) {
        std::set<StrokeId> taken, wanted;
        for (const Stroke& s : gone) taken.insert(s.id);
        for (const ReadLine& line : session_.reading().lines)
            for (const ReadWord& word : line.words)
                if (std::ranges::any_of(word.strokes, [&](StrokeId id) { return taken.contains(id); }))
                    wanted.insert(word.strokes.begin(), word.strokes.end());
        for (const auto& shape : shapes)
            if (wanted.contains(shape->id()) && !taken.contains(shape->id())) gone.push_back(shape->stroke());
    }
    if (gone.empty()) return;
    // Gone from sight at once; committed as one step when the eraser lifts.
    tiles_.apply(edit);
    update(leaf_rect(touched_by(edit), 3).toAlignedRect());
    for (Stroke& s : gone)
        if (pieces_.erase(s.id) == 0) erased_.push_back(std::move(s));
    for (Stroke& s : edit.added.strokes) pieces_[s.id] = std::move(s);
}

// The scribble is ink like any other first: one undo brings it and all that it took.
bool InkLeaf::scribble_out(StrokeId newest) {
    const auto& strokes = session_.page()->strokes;
    const auto scribble = std::ranges::find(strokes, newest, &Stroke::id);
    if (scribble == strokes.end()) return false;
    std::vector<StrokeId> out = scribbled_out(*scribble, strokes);
    if (out.empty()) return false;
    out.push_back(newest);
    std::set<StrokeId> gone(out.begin(), out.end());
    // A word of which most is scribbled over goes whole, with its dots and tails.
    for (const ReadLine& line : session_.reading().lines)
        for (const ReadWord& word : line.words) {
            const auto taken = std::ranges::count_if(word.strokes, [&](StrokeId id) { return gone.contains(id); });
            if (2 * taken > std::ssize(word.strokes)) gone.insert(word.strokes.begin(), word.strokes.end());
        }
    Edit edit{"Scribble out"};
    for (const Stroke& s : strokes)
        if (gone.contains(s.id)) edit.removed.strokes.push_back(s);
    session_.editing().change(std::move(edit));
    return true;
}

void InkLeaf::go_on(const Sample& sample) {
    if (active_ == Tool::pen)
        write_to(sample);
    else if (active_ == Tool::eraser)
        erase_to(sample);
    else if (active_ == Tool::lasso)
        lasso_to(sample);
    else if (active_ == Tool::room)
        room_to(sample.at);
    last_px_ = sample.at;
}

void InkLeaf::end() {
    if (!active_) return;
    if (!session_.page()) return drop();
    const Tool was = *active_;
    active_.reset();
    if (was == Tool::lasso) {
        end_lasso();
    } else if (was == Tool::room) {
        end_room();
    } else if (was == Tool::pen) {
        session_.readings().set_pen_down(false);
        const QRect used = leaf_rect(live_.box().grown(widest_mark(live_.pen)), 3).toAlignedRect();
        QPainter painter(&overlay_);
        painter.setCompositionMode(QPainter::CompositionMode_Clear);
        painter.fillRect(used, Qt::transparent);
        painter.end();
        const StrokeId written = session_.editing().write(std::move(live_));
        live_ = {};
        if (!eraser_.scribbles || !scribble_out(written)) follow_proof_mark(written);
        emit pen_lifted();
    } else if (was == Tool::eraser && !erased_.empty()) {
        std::vector<Stroke> pieces;
        for (auto& [id, piece] : pieces_) pieces.push_back(std::move(piece));
        session_.editing().change({"Erase", {std::move(pieces)}, {std::move(erased_)}});
        erased_.clear();
        pieces_.clear();
        emit erased();
    }
}

void InkLeaf::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    // Where there is a pen, fingers move the page; while it is near, the hand that rests does nothing.
    const bool touch = event->device() && event->device()->type() == QInputDevice::DeviceType::TouchScreen;
    if (touch && pen_near_.isActive()) return;
    if (touch && hand_rest_->area().contains(event->position().toPoint())) return;
    const bool pan = (touch && pen_felt_) || event->button() == Qt::MiddleButton ||
                     (event->button() == Qt::LeftButton && tool_ == Tool::choose);
    if (pan) {
        panning_ = true;
        moved_ = false;
        last_px_ = event->position();
    } else if (event->button() == Qt::RightButton) {
        emit word_chosen(word_at(event->position()));
    } else if (event->button() == Qt::LeftButton && !lens_area_.empty() && event->modifiers() & Qt::AltModifier) {
        const QPointF mm = view_.to_page(event->position());
        emit lens_wanted({mm.x(), mm.y()});
    } else if (event->button() == Qt::LeftButton) {
        begin(tool_, {event->position()});
    }
}

void InkLeaf::mouseMoveEvent(QMouseEvent* event) {
    if (panning_) {
        const QPointF by = event->position() - last_px_;
        if (!moved_ && QPointF::dotProduct(by, by) < kClickSlopPx * kClickSlopPx) return;
        moved_ = true;
        last_px_ = event->position();
        view_.pan(by);
    } else if (active_ && event->buttons() & Qt::LeftButton) {
        go_on({event->position()});
    } else if (tool_ == Tool::lasso) {
        setCursor(cursor_of(crop_.open() ? crop_.grip_at(event->position(), view_)
                                         : selection_.grip_at(event->position(), view_)));
    }
}

void InkLeaf::mouseReleaseEvent(QMouseEvent* event) {
    if (panning_) {
        panning_ = false;
        if (!moved_ && event->button() == Qt::LeftButton) emit word_chosen(word_at(event->position()));
    } else if (event->button() == Qt::LeftButton) {
        end();
    }
}

void InkLeaf::tabletEvent(QTabletEvent* event) {
    pen_felt_ = true;
    pen_near_.start(kPenNearMs);
    // A driver may send what is no number.
    const auto number = [](double value, double otherwise) { return std::isfinite(value) ? value : otherwise; };
    if (!std::isfinite(event->position().x()) || !std::isfinite(event->position().y())) return event->accept();
    const double pressed = std::pow(std::clamp(number(event->pressure(), 0.5), 0.0, 1.0), tablet_.pressure_curve);
    const Sample sample{event->position(), static_cast<float>(pressed), static_cast<float>(number(event->xTilt(), 0)),
                        static_cast<float>(number(event->yTilt(), 0))};
    const bool eraser_end = event->pointerType() == QPointingDevice::PointerType::Eraser;
    const bool barrel = !eraser_end && (event->buttons() & (Qt::RightButton | Qt::MiddleButton));
    const ButtonDoes does = eraser_end ? tablet_.eraser_end : barrel ? tablet_.barrel : ButtonDoes::nothing;
    switch (event->type()) {
        case QEvent::TabletPress:
            if (does == ButtonDoes::moves_page) {
                panning_ = moved_ = true;
                last_px_ = sample.at;
                break;
            }
            if (tool_ == Tool::choose && does == ButtonDoes::nothing) {
                event->ignore();  // comes again as a mouse press
                return;
            }
            begin(does == ButtonDoes::erases    ? Tool::eraser
                  : does == ButtonDoes::lassoes ? Tool::lasso
                                                : tool_,
                  sample);
            break;
        case QEvent::TabletMove:
            if (panning_) {
                view_.pan(sample.at - last_px_);
                last_px_ = sample.at;
                break;
            }
            if (!active_) {
                event->ignore();
                return;
            }
            go_on(sample);
            break;
        case QEvent::TabletRelease:
            if (panning_) {
                panning_ = false;
                break;
            }
            if (!active_) {
                event->ignore();
                return;
            }
            end();
            break;
        default:
            break;
    }
    event->accept();
}

void InkLeaf::wheelEvent(QWheelEvent* event) {
    if (lens_) return event->ignore();
    if (event->modifiers() & Qt::ControlModifier) {
        fitted_ = false;
        view_.zoom(std::pow(kWheelStep, event->angleDelta().y() / 120.0), event->position());
    } else {
        QPointF by = event->pixelDelta().isNull() ? QPointF(event->angleDelta()) * 0.6 : QPointF(event->pixelDelta());
        if (event->modifiers() & Qt::ShiftModifier) by = {by.y(), by.x()};
        view_.pan(by);
    }
    event->accept();
}

bool InkLeaf::event(QEvent* event) {
    if (event->type() == QEvent::NativeGesture) {
        const auto* gesture = static_cast<QNativeGestureEvent*>(event);
        if (gesture->gestureType() == Qt::ZoomNativeGesture) {
            fitted_ = false;
            view_.zoom(1 + gesture->value(), gesture->position());
            return true;
        }
    }
    return QWidget::event(event);
}

void InkLeaf::keyPressEvent(QKeyEvent* event) {
    if (crop_.open() && crop_key(event)) return;
    if (selection_key(event)) return;
    const double step = 60;
    switch (event->key()) {
        case Qt::Key_Up:
            view_.pan({0, step});
            break;
        case Qt::Key_Down:
            view_.pan({0, -step});
            break;
        case Qt::Key_Left:
            view_.pan({step, 0});
            break;
        case Qt::Key_Right:
            view_.pan({-step, 0});
            break;
        case Qt::Key_Home:
            view_.set(view_.scale(), {view_.origin().x(), kDeskMarginPx});
            break;
        case Qt::Key_End:
            view_.pan({0, -1e6});
            break;
        case Qt::Key_Plus:
        case Qt::Key_Equal:
            fitted_ = false;
            view_.zoom(kWheelStep, rect().center());
            break;
        case Qt::Key_Minus:
            fitted_ = false;
            view_.zoom(1 / kWheelStep, rect().center());
            break;
        default:
            QWidget::keyPressEvent(event);
    }
}

}  // namespace fernleaf
