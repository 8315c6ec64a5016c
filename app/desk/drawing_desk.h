// From drawn ink to fair shapes.
#pragma once

#include <QObject>
#include <QTimer>
#include <vector>

#include "desk/desk.h"
#include "drawing/arranging.h"

namespace fernleaf {

// When figures are drawn fair without being asked for; as settings keep it.
enum class FairWhileDrawing { off = 0, pen_lifted = 1, pen_rested = 2 };

// UI thread only, but for what it posts to the reader's.
class DrawingDesk : public Desk {
    Q_OBJECT

public:
    explicit DrawingDesk(const DeskParts& parts, QObject* parent = nullptr);

    // Ink of the open page (none: all that is drawn on it) becomes shapes in its place: one step of undo. The way back
    // is TypesettingDesk::back_to_ink().
    void draw_fair(const std::vector<StrokeId>& ink);
    // All pages of the open notebook; each is a step of undo of its own.
    void draw_notebook_fair();
    // Off; or figures are drawn fair when the pen lifts, as soon as they are read, and lines a moment later, for a head
    // may follow its shaft; or only what a pen was held still at the end of. Written words are never drawn fair.
    FairWhileDrawing while_drawing() const { return while_drawing_; }
    void set_while_drawing(FairWhileDrawing when);

    // Puts the figures of a diagram that is drawn fair (of what is chosen; none: of the page) in order: one step of
    // undo.
    void arrange(const std::vector<ElementId>& chosen, Arrangement arrangement);

signals:
    void drawn(const std::vector<ElementId>& shapes);  // because a person said so
    void page_wanted(PageId page);

private:
    enum class Asked { by_person, while_drawing };
    void draw_fair(const std::vector<StrokeId>& ink, Asked asked);
    void arrange(const std::shared_ptr<const PageAndReading>& fresh, const std::vector<ElementId>& chosen,
                 Arrangement arrangement, int edition);
    void stroke_written(const Stroke& stroke);
    enum class Which { figures, all };
    void draw_what_was_read(Which which);

    FairWhileDrawing while_drawing_ = FairWhileDrawing::off;
    std::vector<StrokeId> written_;  // since figures were last looked for
    QTimer pause_;                   // until the pen has been up for a moment
};

}  // namespace fernleaf
