// From drawn ink to fair shapes.
#pragma once

#include <QObject>
#include <vector>

#include "desk/desk.h"
#include "drawing/arranging.h"

namespace fernleaf {

// UI thread only, but for what it posts to the reader's.
class DrawingDesk : public Desk {
    Q_OBJECT

public:
    explicit DrawingDesk(const DeskParts& parts, QObject* parent = nullptr) : Desk(parts, parent) {}

    // Ink of the open page (none: all that is drawn on it) becomes shapes in its place: one step of undo. The way back
    // is TypesettingDesk::back_to_ink().
    void draw_fair(const std::vector<StrokeId>& ink);

    // Puts the figures of a diagram that is drawn fair (of what is chosen; none: of the page) in order: one step of
    // undo.
    void arrange(const std::vector<ElementId>& chosen, Arrangement arrangement);

signals:
    void drawn(const std::vector<ElementId>& shapes);
};

}  // namespace fernleaf
