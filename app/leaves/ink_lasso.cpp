// The ink leaf's lasso: choosing ink, and what can be done with it.
#include <QClipboard>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QMimeData>
#include <set>

#include "exchange/inkml.h"
#include "ink/nib.h"
#include "leaves/ink_leaf.h"
#include "render/stroke_look.h"

namespace fernleaf {
namespace {

constexpr double kTapPx = 5;  // a lasso that stays within this is a tap
constexpr double kClosestLassoMm = 0.3;
constexpr double kNudgeMm = 0.5, kFarNudgeMm = 5;
constexpr double kTapReachMm = 1.5;
constexpr double kPictureDpi = 300;
constexpr int kLargestPicturePx = 8000;
constexpr qsizetype kLargestPasteBytes = 64'000'000;
const QString kInkType = QStringLiteral("application/inkml+xml");

// Ink on the clipboard, put into words only when somebody asks.
class CopiedInk : public QMimeData {
public:
    CopiedInk(std::vector<Stroke> strokes, const QString& text) : strokes_(std::move(strokes)) {
        if (!text.isEmpty()) setText(text);
    }
    bool hasFormat(const QString& type) const override { return type == kInkType || QMimeData::hasFormat(type); }
    QStringList formats() const override { return QStringList(kInkType) + QMimeData::formats(); }

protected:
    QVariant retrieveData(const QString& type, QMetaType as) const override {
        if (type != kInkType) return QMimeData::retrieveData(type, as);
        Page page;
        page.strokes = strokes_;
        return QByteArray::fromStdString(write_inkml({page}));
    }

private:
    std::vector<Stroke> strokes_;
};

}  // namespace

void InkLeaf::update_selection() {
    const QRectF area = selection_.painted(view_);
    if (!area.isNull()) update(area.toAlignedRect());
}

void InkLeaf::select(const std::vector<StrokeId>& ids) {
    update_selection();
    std::vector<Stroke> chosen;
    if (session_.page() && !ids.empty()) {
        const std::set<StrokeId> wanted(ids.begin(), ids.end());
        for (const Stroke& s : session_.page()->strokes)
            if (wanted.contains(s.id)) chosen.push_back(s);
    }
    const bool was_empty = selection_.empty();
    selection_.choose(std::move(chosen));
    update_selection();
    if (!was_empty || !selection_.empty()) emit selection_changed();
}

void InkLeaf::select_all() {
    if (!session_.page()) return;
    std::vector<StrokeId> ids;
    for (const Stroke& s : session_.page()->strokes) ids.push_back(s.id);
    select(ids);
}

void InkLeaf::clear_selection() {
    taps_ = 0;
    if (!selection_.empty()) select({});
}

void InkLeaf::begin_lasso(const Sample& sample, bool rectangle) {
    const QPointF mm = view_.to_page(sample.at);
    const Point at{mm.x(), mm.y()};
    lasso_ = {at};
    lasso_rectangle_ = rectangle;
    if (const Grip grip = selection_.grip_at(sample.at, view_); grip != Grip::none && !session_.read_only()) {
        selection_.begin(grip, at, view_, devicePixelRatioF());
        return;
    }
    clear_selection();
}

void InkLeaf::lasso_to(const Sample& sample) {
    const QPointF mm = view_.to_page(sample.at);
    const Point at{mm.x(), mm.y()};
    if (selection_.changing()) {
        // The ink leaves its place when it is first moved, not when it is touched.
        if (selection_.change() == Affine{}) {
            tiles_.apply({"Move", {}, selection_.strokes(), {}, {}});
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
        select(strokes_within(session_.page()->strokes, lasso));
    update();
}

// A tap takes the word there; tapped again, its line; and again, its paragraph. Ink that is no word is taken by the
// stroke.
void InkLeaf::tap(QPointF px) {
    const QPointF mm = view_.to_page(px);
    const bool again = selection_.grip_at(px, view_) != Grip::none;
    taps_ = again ? taps_ + 1 : 1;
    const int taps = taps_;
    std::vector<StrokeId> ids;
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
        for (const Stroke& s : session_.page()->strokes)
            if (touches(s, {mm.x(), mm.y()}, kTapReachMm)) ids = {s.id};
    select(ids);
    taps_ = taps;
}

void InkLeaf::replace_selection(std::vector<Stroke> strokes, const char* label) {
    Edit edit{label, {}, selection_.strokes(), {}, {}};
    std::vector<StrokeId> ids;
    for (Stroke& s : strokes) {
        const StrokeId before = s.id;
        if (s.order == 0) s.order = before;
        s.id = session_.new_stroke_id();
        edit.followed.emplace_back(before, s.id);
        ids.push_back(s.id);
    }
    edit.added = std::move(strokes);
    const int taps = taps_;
    session_.change(std::move(edit));
    select(ids);
    taps_ = taps;
    update();
}

void InkLeaf::move_selection(const Affine& by, const char* label) {
    if (selection_.empty() || !session_.may_change()) return;
    std::vector<Stroke> moved;
    for (const Stroke& s : selection_.strokes()) {
        moved.push_back(transformed(s, by));
        moved.back().pen.width_mm = std::clamp(moved.back().pen.width_mm, 0.05F, 10.0F);
    }
    replace_selection(std::move(moved), label);
}

void InkLeaf::change_pens(const std::function<Pen(Pen)>& change, const char* label) {
    if (selection_.empty() || !session_.may_change()) return;
    std::vector<Stroke> changed = selection_.strokes();
    for (Stroke& s : changed) s.pen = change(s.pen);
    replace_selection(std::move(changed), label);
}

void InkLeaf::reorder_selection(bool to_front) {
    if (selection_.empty() || !session_.may_change()) return;
    std::vector<Stroke> changed = selection_.strokes();
    const auto& all = session_.page()->strokes;
    const auto place = [](const Stroke& s) { return s.order != 0 ? s.order : s.id; };
    // Before all: numbers not given to any stroke yet. Behind all: below the lowest, and below 0, which means the id.
    int64_t lowest = std::min<int64_t>(place(all.front()), 0) - std::ssize(changed) - 1;
    for (Stroke& s : changed) s.order = to_front ? session_.new_stroke_id() : ++lowest;
    replace_selection(std::move(changed), to_front ? "Bring to the front" : "Send to the back");
}

void InkLeaf::delete_selection(const char* label) {
    if (selection_.empty() || !session_.may_change()) return;
    const std::vector<Stroke> gone = selection_.strokes();
    clear_selection();
    session_.change({label, {}, gone, {}, {}});
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
    QGuiApplication::clipboard()->setMimeData(new CopiedInk(selection_.strokes(), lines.join('\n')));
}

void InkLeaf::cut_selection() {
    if (selection_.empty() || !session_.may_change()) return;
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
    Page page;
    page.strokes = selection_.strokes();
    paint_content(painter, page, {}, light_page(), box);
    painter.end();
    QGuiApplication::clipboard()->setImage(image);
}

void InkLeaf::paste() {
    if (!session_.page() || !session_.may_change()) return;
    const QMimeData* copied = QGuiApplication::clipboard()->mimeData();
    const QByteArray ink = copied ? copied->data(kInkType) : QByteArray();
    if (ink.isEmpty()) return emit session_.notice(tr("There is no ink to paste."));
    if (ink.size() > kLargestPasteBytes)
        return emit session_.problem(tr("What was copied is too large to be put here."));
    // Where the pointer is, else in the middle of what is seen.
    QPointF px = mapFromGlobal(QPointF(QCursor::pos()));
    if (!rect().contains(px.toPoint())) px = rect().center();
    const QPointF mm = view_.to_page(px);
    const PageInfo& info = session_.page()->info;
    session_.paste(ink, {std::clamp(mm.x(), 0.0, info.width_mm), std::clamp(mm.y(), 0.0, info.height_mm)});
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
                tiles_.apply({"Move", selection_.strokes(), {}, {}, {}});
                active_.reset();
                lasso_.clear();
            }
            return clear_selection(), update(), true;
        default:
            return false;
    }
}

}  // namespace fernleaf
