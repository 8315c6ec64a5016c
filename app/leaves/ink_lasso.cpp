// The ink leaf's lasso: choosing ink, and what can be done with it.
#include <QClipboard>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QMimeData>
#include <set>

#include "exchange/inkml.h"
#include "leaves/ink_leaf.h"
#include "render/text_look.h"
#include "store/codec.h"

namespace fernleaf {
namespace {

constexpr double kTapPx = 5;  // a lasso that stays within this is a tap
constexpr double kClosestLassoMm = 0.3;
constexpr double kNudgeMm = 0.5, kFarNudgeMm = 5;
constexpr double kTapReachMm = 1.5;
constexpr double kPictureDpi = 300;
constexpr int kLargestPicturePx = 8000;
constexpr qsizetype kLargestPasteBytes = 64'000'000;
constexpr qsizetype kLongestPastedText = 20'000;
constexpr double kTextMarginMm = 8;
constexpr double kPastedWidthMm = 90;
const QString kInkType = QStringLiteral("application/inkml+xml");
const QString kElementsType = QStringLiteral("application/x-fernleaf-elements+json");

// What was copied, put into words only when somebody asks: ink as InkML for everyone, type and pictures as we keep
// them.
class Copied : public QMimeData {
public:
    Copied(Elements elements, const QString& text) : elements_(std::move(elements)) {
        if (!text.isEmpty()) setText(text);
    }
    bool hasFormat(const QString& type) const override { return own().contains(type) || QMimeData::hasFormat(type); }
    QStringList formats() const override { return own() + QMimeData::formats(); }

protected:
    QVariant retrieveData(const QString& type, QMetaType as) const override {
        if (!own().contains(type)) return QMimeData::retrieveData(type, as);
        if (type == kElementsType) return QByteArray::fromStdString(encode_elements(elements_));
        Page page;
        page.strokes = elements_.strokes;
        return QByteArray::fromStdString(write_inkml({page}));
    }

private:
    QStringList own() const {
        QStringList types;
        if (!elements_.strokes.empty()) types << kInkType;
        if (elements_.count() > elements_.strokes.size()) types << kElementsType;
        return types;
    }
    Elements elements_;
};

}  // namespace

void InkLeaf::update_selection() {
    const QRectF area = selection_.painted(view_);
    if (!area.isNull()) update(area.toAlignedRect());
}

void InkLeaf::select(const std::vector<int64_t>& ids) {
    update_selection();
    if (crop_.open()) update();
    crop_.close();
    const bool was_empty = selection_.empty();
    selection_.choose(session_.page() && !ids.empty() ? picked(*session_.page(), ids) : Elements{});
    update_selection();
    if (!was_empty || !selection_.empty()) emit selection_changed();
}

void InkLeaf::select_all() {
    if (!session_.page()) return;
    std::vector<ElementId> ids;
    for_each_element(*session_.page(), [&]<typename E>(const E& e) {
        if (!ElementTraits<E>::locked(e)) ids.push_back(e.id);
    });
    select(ids);
}

void InkLeaf::clear_selection() {
    taps_ = 0;
    if (!selection_.empty()) select({});
}

void InkLeaf::begin_lasso(const Sample& sample, bool rectangle) {
    const QPointF mm = view_.to_page(sample.at);
    const Point at{mm.x(), mm.y()};
    if (crop_.open()) {
        if (const Grip grip = crop_.grip_at(sample.at, view_); grip != Grip::none) return crop_.begin(grip, at);
        close_crop();
    }
    lasso_ = {at};
    lasso_rectangle_ = rectangle;
    if (const Grip grip = selection_.grip_at(sample.at, view_); grip != Grip::none && !session_.read_only()) {
        selection_.begin(grip, at, view_, devicePixelRatioF(), tiles_.scene().decoded(), tiles_.scene().scheme);
        return;
    }
    clear_selection();
}

void InkLeaf::lasso_to(const Sample& sample) {
    const QPointF mm = view_.to_page(sample.at);
    const Point at{mm.x(), mm.y()};
    if (crop_.pulling()) {
        crop_.drag_to(at);
        return update();
    }
    if (selection_.changing()) {
        // The ink leaves its place when it is first moved, not when it is touched.
        if (selection_.change() == Affine{}) {
            tiles_.apply({"Move", {}, selection_.chosen()});
            emit selection_changed();  // the bar makes way
            update();
        }
        update_selection();
        selection_.drag_to(at, QGuiApplication::keyboardModifiers() & Qt::ShiftModifier);
        update_selection();
        return;
    }
    if (lasso_rectangle_) {
        const Point first = lasso_.front();
        lasso_ = {first, {at.x, first.y}, at, {first.x, at.y}};
    } else if (distance(lasso_.back(), at) >= kClosestLassoMm) {
        lasso_.push_back(at);
    }
    update();
}

void InkLeaf::end_lasso() {
    if (crop_.pulling()) {
        crop_.end();
        return keep_crop();
    }
    const std::vector<Point> lasso = std::move(lasso_);
    lasso_.clear();
    Box drawn;
    for (const Point p : lasso) drawn.include(p);
    if (selection_.changing()) {
        const Affine by = selection_.change();
        update_selection();
        selection_.cancel();
        if (by == Affine{})
            tap(last_px_);
        else
            move_selection(by, "Move");
        return;
    }
    if (std::max(drawn.width(), drawn.height()) * view_.scale() < kTapPx)
        tap(last_px_);
    else
        select(ids_of(within(*session_.page(), lasso)));
    update();
}

// A tap takes the word there; tapped again, its line; and again, its paragraph. Ink that is no word is taken by the
// stroke, type by the block.
void InkLeaf::tap(QPointF px) {
    const QPointF mm = view_.to_page(px);
    const bool again = selection_.grip_at(px, view_) != Grip::none;
    taps_ = again ? taps_ + 1 : 1;
    const int taps = taps_;
    std::vector<int64_t> ids;
    if (const WordPlace place = word_at(px); place.valid()) {
        const auto& lines = session_.reading().lines;
        const ReadLine& line = lines[static_cast<size_t>(place.line)];
        for (const ReadLine& other : lines)
            for (const ReadWord& word : other.words) {
                const bool taken = taps == 1   ? &word == session_.word(place)
                                   : taps == 2 ? &other == &line
                                               : other.region == line.region;
                if (taken) ids.insert(ids.end(), word.strokes.begin(), word.strokes.end());
            }
    }
    if (ids.empty() && session_.page())
        if (const ElementId id = element_at(*session_.page(), {mm.x(), mm.y()}, kTapReachMm); id != 0) ids = {id};
    select(ids);
    taps_ = taps;
}

void InkLeaf::replace_selection(Elements elements, const char* label) {
    Edit edit{label, {}, selection_.chosen()};
    edit.replacements = renew(elements, [this] { return session_.editing().new_id(); });
    for (TextBlock& t : elements.texts) lay_out(t);
    const std::vector<int64_t> ids = ids_of(elements);
    edit.added = std::move(elements);
    const int taps = taps_;
    session_.editing().change(std::move(edit));
    select(ids);
    taps_ = taps;
    update();
}

void InkLeaf::move_selection(const Affine& by, const char* label) {
    if (selection_.empty() || selection_.locked() || !session_.editing().may_change()) return;
    Elements moved = transformed(selection_.chosen(), by);
    for (Stroke& s : moved.strokes) s.pen.width_mm = std::clamp(s.pen.width_mm, 0.05F, 10.0F);
    replace_selection(std::move(moved), label);
}

void InkLeaf::change_pens(const std::function<Pen(Pen)>& change, const char* label) {
    if (selection_.empty() || !session_.editing().may_change()) return;
    Elements changed = selection_.chosen();
    for (Stroke& s : changed.strokes) s.pen = change(s.pen);
    replace_selection(std::move(changed), label);
}

void InkLeaf::recolour_selection(uint32_t colour) {
    if (selection_.empty() || !session_.editing().may_change()) return;
    Elements changed = selection_.chosen();
    set_colour(changed, colour);
    replace_selection(std::move(changed), "Change colour");
}

void InkLeaf::reorder_selection(bool to_front) {
    if (selection_.empty() || !session_.editing().may_change()) return;
    Elements changed = selection_.chosen();
    const Elements& all = *session_.page();
    // Before all: numbers not given to any element yet. Behind all: below the lowest, and below 0, which means the id.
    for_each_list(changed, [&]<typename E>(std::vector<E>& chosen) {
        if (chosen.empty()) return;
        const int64_t lowest = std::min<int64_t>(z_of(all.of<E>().front()), 0) - std::ssize(chosen) - 1;
        for (int64_t n = 0; E & e : chosen) e.z = to_front ? counter_of(session_.editing().new_id()) : lowest + ++n;
    });
    replace_selection(std::move(changed), to_front ? "Bring to the front" : "Send to the back");
}

void InkLeaf::change_dividers(const std::function<void(Divider&)>& change) {
    if (selection_.empty() || !session_.editing().may_change()) return;
    Elements changed = selection_.chosen();
    for (Divider& d : changed.dividers) change(d);
    replace_selection(std::move(changed), "Change the divider");
}

void InkLeaf::lock_selection(bool locked) {
    if (selection_.chosen().pictures.empty() || !session_.editing().may_change()) return;
    Elements changed = selection_.chosen();
    for (Picture& p : changed.pictures) p.locked = locked;
    replace_selection(std::move(changed), locked ? "Lock" : "Unlock");
}

bool InkLeaf::may_crop() const {
    const Elements& chosen = selection_.chosen();
    return chosen.count() == 1 && chosen.pictures.size() == 1 && !selection_.locked();
}

void InkLeaf::crop_selection() {
    if (crop_.open()) return close_crop();
    if (!may_crop() || !session_.editing().may_change()) return;
    crop_.show(selection_.chosen().pictures.front());
    emit selection_changed();
    update();
}

// Each pull is a step of undo; the frame goes on with what came of it.
void InkLeaf::keep_crop() {
    if (crop_.picture() == selection_.chosen().pictures.front()) return;
    Elements changed;
    changed.pictures = {crop_.picture()};
    replace_selection(std::move(changed), "Crop");
    if (may_crop()) crop_.show(selection_.chosen().pictures.front());
    emit selection_changed();
    update();
}

void InkLeaf::close_crop() {
    crop_.close();
    emit selection_changed();
    update();
}

// Arrows move the right and the lower side, with Alt the left and the upper one.
bool InkLeaf::crop_key(QKeyEvent* event) {
    const bool far = event->modifiers() & Qt::ShiftModifier, other = event->modifiers() & Qt::AltModifier;
    const double step = far ? kFarNudgeMm : kNudgeMm;
    const auto nudge = [&](Grip side, double by) {
        crop_.nudge(side, by);
        keep_crop();
        return true;
    };
    switch (event->key()) {
        case Qt::Key_Left:
            return nudge(other ? Grip::left : Grip::right, other ? step : -step);
        case Qt::Key_Right:
            return nudge(other ? Grip::left : Grip::right, other ? -step : step);
        case Qt::Key_Up:
            return nudge(other ? Grip::top : Grip::bottom, other ? step : -step);
        case Qt::Key_Down:
            return nudge(other ? Grip::top : Grip::bottom, other ? -step : step);
        case Qt::Key_Return:
        case Qt::Key_Enter:
        case Qt::Key_Escape:
            close_crop();
            return true;
        default:
            return false;
    }
}

void InkLeaf::delete_selection(const char* label) {
    if (selection_.empty() || selection_.locked() || !session_.editing().may_change()) return;
    Elements gone = selection_.chosen();
    clear_selection();
    session_.editing().change({label, {}, std::move(gone)});
}

void InkLeaf::copy_selection() {
    if (selection_.empty()) return;
    QStringList lines;
    for (const ReadLine& line : session_.reading().lines) {
        QStringList words;
        for (const ReadWord& word : line.words)
            if (!word.strokes.empty() && selection_.contains(word.strokes.front()))
                words << QString::fromStdString(word.text);
        if (!words.isEmpty()) lines << words.join(' ');
    }
    for_each_element(selection_.chosen(), [&]<typename E>(const E& e) {
        if (const std::string text = ElementTraits<E>::plain_text(e); !text.empty())
            lines << QString::fromStdString(text);
    });
    QGuiApplication::clipboard()->setMimeData(new Copied(selection_.chosen(), lines.join('\n')));
}

void InkLeaf::cut_selection() {
    if (selection_.empty() || !session_.editing().may_change()) return;
    copy_selection();
    delete_selection("Cut");
}

void InkLeaf::copy_as_picture() {
    if (selection_.empty()) return;
    const Box box = selection_.box().grown(1);
    const double px = std::min(kPictureDpi / kMmPerInch, kLargestPicturePx / std::max(box.width(), box.height()));
    QImage image(static_cast<int>(std::ceil(box.width() * px)), static_cast<int>(std::ceil(box.height() * px)),
                 QImage::Format_ARGB32_Premultiplied);
    image.fill(light_page().paper);
    QPainter painter(&image);
    painter.scale(px, px);
    painter.translate(-box.left, -box.top);
    paint_elements(painter, selection_.chosen(), {light_page(), tiles_.scene().decoded(), box});
    painter.end();
    QGuiApplication::clipboard()->setImage(image);
}

Point InkLeaf::place_for_new() const {
    QPointF px = mapFromGlobal(QPointF(QCursor::pos()));
    if (!rect().contains(px.toPoint())) px = rect().center();
    return page_place(px);
}

Point InkLeaf::page_place(QPointF px) const {
    const QPointF mm = view_.to_page(px);
    const Sheet& sheet = session_.page()->info;
    return {std::clamp(mm.x(), 0.0, sheet.width_mm), std::clamp(mm.y(), 0.0, sheet.height_mm)};
}

void InkLeaf::set_selection_in_type(TypePlace place, const std::string& language) {
    std::vector<StrokeId> ink;
    for (const Stroke& s : selection_.chosen().strokes) ink.push_back(s.id);
    if (!ink.empty()) session_.typesetting().set_in_type({place, ink, language});
}

void InkLeaf::paste() {
    if (!session_.page() || !session_.editing().may_change()) return;
    const QMimeData* copied = QGuiApplication::clipboard()->mimeData();
    if (!copied) return;
    const Point at = place_for_new();
    const QByteArray ink = copied->data(kInkType), elements = copied->data(kElementsType);
    if (ink.size() > kLargestPasteBytes || elements.size() > kLargestPasteBytes)
        return session_.messages().tell_problem(tr("What was copied is too large to be put here."));
    if (!ink.isEmpty() || !elements.isEmpty()) return session_.transfers().paste(ink, elements, at);
    if (copied->hasImage()) return session_.pictures().add_picture(qvariant_cast<QImage>(copied->imageData()), at);
    if (copied->hasText() && copied->text().size() > kLongestPastedText)
        return session_.messages().tell_problem(tr("That text is too long for a page."));
    if (copied->hasText() && !copied->text().trimmed().isEmpty()) return paste_text(copied->text(), at);
    session_.messages().tell(tr("There is nothing to paste: no ink, no picture and no text was copied."));
}

void InkLeaf::paste_text(const QString& text, Point at) {
    TextBlock block;
    const double edge = session_.page()->info.width_mm - kTextMarginMm;
    block.id = session_.editing().new_id();
    block.width_mm = std::min(kPastedWidthMm, session_.page()->info.width_mm - 2 * kTextMarginMm);
    block.at = {std::max(kTextMarginMm, std::min(at.x, edge - block.width_mm)), at.y};
    for (const QString& line : text.split('\n')) block.paragraphs.push_back({{{line.trimmed().toStdString(), {}}}});
    lay_out(block);
    session_.editing().add({{}, {}, {std::move(block)}}, "Paste");
}

bool InkLeaf::selection_key(QKeyEvent* event) {
    if (event->matches(QKeySequence::Paste)) return paste(), true;
    if (event->matches(QKeySequence::SelectAll)) return select_all(), true;
    if (selection_.empty()) return false;
    if (event->matches(QKeySequence::Copy)) return copy_selection(), true;
    if (event->matches(QKeySequence::Cut)) return cut_selection(), true;
    const double step = event->modifiers() & Qt::ShiftModifier ? kFarNudgeMm : kNudgeMm;
    const auto nudge = [&](double x, double y) { move_selection(Affine::shift({x * step, y * step}), "Move"); };
    switch (event->key()) {
        case Qt::Key_Up:
            return nudge(0, -1), true;
        case Qt::Key_Down:
            return nudge(0, 1), true;
        case Qt::Key_Left:
            return nudge(-1, 0), true;
        case Qt::Key_Right:
            return nudge(1, 0), true;
        case Qt::Key_Delete:
        case Qt::Key_Backspace:
            return delete_selection(), true;
        case Qt::Key_Escape:
            if (selection_.changing()) {
                tiles_.apply({"Move", selection_.chosen(), {}});
                active_.reset();
                lasso_.clear();
            }
            return clear_selection(), update(), true;
        default:
            return false;
    }
}

}  // namespace fernleaf
