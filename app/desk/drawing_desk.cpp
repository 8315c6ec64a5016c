#include "desk/drawing_desk.h"

#include <set>

#include "drawing/fair_drawing.h"

namespace fernleaf {

void DrawingDesk::draw_fair(const std::vector<StrokeId>& ink) {
    if (!document_.page() || !editing_.may_change()) return;
    if (!readings_.can_read())
        return messages_.tell_problem(tr("Handwriting can't be read here, so nothing can be drawn fair."));
    reader_thread_.post([this, ink, mirror = readings_.mirror(), reading = readings_.shared_reading(),
                         corrections = readings_.corrections(), edition = document_.edition()] {
        const Reading fresh = readings_.read_fresh(*mirror, *reading, corrections, {});
        const std::set<StrokeId> chosen(ink.begin(), ink.end());
        auto fair = std::make_shared<FairDrawing>(drawn_fair(mirror->strokes, fresh, chosen.empty() ? nullptr : &chosen,
                                                             mirror->shapes, [this] { return editing_.new_id(); }));
        QMetaObject::invokeMethod(
            this,
            [this, fair = std::move(fair), ink, id = mirror->info.id, edition] {
                if (!document_.is_open(id)) return;
                if (fair->shapes.empty())
                    return messages_.tell(ink.empty() ? tr("No drawing was found on this page. To draw single strokes "
                                                           "fair, choose them with the lasso.")
                                                      : tr("No shapes were found in what is chosen."));
                if (edition != document_.edition()) return draw_fair(ink);  // drawn on meanwhile: once more
                Edit edit{"Draw fair"};
                edit.removed.strokes = std::move(fair->ink);
                for (FairShape& shape : fair->shapes) shape.id = editing_.new_id();
                edit.added.shapes = std::move(fair->shapes);
                const std::vector<ElementId> ids = ids_of(edit.added);
                editing_.change(std::move(edit));
                emit drawn(ids);
            },
            Qt::QueuedConnection);
    });
}

void DrawingDesk::arrange(const std::vector<ElementId>& chosen, Arrangement arrangement) {
    if (!document_.page() || !editing_.may_change()) return;
    reader_thread_.post([this, chosen, arrangement, mirror = readings_.mirror(), reading = readings_.shared_reading(),
                         edition = document_.edition()] {
        auto edit = std::make_shared<Result<Edit>>(fernleaf::arranged(
            *mirror, *reading, {chosen.begin(), chosen.end()}, arrangement, [this] { return editing_.new_id(); }));
        QMetaObject::invokeMethod(
            this,
            [this, edit = std::move(edit), chosen, arrangement, id = mirror->info.id, edition] {
                if (!document_.is_open(id)) return;
                if (!*edit) return messages_.tell_problem(edit->error());
                if (edition != document_.edition()) return arrange(chosen, arrangement);  // changed meanwhile
                std::vector<ElementId> ids = ids_of((*edit)->added);
                editing_.change(*std::move(*edit));
                emit drawn(ids);
            },
            Qt::QueuedConnection);
    });
}

}  // namespace fernleaf
