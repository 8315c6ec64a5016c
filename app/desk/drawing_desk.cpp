#include "desk/drawing_desk.h"

#include <QSettings>
#include <algorithm>
#include <set>

#include "drawing/fair_drawing.h"

namespace fernleaf {

namespace {

constexpr int kPauseMs = 900;      // a head may follow its shaft
constexpr uint32_t kRestMs = 350;  // that a pen is held still
constexpr double kStillMm = 0.7;

// Whether the pen was held still before it was lifted.
bool rested(const Stroke& stroke) {
    const InkPoint& last = stroke.points.back();
    uint32_t since = last.time_ms;
    for (size_t i = stroke.points.size(); i-- > 0;) {
        if (distance(stroke.points[i].at, last.at) > kStillMm) break;
        since = stroke.points[i].time_ms;
    }
    return last.time_ms - since >= kRestMs;
}

}  // namespace

DrawingDesk::DrawingDesk(const DeskParts& parts, QObject* parent)
    : Desk(parts, parent),
      while_drawing_(
          static_cast<FairWhileDrawing>(std::clamp(QSettings().value("fair while drawing", 0).toInt(), 0, 2))) {
    pause_.setSingleShot(true);
    pause_.setInterval(kPauseMs);
    connect(&pause_, &QTimer::timeout, this, [this] { draw_what_was_read(Which::all); });
    connect(&readings_, &ReadingScheduler::changed, this, [this] { draw_what_was_read(Which::figures); });
    connect(&editing_, &PageEditing::written, this, &DrawingDesk::stroke_written);
    connect(&document_, &PageDocument::opened, this, [this] { written_.clear(); });
}

void DrawingDesk::set_while_drawing(FairWhileDrawing when) {
    while_drawing_ = when;
    written_.clear();
    QSettings().setValue("fair while drawing", static_cast<int>(when));
}

void DrawingDesk::stroke_written(const Stroke& stroke) {
    if (while_drawing_ == FairWhileDrawing::off || lies_under(stroke.pen)) return;
    if (while_drawing_ == FairWhileDrawing::pen_rested && !rested(stroke)) return;
    written_.push_back(stroke.id);
    pause_.start();
}

// Of what was written lately all that was read as a figure, with certainty.
void DrawingDesk::draw_what_was_read(Which which) {
    if (!document_.page() || written_.empty()) return;
    if (readings_.in_progress() || readings_.pen_down()) {
        if (which == Which::all) pause_.start();
        return;
    }
    std::vector<StrokeId> ink;
    for (const ReadLine& line : readings_.reading().lines)
        for (const ReadShape& shape : line.shapes) {
            const bool lately = std::ranges::any_of(
                shape.strokes, [&](StrokeId id) { return std::ranges::find(written_, id) != written_.end(); });
            const bool wanted = which == Which::all || is_closed(shape.best().shape.kind);
            if (lately && wanted && shape.best().certainty >= kSureEnough)
                ink.insert(ink.end(), shape.strokes.begin(), shape.strokes.end());
        }
    std::erase_if(written_,
                  [&](StrokeId id) { return which == Which::all || std::ranges::find(ink, id) != ink.end(); });
    if (!ink.empty()) draw_fair(ink, Asked::while_drawing);
}

void DrawingDesk::draw_fair(const std::vector<StrokeId>& ink) { draw_fair(ink, Asked::by_person); }

void DrawingDesk::draw_fair(const std::vector<StrokeId>& ink, Asked asked) {
    if (!document_.page() || !editing_.may_change_page()) return;
    if (!readings_.can_read())
        return messages_.tell_problem(tr("Handwriting can't be read here, so nothing can be drawn fair."));
    reader_thread_.post([this, ink, asked, mirror = readings_.mirror(), reading = readings_.shared_reading(),
                         corrections = readings_.corrections(), edition = document_.edition()] {
        const Reading fresh = readings_.read_fresh(*mirror, *reading, corrections, {});
        const std::set<StrokeId> chosen(ink.begin(), ink.end());
        auto fair = std::make_shared<FairDrawing>(drawn_fair(mirror->strokes, fresh, chosen.empty() ? nullptr : &chosen,
                                                             mirror->shapes, [this] { return editing_.new_id(); }));
        QMetaObject::invokeMethod(
            this,
            [this, fair = std::move(fair), ink, asked, id = mirror->info.id, edition] {
                if (!document_.is_open(id)) return;
                if (fair->empty() && asked == Asked::while_drawing) return;
                if (fair->empty())
                    return messages_.tell(ink.empty() ? tr("No drawing was found on this page. To draw single strokes "
                                                           "fair, choose them with the lasso.")
                                                      : tr("No shapes were found in what is chosen."));
                if (edition != document_.edition()) return draw_fair(ink, asked);  // drawn on meanwhile: once more
                Edit edit = edit_of(std::move(*fair), [this] { return editing_.new_id(); });
                const std::vector<ElementId> ids = ids_of(edit.added);
                editing_.change(std::move(edit));
                if (asked == Asked::by_person) emit drawn(ids);
            },
            Qt::QueuedConnection);
    });
}

void DrawingDesk::draw_notebook_fair() {
    if (!document_.page() || !editing_.may_change_page()) return;
    if (!readings_.can_read())
        return messages_.tell_problem(tr("Handwriting can't be read here, so nothing can be drawn fair."));
    change_notebook(
        tr("Drawing %1 fair").arg(QString::fromStdString(document_.notebook().title)),
        [this](PageId id, const CancelToken& cancel) -> Result<Edit> {
            const auto fresh = page_read_fresh(id, cancel);
            if (!fresh) return fresh.error();
            FairDrawing fair = drawn_fair(fresh->page.strokes, fresh->reading, nullptr, fresh->page.shapes,
                                          [this] { return editing_.new_id(); });
            return edit_of(std::move(fair), [this] { return editing_.new_id(); });
        },
        [this](const NotebookChange& change) {
            const int done = static_cast<int>(change.changed.size());
            if (document_.page()) emit page_wanted(document_.page()->info.id);
            if (!change.failure.isEmpty())
                messages_.tell_problem(tr("Stopped after %n page(s). %1", nullptr, done).arg(change.failure));
            else if (change.cancelled)
                messages_.tell(tr("Cancelled. %n page(s) are already drawn fair.", nullptr, done));
            else if (done == 0)
                messages_.tell(tr("No drawings were found in this notebook."));
            else
                messages_.tell(tr("%n page(s) drawn fair. Undo works one page at a time.", nullptr, done));
        });
}

void DrawingDesk::arrange(const std::vector<ElementId>& chosen, Arrangement arrangement) {
    if (!document_.page() || !editing_.may_change_page()) return;
    reader_thread_.post([this, chosen, arrangement, mirror = readings_.mirror(), reading = readings_.shared_reading(),
                         corrections = readings_.corrections(), edition = document_.edition()] {
        // What was just changed may not be read yet.
        auto fresh = std::make_shared<PageAndReading>(
            PageAndReading{*mirror, readings_.read_fresh(*mirror, *reading, corrections, {})});
        QMetaObject::invokeMethod(
            this, [this, fresh, chosen, arrangement, edition] { arrange(fresh, chosen, arrangement, edition); },
            Qt::QueuedConnection);
    });
}

// Finding the places takes its time, in which everything goes on.
void DrawingDesk::arrange(const std::shared_ptr<const PageAndReading>& fresh, const std::vector<ElementId>& chosen,
                          Arrangement arrangement, int edition) {
    tasks_.run(
        tr("Arranging"), [this, fresh, chosen, arrangement, edition](const CancelToken& cancel, const Progress&) {
            auto edit = std::make_shared<Result<Edit>>(fernleaf::arranged(
                fresh->page, fresh->reading, {chosen.begin(), chosen.end()}, arrangement,
                [this] { return editing_.new_id(); }, cancel));
            QMetaObject::invokeMethod(
                this,
                [this, edit, chosen, arrangement, id = fresh->page.info.id, edition, cancelled = cancel.cancelled()] {
                    if (!document_.is_open(id)) return;
                    if (cancelled) return messages_.tell(tr("Cancelled. Nothing was changed."));
                    if (!*edit) return messages_.tell_problem(edit->error());
                    if (edition != document_.edition()) return arrange(chosen, arrangement);  // changed meanwhile
                    const std::vector<ElementId> ids = ids_of((*edit)->added);
                    editing_.change(*std::move(*edit));
                    emit drawn(ids);
                },
                Qt::QueuedConnection);
        });
}

}  // namespace fernleaf
