#include "leaves/ink_leaf.h"

#include <QGuiApplication>
#include <QMouseEvent>
#include <QNativeGestureEvent>
#include <QPainter>
#include <QTabletEvent>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "ink/nib.h"
#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr int kDeskMarginPx = 22;
constexpr int kTrayRoomPx = 64;  // below the page, so that its foot is not hidden by the tool tray
constexpr int kPenNearMs = 700;
constexpr double kWheelStep = 1.2;  // zoom for one notch
constexpr int kFlashMs = 1200;
constexpr double kFigureWashPx = 9;
constexpr double kTapReachPx = 10, kTapSlopPx = 5;

}  // namespace

InkLeaf::InkLeaf(Session& session, PageViewport& view, QWidget* parent)
    : QWidget(parent),
      session_(session),
      view_(view),
      tiles_(this),
      choosing_(*this),
      table_(*this, choosing_),
      plot_(*this, choosing_),
      editor_(new TextEditor(this, view)),
      pen_(*this),
      eraser_(*this),
      lasso_(*this, choosing_, table_, plot_),
      room_(*this),
      text_(*this, *editor_),
      choose_(*this),
      replay_(*this),
      sound_signs_(*this),
      hand_rest_(new HandRest(this)) {
    setObjectName(QStringLiteral("inkLeaf"));
    setAttribute(Qt::WA_OpaquePaintEvent);
    setTabletTracking(true);
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumWidth(200);
    setAccessibleName(tr("Ink leaf: the page as it was written"));
    PageDocument& document = session_.document();
    connect(&view_, &PageViewport::changed, this, &InkLeaf::view_changed);
    connect(&document, &PageDocument::opened, this, &InkLeaf::page_opened);
    connect(&document, &PageDocument::edited, this, &InkLeaf::page_edited);
    connect(&document, &PageDocument::redrawn, this, [this](const Edit& edit) {
        tiles_.apply(edit);
        refresh(leaf_rect(touched_by(edit), 3));
    });
    connect(&document, &PageDocument::leaving, editor_, &TextEditor::close_text);
    // What is under the pen belongs to the page it was begun on.
    connect(&document, &PageDocument::leaving, this, [this] {
        sign_.reset();
        end();
    });
    connect(&document, &PageDocument::closed, this, [this] {
        drop();
        update();
    });
    connect(&session_.pictures(), &PictureDesk::pictures_ready, this,
            [this](const std::shared_ptr<const PictureImages>& images) { tiles_.set_images(images); });
    connect(&session_.readings(), &ReadingScheduler::changed, this, [this] {
        if (chosen_.valid()) update();
    });
    connect(&tiles_, &TileStore::ready, this, [this](const QRectF& mm) { refresh(leaf_rect(box_of(mm), 1)); });
    connect(&pen_, &PenTool::acted, this, &InkLeaf::flash);
    connect(&pen_, &PenTool::typing_wanted, &text_, &TextTool::type_at);
    connect(&table_, &ChosenTable::typing_wanted, this, [this](Point at) {
        choosing_.clear();
        text_.type_at(view_.to_leaf({at.x, at.y}));
    });
    connect(&eraser_, &EraserTool::erased, this, &InkLeaf::erased);
    connect(&choose_, &ChooseTool::place_chosen, this, &InkLeaf::place_chosen);
    connect(&choose_, &ChooseTool::tapped, this, &InkLeaf::tapped_at);
    connect(&session_.listening(), &ListeningDesk::moved, this, [this] { replay_.moved(); });
    connect(&session_.listening(), &ListeningDesk::opened, this, [this] { replay_.moved(); });
    connect(&session_.pens(), &PenDesk::writing, this, &InkLeaf::show_writing);
    connect(&session_.tracks(), &TracksDesk::changed, this, [this] { sound_signs_.refresh(); });
    pen_near_.setSingleShot(true);
    flash_timer_.setSingleShot(true);
    connect(&flash_timer_, &QTimer::timeout, this, [this] { flash({}); });
    setCursor(pen_.cursor());
}

void InkLeaf::refresh(const QRectF& px) {
    if (!px.isNull()) update(px.toAlignedRect());
}

void InkLeaf::page_edited(const Edit& edit) {
    const bool other_sheet = static_cast<const Sheet&>(session_.page()->info) != tiles_.scene().sheet;
    tiles_.apply(edit);
    // The hint on an empty page comes and goes.
    if (hint_shown_ != session_.page()->empty()) update();
    if (other_sheet) {
        tiles_.set_sheet(session_.page()->info, theme().page);
        if (fitted_) fit_width();
        view_changed();
    }
    refresh(leaf_rect(touched_by(edit), 3));
    replay_.forget();
    sound_signs_.edited(edit);
    // Undo may take what is being written, or what is chosen, off the page.
    text_.page_edited(edit);
    if (std::ranges::any_of(ids_of(edit.removed), [this](ElementId id) { return selection().contains(id); }))
        choosing_.clear();
}

bool InkLeaf::focusNextPrevChild(bool next) {
    if (!table_.table()) return QWidget::focusNextPrevChild(next);
    table_.step(next ? 1 : -1);
    return true;
}

void InkLeaf::flash(const Box& mm) {
    Box changed = mm;
    changed.include(flashed_);
    flashed_ = mm;
    if (!mm.empty()) flash_timer_.start(kFlashMs);
    refresh(leaf_rect(changed, 6));
}

// What is under way comes to nothing.
void InkLeaf::drop() {
    sign_.reset();
    if (LeafTool* was = std::exchange(active_, nullptr)) was->cancel();
    choosing_.clear();
}

void InkLeaf::page_opened() {
    drop();
    chosen_ = {};
    hits_.clear();
    flashed_ = {};
    under_pen_ = {};
    tiles_.show(InkScene::of(*session_.page(), theme().page));
    replay_.forget();
    sound_signs_.refresh();
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
        replay_.forget();
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
    pen_.forget_drawn();
    update();
}

LeafTool& InkLeaf::tool_of(Tool tool) {
    switch (tool) {
        case Tool::pen:
            break;
        case Tool::eraser:
            return eraser_;
        case Tool::lasso:
            return lasso_;
        case Tool::choose:
            return choose_;
        case Tool::text:
            return text_;
        case Tool::room:
            return room_;
    }
    return pen_;
}

void InkLeaf::set_tool(Tool tool) {
    tool_ = tool;
    if (tool != Tool::text) editor_->close_text();
    if (tool != Tool::lasso) choosing_.clear();
    setCursor(tool_of(tool).cursor());
}

void InkLeaf::set_eraser(const Eraser& eraser) {
    eraser_.set_eraser(eraser);
    pen_.set_scribbles(eraser.scribbles);
    setCursor(tool_of(tool_).cursor());
}

void InkLeaf::set_chosen(ReadPlace place) {
    chosen_ = place;
    if (const ReadWord* word = session_.word(place)) scroll_to(word->box);
    if (const ReadShape* shape = session_.shape(place)) scroll_to(box_of(shape->best().shape));
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

// A broad line of colour under the ink of a chosen figure, which shows what it was taken for.
void InkLeaf::paint_figure(QPainter& painter, const Shape& shape) const {
    QColor wash = theme().act;
    wash.setAlpha(70);
    painter.setPen(QPen(wash, kFigureWashPx, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    painter.setBrush(Qt::NoBrush);
    for (const std::vector<Point>& line : outline_of(shape)) {
        QPolygonF drawn;
        for (const Point& p : line) drawn << view_.to_leaf({p.x, p.y});
        painter.drawPolyline(drawn);
    }
}

Point InkLeaf::place_for_new() {
    QPointF px = mapFromGlobal(QPointF(QCursor::pos()));
    if (!rect().contains(px.toPoint())) px = rect().center();
    return page_place(px);
}

Point InkLeaf::page_place(QPointF px) const {
    const QPointF mm = view_.to_page(px);
    const Sheet& sheet = session_.page()->info;
    return {std::clamp(mm.x(), 0.0, sheet.width_mm), std::clamp(mm.y(), 0.0, sheet.height_mm)};
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
    replay_.paint(painter);
    if (!lens_) sound_signs_.paint(painter);
    if (!under_pen_.points.empty()) {
        painter.save();
        painter.translate(view_.origin());
        painter.scale(view_.scale(), view_.scale());
        painter.setPen(Qt::NoPen);
        StrokeLook(under_pen_).draw(painter, tiles_.scene().scheme);
        painter.restore();
    }
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
    if (const ReadShape* shape = session_.shape(chosen_)) paint_figure(painter, shape->best().shape);
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
    lasso_.paint(painter);
    choosing_.paint(painter);
    room_.paint(painter);
    hand_rest_->paint_area(painter);
    pen_.paint(painter);
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

void InkLeaf::begin(Tool tool, const PenSample& sample) {
    if (!session_.page()) return;
    if (hint_shown_) update();
    emit touched();
    editor_->close_text();
    LeafTool& with = tool_of(tool);
    if (tool == Tool::text) return with.begin(sample);  // what follows is typed
    if (with.changes_page()) {
        if (!session_.editing().may_change_page()) return;
        choosing_.clear();
    }
    active_ = &with;
    with.begin(sample);
    if (tool == Tool::pen) emit pen_touched();
}

void InkLeaf::show_writing(const Stroke& so_far) {
    const Box before = drawn_box(under_pen_);
    under_pen_ = so_far;
    for (const Box& box : {before, drawn_box(under_pen_)}) refresh(leaf_rect(box, 3));
}

bool InkLeaf::press_sign(Tool tool, const PenSample& sample) {
    const auto when = lens_ ? std::nullopt : sound_signs_.at(sample.at);
    if (when) sign_ = {*when, tool, sample};
    return when.has_value();
}

void InkLeaf::go_on(const PenSample& sample) {
    if (sign_) {
        const QPointF by = sample.at - sign_->sample.at;
        if (QPointF::dotProduct(by, by) < kTapSlopPx * kTapSlopPx) return;
        const PressedSign pressed = *std::exchange(sign_, std::nullopt);
        begin(pressed.tool, pressed.sample);
    }
    if (active_) active_->go_on(sample);
}

// A card is opened.
void InkLeaf::tapped_at(QPointF px) {
    if (!session_.page()) return;
    const Point at = page_point(px);
    for (const Card& card : session_.page()->cards)
        if (covers(card, at, 0)) return session_.cards().open(card);
    hear_stroke_at(px);
}

// While something is played, tapping ink goes there.
void InkLeaf::hear_stroke_at(QPointF px) {
    ListeningDesk& desk = session_.listening();
    if (!desk.open() || !session_.page()) return;
    const double reach = kTapReachPx / view_.scale();
    const Point at = page_point(px);
    for (const Stroke& s : session_.page()->strokes)
        if (touches(s, at, reach)) return desk.go_to(s.start_ms);
}

void InkLeaf::end() {
    if (const auto pressed = std::exchange(sign_, std::nullopt))
        return session_.listening().play_from(pressed->when_ms);
    if (!active_) return;
    if (!session_.page()) return drop();
    LeafTool* was = std::exchange(active_, nullptr);
    was->end();
    if (was == &pen_) emit pen_lifted();
    if (was == &choose_) setCursor(tool_of(tool_).cursor());
}

void InkLeaf::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    // Where there is a pen, fingers move the page; while it is near, the hand that rests does nothing.
    const bool touch = event->device() && event->device()->type() == QInputDevice::DeviceType::TouchScreen;
    if (touch && pen_near_.isActive()) return;
    if (touch && hand_rest_->area().contains(event->position().toPoint())) return;
    const PenSample sample{event->position()};
    if (event->button() == Qt::LeftButton && press_sign(tool_, sample)) return;
    if (event->button() == Qt::MiddleButton) {
        active_ = &choose_;
        choose_.begin_panning(sample);
    } else if ((touch && pen_felt_) || (event->button() == Qt::LeftButton && tool_ == Tool::choose)) {
        active_ = &choose_;
        choose_.begin(sample);
    } else if (event->button() == Qt::RightButton) {
        emit place_chosen(place_at(event->position()));
    } else if (event->button() == Qt::LeftButton && !lens_area_.empty() && event->modifiers() & Qt::AltModifier) {
        emit lens_wanted(page_point(event->position()));
    } else if (event->button() == Qt::LeftButton) {
        begin(tool_, sample);
    }
}

void InkLeaf::mouseMoveEvent(QMouseEvent* event) {
    if (active_ == &choose_ || ((active_ || sign_) && event->buttons() & Qt::LeftButton))
        go_on({event->position()});
    else if (tool_ == Tool::lasso)
        setCursor(lasso_.cursor_at(event->position()));
}

void InkLeaf::mouseReleaseEvent(QMouseEvent* event) {
    if (active_ == &choose_ || event->button() == Qt::LeftButton) end();
}

void InkLeaf::tabletEvent(QTabletEvent* event) {
    pen_felt_ = true;
    pen_near_.start(kPenNearMs);
    // A driver may send what is no number.
    const auto number = [](double value, double otherwise) { return std::isfinite(value) ? value : otherwise; };
    if (!std::isfinite(event->position().x()) || !std::isfinite(event->position().y())) return event->accept();
    const double pressed = std::pow(std::clamp(number(event->pressure(), 0.5), 0.0, 1.0), tablet_.pressure_curve);
    const PenSample sample{event->position(), static_cast<float>(pressed),
                           static_cast<float>(number(event->xTilt(), 0)),
                           static_cast<float>(number(event->yTilt(), 0))};
    const bool eraser_end = event->pointerType() == QPointingDevice::PointerType::Eraser;
    const bool barrel = !eraser_end && (event->buttons() & (Qt::RightButton | Qt::MiddleButton));
    const ButtonDoes does = eraser_end ? tablet_.eraser_end : barrel ? tablet_.barrel : ButtonDoes::nothing;
    switch (event->type()) {
        case QEvent::TabletPress:
            if (does == ButtonDoes::nothing && press_sign(tool_, sample)) break;
            if (does == ButtonDoes::moves_page) {
                active_ = &choose_;
                choose_.begin_panning(sample);
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
            if (!active_ && !sign_) {
                event->ignore();
                return;
            }
            go_on(sample);
            break;
        case QEvent::TabletRelease:
            if (!active_ && !sign_) {
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
    if (tool_ == Tool::lasso && plot_.looked_into() && plot_.holds(event->position()) && !session_.read_only()) {
        plot_.zoom(event->position(), std::pow(kWheelStep, event->angleDelta().y() / 120.0));
    } else if (event->modifiers() & Qt::ControlModifier) {
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
    if (event->key() == Qt::Key_Escape && active_ == &lasso_) return drop();
    if (table_.key(event) || choosing_.key(event)) return;
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
